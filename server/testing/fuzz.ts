// Seeded faults in files: a third of bytes, a third of objects, a third of what pages draw. Each is read as a report is, in a
// thread of the pool; what comes out is compared with the sound file.
import { createHash } from 'node:crypto';
import { mkdtemp, readdir, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { random } from '../../demo/random';
import type { ReadSummary } from '../contract/answers';
import { openPool, StandsStill, type Pool } from '../work/pool';
import { root } from './demo';
import { mutated, type MutationKind } from './mutations';

const folders = ['demo/landing-sheets', 'demo/berth-notes', 'bench/truth'];
const kinds: readonly MutationKind[] = ['bytes', 'objects', 'content'];
/** How long one may show no progress, in milliseconds. */
const patience = 20_000;
/** Words are compared on no more pages than these. */
const mostPages = 12;

/** How many of one kind were tried, how many of them were not refused at once, and what came of them. */
export interface Outcomes {
  tried: number;
  pastHeader: number;
  /** The same came out. */
  same: number;
  /** A problem names it. */
  named: number;
  /** The file is as a writer could have written it, and says so. */
  saidSo: number;
  /** Something else came out, without a word. */
  silent: number;
  crashed: number;
  stoodStill: number;
}

interface Read {
  readonly print?: string;
  readonly named: boolean;
  readonly refused: boolean;
}

/** What is found in a file: its words and tables, page by page, and whether anything of it is named. */
async function read(pool: Pool, base: string, name: string, bytes: Buffer): Promise<Read> {
  const file = join(base, name);
  await writeFile(file, bytes);
  const source = {
    file,
    path: name,
    key: '1',
    sha256: createHash('sha256').update(bytes).digest('hex'),
    cacheFolder: join(base, 'cache'),
  };
  try {
    const answer = await pool.run('read', { source });
    if ('unreadable' in answer) return { named: true, refused: true };
    const { pageCount, tables, problems } = answer as ReadSummary;
    const words = await Promise.all(
      Array.from({ length: Math.min(pageCount, mostPages) }, (_, i) =>
        pool.run('page', { source: { ...source, file: null }, number: i + 1 }),
      ),
    );
    const print = words.map((page) =>
      'page' in page ? (page.page?.words.map(({ text }) => text).join(' ') ?? '') : '',
    );
    return {
      print: JSON.stringify([pageCount, print, tables.map(({ heading, rows }) => [heading, rows])]),
      named: problems.length > 0,
      refused: false,
    };
  } finally {
    await rm(file, { force: true });
  }
}

/**
 * Tries so many seeded faults.
 * @param told hears of each that was silent, crashed or stood still
 * @returns the outcomes by kind, and how many papers they were made of
 */
export async function fuzz(
  wanted: number,
  seed: number,
  told: (line: string) => void = () => undefined,
): Promise<{ counts: Record<MutationKind, Outcomes>; papers: number }> {
  const base = await mkdtemp(join(tmpdir(), 'able-sieve-fuzz-'));
  const pool = openPool(2, patience);
  try {
    /** What is read off the sound file is worked out for those that are drawn, once. */
    const papers: { readonly name: string; readonly bytes: Buffer; sound?: Promise<Read> }[] = [];
    for (const folder of folders)
      for (const name of (await readdir(join(root, folder)))
        .filter((each) => /^(?!broken|encrypted|big|week-3[23]).*\.pdf$/.test(each))
        .sort()) {
        const bytes = await readFile(join(root, folder, name));
        if (bytes.length < 400_000) papers.push({ name, bytes });
      }
    const counts = Object.fromEntries(
      kinds.map((kind) => [
        kind,
        { tried: 0, pastHeader: 0, same: 0, named: 0, saidSo: 0, silent: 0, crashed: 0, stoodStill: 0 },
      ]),
    ) as Record<MutationKind, Outcomes>;
    const draw = random(seed);
    const one = async (n: number, paper: (typeof papers)[number], mutation: Awaited<ReturnType<typeof mutated>>) => {
      const { name, bytes } = paper;
      const count = counts[mutation.kind];
      count.tried++;
      const tell = (what: string) => told(`${what}: number ${n}, ${name}, ${mutation.did.slice(0, 120)}`);
      try {
        const sound = await (paper.sound ??= read(pool, base, name, bytes));
        const { print, named, refused } = await read(pool, base, `${n}-${name}`, mutation.bytes);
        if (!refused) count.pastHeader++;
        if (print === sound.print) count.same++;
        else if (named) count.named++;
        else if (mutation.saysSo) count.saidSo++;
        else {
          count.silent++;
          tell('silent');
        }
      } catch (error) {
        const still = error instanceof StandsStill;
        count[still ? 'stoodStill' : 'crashed']++;
        tell(`${still ? 'stood still' : 'crashed'} (${(error as Error).message.slice(0, 160)})`);
      }
    };
    // Two at a time: the threads of the pool.
    let under: Promise<void>[] = [];
    for (let n = 0; n < wanted; n++) {
      const paper = draw.one(papers);
      under.push(one(n, paper, await mutated(paper.bytes, kinds[n % 3], draw)));
      if (under.length < 2) continue;
      await Promise.all(under);
      under = [];
    }
    await Promise.all(under);
    return { counts, papers: papers.length };
  } finally {
    await pool.close();
    await rm(base, { recursive: true, force: true });
  }
}
