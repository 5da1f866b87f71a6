// Keeps a data folder as this build leaves it, so that later builds show that they can open it: at each release,
// npx tsx server/testing/data-folders/pack.ts NAME. With a folder behind the name, that is packed as it is: it holds `reports`,
// `data` and `dataset.csv`.
import { execFileSync } from 'node:child_process';
import { cp, mkdir, mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { brotliCompressSync, constants } from 'node:zlib';
import { programFlags } from '../../setup/engine';
import { demoFolder, demoPipeline, root } from '../demo';

const [name, given] = process.argv.slice(2);
if (!name) throw new Error('Say how it is called: pack.ts NAME [FOLDER]');
const folder = given ?? (await made());
const tar = execFileSync('tar', ['c', '-C', folder, '--exclude=lock', 'data', 'reports', 'dataset.csv'], {
  maxBuffer: 2 ** 30,
});
const packed = brotliCompressSync(tar, {
  params: {
    [constants.BROTLI_PARAM_QUALITY]: 11,
    [constants.BROTLI_PARAM_LGWIN]: 24,
    [constants.BROTLI_PARAM_SIZE_HINT]: tar.length,
  },
});
const file = join(root, 'server/testing/data-folders', `${name}.tar.br`);
await writeFile(file, packed);
console.log(`${file}: ${(packed.length / 1e6).toFixed(1)} MB`);
if (!given) await rm(folder, { recursive: true });

/** Two reports of the demo, refreshed as a user does. */
async function made(): Promise<string> {
  const into = await mkdtemp(join(tmpdir(), 'able-sieve-data-'));
  await mkdir(join(into, 'reports'));
  for (const week of ['week-22.pdf', 'week-23.pdf']) await cp(join(demoFolder, week), join(into, 'reports', week));
  const options = [
    '--reports',
    join(into, 'reports'),
    '--data',
    join(into, 'data'),
    '--out',
    join(into, 'dataset.csv'),
  ];
  execFileSync(process.execPath, [...programFlags, join(root, 'bin/able-sieve.mjs'), 'run', demoPipeline, ...options]);
  return into;
}
