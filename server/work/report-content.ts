import { mkdir, readFile, rename, writeFile } from 'node:fs/promises';
import { basename, join } from 'node:path';
import { promisify } from 'node:util';
import { gunzip, gzip } from 'node:zlib';
import type { PageContent } from '../../core/page/page';
import { findTables, readerVersion } from '../../core/reading/find-tables';
import type { FoundTable } from '../../core/reading/found-table';
import { at, type Problem } from '../../core/sheet/problem';
import { readPages } from '../pdf/read-pages';

/** Everything read off one file. */
export interface ReportContent {
  readonly pageCount: number;
  readonly pages: readonly PageContent[];
  readonly tables: readonly FoundTable[];
  readonly problems: readonly Problem[];
}

export interface ReportSource {
  /** Full path of the file. */
  readonly file: string;
  readonly sha256: string;
  readonly cacheFolder: string;
  readonly password?: string;
}

const cacheFile = ({ cacheFolder, sha256 }: ReportSource) => join(cacheFolder, `${sha256}-v${readerVersion}.json.gz`);

/**
 * The content of a report, from the cache by (content hash, reader version), or else parsed and put there.
 * @throws UnreadableReport
 */
export async function reportContent(source: ReportSource, progress?: (done: number, total: number) => void): Promise<{ content: ReportContent; parsed: boolean }> {
  const cached = await readFile(cacheFile(source)).catch(() => undefined);
  if (cached) {
    try {
      return { content: JSON.parse((await promisify(gunzip)(cached)).toString('utf8')) as ReportContent, parsed: false };
    } catch {
      // A cache file cut short by a crash is no reason to fail: the report is read again and the file replaced.
    }
  }
  const name = basename(source.file);
  const { pageCount, pages, problems } = await readPages(await readFile(source.file), name, { password: source.password, progress });
  const content: ReportContent = { pageCount, pages, tables: findTables(pages), problems: at({ report: name }, problems) };
  await mkdir(source.cacheFolder, { recursive: true });
  const temporary = `${cacheFile(source)}.${process.pid}-${Math.random().toString(36).slice(2)}`;
  await writeFile(temporary, await promisify(gzip)(JSON.stringify(content), { level: 1 }));
  await rename(temporary, cacheFile(source));
  return { content, parsed: true };
}
