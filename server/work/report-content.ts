import { readFileSync } from 'node:fs';
import { createHash } from 'node:crypto';
import type { PageContent } from '../../core/page/page';
import type { Piece } from '../../core/reading/found-table';
import { neighbourhood } from '../../core/reading/furniture';
import { TableFinder, type PageTables } from '../../core/reading/table-finder';
import type { Problem } from '../../core/sheet/problem';
import { UnreadableReport } from '../pdf/document';
import { thisBuild } from '../setup/build';
import { streamPages, type SkippedPage } from '../pdf/read-pages';
import type { ReportContent } from './content';
import { cachedName, PageCache } from './page-cache';

export interface ReportSource {
  /** Full path of the file; null: it is another now, or gone, and only what was read off it before can be had. */
  readonly file: string | null;
  readonly sha256: string;
  /** The reading that is wanted, as its stage is called; that of this build if left out. */
  readonly reading?: string | undefined;
  readonly cacheFolder: string;
  /** How problems call the report. */
  readonly path: string;
  readonly password?: string;
  /** Pages that an attempt to read the report did not come to an end with. */
  readonly skip?: readonly SkippedPage[];
  /** How long, in seconds, a page may show no progress before it is given up. */
  readonly patience?: number;
}

/** Hears of pages as they are read. */
export interface Hears {
  /** How many of how many, and what was found on those that are done. */
  readonly read?: (done: number, total: number, read: readonly PageTables[]) => void;
  /** Which page is worked on. */
  readonly begins?: (page: number) => void;
}

const cacheOf = ({ cacheFolder, sha256, reading = thisBuild.stages.reading }: ReportSource) =>
  new PageCache(cacheFolder, cachedName(sha256, reading));

/**
 * The bytes of the file, if it still is the one that was looked at.
 * Read at once, as all files are in threads of the pool: see `PageCache`.
 * @throws UnreadableReport when it is another or gone
 */
function bytesOf({ file, sha256, path, reading = thisBuild.stages.reading }: ReportSource): Buffer {
  let came = 'another one since, or none';
  if (file !== null && reading === thisBuild.stages.reading) {
    try {
      const bytes = readFileSync(file);
      if (createHash('sha256').update(bytes).digest('hex') === sha256) return bytes;
    } catch (error) {
      came = `a file that cannot be opened (${(error as NodeJS.ErrnoException).code})`;
    }
  }
  throw new UnreadableReport({
    kind: 'no such report',
    report: path,
    expected: 'the file as it was looked at',
    came,
    remedy: 'Refresh, so that the file is looked at anew.',
  });
}

/**
 * The content of a report, from the cache by (content hash, reading), or else parsed and put there.
 * @throws UnreadableReport
 */
export async function reportContent(
  source: ReportSource,
  { read: hears = () => undefined, begins = () => undefined }: Hears = {},
): Promise<{ content: ReportContent; parsed: boolean }> {
  const cache = cacheOf(source);
  const cached = await cache.all(source.patience);
  if (cached) return { content: cached, parsed: false };
  const name = source.path;
  const bytes = bytesOf(source);
  const finder = new TableFinder(begins);
  const pages: PageContent[] = [];
  const problems: Problem[] = [];
  const writer = cache.writer();
  let stream: ReturnType<typeof streamPages> | undefined;
  try {
    let total = 0;
    stream = streamPages(bytes, name, { password: source.password, skip: source.skip, begins });
    for (;;) {
      const next = await stream.next();
      if (next.done) {
        total = next.value;
        break;
      }
      if ('problem' in next.value) problems.push(next.value.problem);
      else pages.push(next.value.page);
      const read = 'page' in next.value ? finder.add(next.value.page) : [];
      await writer.add(read);
      hears(next.value.number, next.value.total, read);
    }
    const rest = finder.end();
    await writer.add(rest);
    hears(total, total, rest);
    const content: ReportContent = { pageCount: total, pages, tables: finder.tables, problems };
    writer.close(content, source.skip?.length ? source.patience : undefined);
    return { content, parsed: true };
  } catch (error) {
    await stream?.return(0);
    writer.discard();
    throw error;
  }
}

export interface ReadPage {
  readonly pageCount: number;
  readonly page: PageContent | undefined;
  readonly pieces: readonly (Piece & { readonly table: string })[];
}

/**
 * One page of a report and the pieces on it. From the cache it is read alone; of a report not read yet only this page
 * and its neighbours are parsed, so that it can be looked at while the rest is still being read.
 * @throws UnreadableReport
 */
export async function reportPage(
  source: ReportSource,
  number: number,
  begins: (page: number) => void = () => undefined,
): Promise<ReadPage> {
  const cached = await cacheOf(source).page(number);
  if (cached) return cached;
  const finder = new TableFinder(begins);
  const wanted = (page: number) => Math.abs(page - number) <= neighbourhood;
  const stream = streamPages(bytesOf(source), source.path, {
    password: source.password,
    wanted,
    skip: source.skip,
    begins,
    unchecked: true,
  });
  const read: PageTables[] = [];
  for (;;) {
    const next = await stream.next();
    if (next.done) {
      read.push(...finder.end());
      const own = read.find(({ page }) => page.number === number);
      return {
        pageCount: next.value,
        page: own?.page,
        pieces: (own?.pieces ?? []).map((piece) => ({ ...piece, table: piece.id })),
      };
    }
    if ('page' in next.value) read.push(...finder.add(next.value.page));
  }
}
