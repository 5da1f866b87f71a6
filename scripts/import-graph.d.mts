import type { Metafile } from 'esbuild';

export function importGraph(entryPoints: readonly string[]): Promise<Metafile['inputs']>;
