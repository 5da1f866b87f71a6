import { fileURLToPath } from 'node:url';
import { build } from 'esbuild';

const root = fileURLToPath(new URL('..', import.meta.url));

/** All sources that come with some, by following imports. */
export async function importedBy(entryPoints: string[]): Promise<string[]> {
  const { metafile } = await build({
    entryPoints,
    absWorkingDir: root,
    bundle: true,
    packages: 'external',
    platform: 'node',
    format: 'esm',
    write: false,
    metafile: true,
    outdir: 'none',
  });
  return Object.keys(metafile.inputs);
}
