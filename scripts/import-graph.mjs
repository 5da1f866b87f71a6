import { build } from 'esbuild';
import { root } from './prepare.mjs';

/**
 * The sources that come with some, by following imports, each with what it imports itself; packages stay outside.
 * @param {readonly string[]} entryPoints paths below the root of the project
 */
export async function importGraph(entryPoints) {
  const { metafile } = await build({
    entryPoints: [...entryPoints],
    absWorkingDir: root,
    bundle: true,
    packages: 'external',
    platform: 'node',
    format: 'esm',
    write: false,
    metafile: true,
    outdir: 'none',
    logLevel: 'warning',
  });
  return metafile.inputs;
}
