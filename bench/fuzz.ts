// Seeded faults in files: a third of bytes, a third of objects, a third of what pages draw. Each is read as a report is, in a
// thread of the pool; what comes out is compared with the sound file. Nothing may crash or stand still, and what is lost must
// be named: npm run bench:fuzz -- [how many] [seed].
import { createHash } from 'node:crypto';
import { mkdtemp, readdir, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { random } from '../demo/random';
import type { ReadSummary } from '../server/contract/answers';
import { mutated, type MutationKind } from '../server/testing/mutations';
import { openPool, StandsStill } from '../server/work/pool';

const [wanted, seed] = [Number(process.argv[2] ?? 5000), Number(process.argv[3] ?? 1)];
const folders = ['demo/landing-sheets', 'demo/berth-notes', 'bench/truth'];
const patience = 20_000;
const kinds: readonly MutationKind[] = ['bytes', 'objects', 'content'];

const base = await mkdtemp(join(tmpdir(), 'able-sieve-fuzz-'));
const pool = openPool(2, patience);
let unhandled = 0;
process.on('unhandledRejection', () => unhandled++);

interface Read {
  readonly print?: string;
  readonly named: boolean;
  readonly refused: boolean;
}

/** What is found in a file: its tables with their headings, page by page, and whether anything of it is named. */
async function read(name: string, bytes: Buffer): Promise<Read> {
  const file = join(base, name);
  await writeFile(file, bytes);
  const source = { file, path: name, key: '1', sha256: createHash('sha256').update(bytes).digest('hex'), cacheFolder: join(base, 'cache') };
  const answer = await pool.run('read', { source });
  await rm(file);
  if ('unreadable' in answer) return { named: true, refused: true };
  const { pageCount, tables, problems } = answer as ReadSummary;
  const words = await Promise.all(Array.from({ length: Math.min(pageCount, 12) }, (_, i) => pool.run('page', { source: { ...source, file: null }, number: i + 1 })));
  const print = words.map((page) => ('page' in page ? (page.page?.words.map(({ text }) => text).join(' ') ?? '') : ''));
  return { print: JSON.stringify([pageCount, print, tables.map(({ heading, rows }) => [heading, rows])]), named: problems.length > 0, refused: false };
}

const files: { name: string; bytes: Buffer; sound: Read }[] = [];
for (const folder of folders)
  for (const name of (await readdir(folder)).filter((each) => /^(?!broken|encrypted|big|week-3[23]).*\.pdf$/.test(each))) {
    const bytes = await readFile(join(folder, name));
    if (bytes.length < 400_000) files.push({ name, bytes, sound: await read(name, bytes) });
  }

const counts = Object.fromEntries(kinds.map((kind) => [kind, { tried: 0, pastHeader: 0, same: 0, named: 0, saidSo: 0, silent: 0, crashed: 0, stoodStill: 0 }]));
const began = process.memoryUsage().rss;
const draw = random(seed);
for (let n = 0; n < wanted; n++) {
  const { name, bytes, sound } = draw.one(files);
  const mutation = await mutated(bytes, kinds[n % 3], draw);
  const count = counts[mutation.kind];
  count.tried++;
  try {
    const { print, named, refused } = await read(`${n}-${name}`, mutation.bytes);
    if (!refused) count.pastHeader++;
    if (print === sound.print) count.same++;
    else if (named) count.named++;
    // A page that was written so says so: there is no loss to be named.
    else if (mutation.kind === 'content') count.saidSo++;
    else {
      count.silent++;
      console.log(`silent: ${name}, ${mutation.did.slice(0, 120)}`);
    }
  } catch (error) {
    if (error instanceof StandsStill) count.stoodStill++;
    else count.crashed++;
    console.log(`${error instanceof StandsStill ? 'stood still' : 'crashed'}: ${name}, ${mutation.did.slice(0, 120)}: ${(error as Error).message.slice(0, 160)}`);
  }
  if ((n + 1) % 500 === 0) console.log(`${n + 1} of ${wanted}`);
}
for (const [kind, count] of Object.entries(counts)) console.log(kind.padEnd(8), Object.entries(count).map(([what, many]) => `${what} ${many}`).join(', '));
console.log(`unhandled rejections here: ${unhandled}; memory of the process grew by ${Math.round((process.memoryUsage().rss - began) / 1e6)} MB over ${wanted} files of ${files.length} papers, seed ${seed}.`);
await pool.close();
await rm(base, { recursive: true, force: true });
