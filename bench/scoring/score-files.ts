// Scores the reading in this process against files with known tables, by the measures of bench/truth/score.mjs.
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, readdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { findTables } from '../../core/reading/find-tables';
import { plainRows } from '../../core/reading/found-table';
import type { PageContent } from '../../core/page/page';
import { readPages } from '../../server/pdf/read-pages';
// @ts-expect-error The scorer is plain JavaScript.
import { scoreFile } from '../truth/score.mjs';

export interface TruthCell {
  readonly row: number;
  readonly col: number;
  readonly rowSpan?: number;
  readonly colSpan?: number;
  readonly text: string;
}

export interface TruthTable {
  readonly id: string;
  readonly page: number;
  readonly continues: string | null;
  readonly title: string | null;
  readonly headerRows: number;
  readonly optional?: boolean;
  readonly scanned?: boolean;
  readonly cells: readonly TruthCell[];
}

/** What a file of known tables says: see bench/truth/README.md. */
export interface Truth {
  readonly producer: string;
  readonly layout: string;
  readonly tags: readonly string[];
  readonly password: string | null;
  readonly error: boolean;
  readonly scanned: boolean;
  readonly pages: number;
  readonly tables: readonly TruthTable[];
}

/** How one known table was read: `f` and `bf` are adjacency F1 of the first reading and of the best offered. */
export interface ScoredTable {
  readonly id: string;
  readonly page: number;
  readonly scanned: boolean;
  readonly found: boolean;
  readonly f: number;
  readonly exact: boolean;
  readonly bf: number;
  readonly bexact: boolean;
  readonly link?: boolean;
  readonly title?: boolean;
  readonly reading?: string;
  readonly _t: TruthTable;
  readonly _p: { readonly rows: string[][]; readonly title: string | null } | null;
}

export interface ScoredFile {
  readonly name: string;
  readonly truth: Truth;
  readonly textPages: number;
  readonly tables: readonly ScoredTable[];
  readonly spurious: readonly {
    readonly page: number;
    readonly rows: number;
    readonly cols: number;
    readonly _p: { readonly rows: string[][] };
  }[];
  readonly links: readonly [right: number, wanted: number, wrong: number];
  readonly titles: readonly [right: number, wanted: number];
  /** Time for finding and reading the tables, without parsing, in milliseconds. */
  readonly time: number;
}

/** The pages of a file, parsed once: their content is kept in `cache` under the file's hash, where one is given. */
export async function pagesOf(file: string, password: string | null, cache?: string): Promise<PageContent[]> {
  const bytes = readFileSync(file);
  const kept = cache && join(cache, `${createHash('sha256').update(bytes).digest('hex')}.json`);
  if (kept && existsSync(kept)) return JSON.parse(readFileSync(kept, 'utf8'));
  const { pages } = await readPages(bytes, file, { password: password ?? undefined });
  if (kept) {
    mkdirSync(cache, { recursive: true });
    writeFileSync(kept, JSON.stringify(pages));
  }
  return [...pages];
}

export const readTruth = (folder: string, name: string): Truth =>
  JSON.parse(readFileSync(join(folder, `${name}.truth.json`), 'utf8'));

export const namesIn = (folder: string): string[] =>
  readdirSync(folder)
    .flatMap((file) => /^(.*)\.truth\.json$/.exec(file)?.[1] ?? [])
    .sort();

/** Pages with their tables as the command line gives them, held against what the truth says. */
export function scorePages(name: string, truth: Truth, pages: readonly PageContent[]): ScoredFile {
  const began = performance.now();
  const found = findTables(pages);
  const time = performance.now() - began;
  const tables = found.flatMap(({ pieces }) =>
    pieces.map((piece) => ({
      id: piece.id,
      page: piece.page,
      continues: piece.continues,
      title: piece.title ?? null,
      reading: piece.readings[0].name,
      rows: plainRows(piece.readings[0]),
      alternatives: piece.readings.slice(1).map((reading) => ({ reading: reading.name, rows: plainRows(reading) })),
    })),
  );
  const scored = scoreFile(truth, { pages: pages.length, tables });
  const scanned = new Set(truth.tables.filter((table) => truth.scanned || table.scanned).map((table) => table.page));
  return {
    name,
    truth,
    textPages: truth.scanned ? 0 : truth.pages - scanned.size,
    tables: scored.tables.filter((table: ScoredTable) => !table.scanned),
    spurious: scored.spurious.filter((table: { page: number }) => !scanned.has(table.page)),
    links: [scored.linksRight, scored.linksWanted, scored.linksFalse],
    titles: [scored.titlesRight, scored.titlesWanted],
    time,
  };
}

/** Scores all readable files of a folder whose name passes. */
export async function scoreFolder(
  folder: string,
  wanted: (name: string) => boolean,
  cache?: string,
): Promise<ScoredFile[]> {
  const scored: ScoredFile[] = [];
  for (const name of namesIn(folder).filter(wanted)) {
    const truth = readTruth(folder, name);
    if (truth.error) continue;
    scored.push(scorePages(name, truth, await pagesOf(join(folder, `${name}.pdf`), truth.password, cache)));
  }
  return scored;
}

const mean = (values: readonly number[]) => values.reduce((sum, value) => sum + value, 0) / Math.max(1, values.length);

export interface Figures {
  readonly files: number;
  readonly tables: number;
  readonly f1: number;
  readonly exact: number;
  readonly f1Offered: number;
  readonly exactOffered: number;
  readonly missed: number;
  readonly invented: number;
  readonly pages: number;
  readonly links: string;
  readonly titles: string;
}

/** The figures of a set, each file counted once. */
export function figuresOf(files: readonly ScoredFile[]): Figures {
  const read = files.filter((file) => !file.truth.scanned);
  const withTables = read.filter((file) => file.tables.length > 0);
  const perFile = (of: (table: ScoredTable) => number) => mean(withTables.map((file) => mean(file.tables.map(of))));
  const sum = (of: (file: ScoredFile) => number) => read.reduce((total, file) => total + of(file), 0);
  return {
    files: read.length,
    tables: sum((file) => file.tables.length),
    f1: perFile((table) => table.f),
    exact: perFile((table) => Number(table.exact)),
    f1Offered: perFile((table) => table.bf),
    exactOffered: perFile((table) => Number(table.bexact)),
    missed: sum((file) => file.tables.filter((table) => !table.found).length),
    invented: sum((file) => file.spurious.length),
    pages: sum((file) => file.textPages),
    links: `${sum((file) => file.links[0])}/${sum((file) => file.links[1])} (${sum((file) => file.links[2])} false)`,
    titles: `${sum((file) => file.titles[0])}/${sum((file) => file.titles[1])}`,
  };
}

const percent = (share: number) => `${(100 * share).toFixed(1)} %`;

export const figuresLine = (
  label: string,
  { files, tables, f1, exact, f1Offered, exactOffered, missed, invented, pages, links, titles }: Figures,
): string =>
  `${label.padEnd(22)} ${files} files, ${tables} tables, F1 ${f1.toFixed(3)}, exact ${percent(exact)}; offered F1 ${f1Offered.toFixed(3)}, exact ${percent(exactOffered)}; missed ${missed}, invented ${invented} on ${pages} pages; links ${links}; titles ${titles}`;
