import {
  closeSync,
  mkdirSync,
  openSync,
  readFileSync,
  readSync,
  renameSync,
  rmSync,
  utimesSync,
  writeFileSync,
} from 'node:fs';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { gunzip, gzip } from 'node:zlib';
import type { PageContent } from '../../core/page/page';
import type { FoundTable, Piece } from '../../core/reading/found-table';
import type { PageTables } from '../../core/reading/table-finder';
import type { ReportContent } from './content';

const zip = promisify(gzip);
const unzip = promisify(gunzip);

/** Where the pages of a report stand in its cache file, and what belongs to no single page. */
interface Index {
  readonly pageCount: number;
  readonly problems: ReportContent['problems'];
  /** Pages were given up after so many seconds without progress. */
  readonly gaveUpAfter?: number;
  /** Per readable page: its number, and from which byte to which its block runs. */
  readonly blocks: readonly (readonly [page: number, from: number, to: number])[];
  readonly tables: readonly { readonly id: string; readonly title?: string; readonly pieces: readonly string[] }[];
}

interface Block {
  readonly page: PageContent;
  readonly pieces: readonly Piece[];
}

/** How the content of a file is called in the cache. @param reading the stage that read it, as a build calls it */
export const cachedName = (sha256: string, reading: string): string => `${sha256}-${reading}`;

/**
 * The content of one report on disk: a file of compressed blocks, a page each, and an index beside it. A page can be
 * read alone. The index is written last, so a file cut short by a crash is never taken for a whole one.
 *
 * Its files are read and written at once, without promises: this is done in threads that may be ended at any moment, and a
 * thread that is ended as it asks for a promise of a file takes the whole process with it (Node 20).
 */
export class PageCache {
  private readonly blocks: string;
  private readonly index: string;

  constructor(
    private readonly folder: string,
    name: string,
  ) {
    this.blocks = join(folder, `${name}.pages`);
    this.index = join(folder, `${name}.json`);
  }

  private readIndex(): Index | undefined {
    try {
      return JSON.parse(readFileSync(this.index, 'utf8')) as Index;
    } catch {
      return undefined;
    }
  }

  /**
   * The whole content; undefined where it is not cached, or what is cached cannot be read.
   * @param patience how long, in seconds, pages may show no progress: where some were given up sooner they are to be read again
   */
  async all(patience = 0): Promise<ReportContent | undefined> {
    const index = this.readIndex();
    if (!index || (index.gaveUpAfter !== undefined && index.gaveUpAfter < patience)) return undefined;
    try {
      const bytes = readFileSync(this.blocks);
      const pages: PageContent[] = [];
      const pieces = new Map<string, Piece>();
      for (const [, from, to] of index.blocks) {
        const block = await blockOf(bytes.subarray(from, to));
        pages.push(block.page);
        for (const piece of block.pieces) pieces.set(piece.id, piece);
      }
      this.looked();
      const tables = index.tables.map(({ pieces: ids, ...table }): FoundTable => ({
        ...table,
        pieces: ids.map((id) => pieces.get(id)!),
      }));
      return { pageCount: index.pageCount, pages, tables, problems: index.problems };
    } catch {
      return undefined;
    }
  }

  /** Marks it as looked at now: what was not for longest goes first where the cache is too large. */
  private looked(): void {
    const now = new Date();
    try {
      for (const file of [this.blocks, this.index]) utimesSync(file, now, now);
    } catch {
      // It is another's, or was swept meanwhile.
    }
  }

  async page(
    number: number,
  ): Promise<{ pageCount: number; page: PageContent | undefined; pieces: (Piece & { table: string })[] } | undefined> {
    const index = this.readIndex();
    if (!index) return undefined;
    const place = index.blocks.find(([page]) => page === number);
    if (!place) return { pageCount: index.pageCount, page: undefined, pieces: [] };
    const [, from, to] = place;
    let file: number | undefined;
    try {
      file = openSync(this.blocks, 'r');
      const bytes = Buffer.alloc(to - from);
      readSync(file, bytes, 0, to - from, from);
      const { page, pieces } = await blockOf(bytes);
      const tableOf = (id: string) => index.tables.find((table) => table.pieces.includes(id))!.id;
      return {
        pageCount: index.pageCount,
        page,
        pieces: pieces.map((piece) => ({ ...piece, table: tableOf(piece.id) })),
      };
    } catch {
      return undefined;
    } finally {
      if (file !== undefined) closeSync(file);
    }
  }

  /** Writes the blocks of a report while it is read. */
  writer() {
    mkdirSync(this.folder, { recursive: true });
    const unfinished = `.${process.pid}-${Math.random().toString(36).slice(2)}`;
    const file = openSync(this.blocks + unfinished, 'w');
    const places: [page: number, from: number, to: number][] = [];
    let end = 0;
    return {
      add: async (read: readonly PageTables[]) => {
        for (const block of read) {
          const bytes = await zip(JSON.stringify({ page: block.page, pieces: block.pieces } satisfies Block), {
            level: 1,
          });
          writeFileSync(file, bytes);
          places.push([block.page.number, end, (end += bytes.length)]);
        }
      },
      close: ({ pageCount, tables, problems }: ReportContent, gaveUpAfter?: number) => {
        closeSync(file);
        const index: Index = {
          pageCount,
          problems,
          ...(gaveUpAfter === undefined ? {} : { gaveUpAfter }),
          blocks: places,
          tables: tables.map(({ pieces, ...table }) => ({ ...table, pieces: pieces.map((piece) => piece.id) })),
        };
        writeFileSync(this.index + unfinished, JSON.stringify(index));
        renameSync(this.blocks + unfinished, this.blocks);
        renameSync(this.index + unfinished, this.index);
      },
      discard: () => {
        try {
          closeSync(file);
        } catch {
          // It was closed already.
        }
        rmSync(this.blocks + unfinished, { force: true });
      },
    };
  }
}

const blockOf = async (bytes: Buffer): Promise<Block> => JSON.parse((await unzip(bytes)).toString('utf8')) as Block;
