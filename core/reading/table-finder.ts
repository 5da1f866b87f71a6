import type { PageContent } from '../page/page';
import { continues } from './continuation';
import type { FoundTable, Piece } from './found-table';
import { withCutRow } from './cut-rows';
import { candidatesOf, furnitureAmong, neighbourhood, type Candidate } from './furniture';
import { rowsOverleaf, withLabelsBelow } from './overleaf';
import { piecesOfPage } from './page-tables';
import { onColumnsBefore } from './same-columns';

/** A page with the pieces of tables found on it, linked to those of the page before. */
export interface PageTables {
  readonly page: PageContent;
  readonly pieces: readonly Piece[];
  /** For each piece the id of the found table that it belongs to. */
  readonly tables: readonly string[];
}

interface Table {
  readonly id: string;
  readonly title?: string;
  readonly pieces: Piece[];
}

/**
 * Finds the tables of a report while its pages come in, in their order. A page is read as soon as the few pages after
 * it are known, which tell its running heads; so the first tables are there long before the last page is.
 */
export class TableFinder {
  private readonly found: Table[] = [];
  private readonly waiting: { page: PageContent; candidates: Candidate[] }[] = [];
  private readonly before: Candidate[][] = [];
  /** A page that is read, kept until the next one tells whether a label at its foot is a row. */
  private read: PageTables | undefined;
  private last: { page: PageContent; lowest: Piece | undefined; furniture: ReadonlySet<number> } | undefined;

  /** @param begins hears which page is read next */
  constructor(private readonly begins: (page: number) => void = () => undefined) {}

  /** Found so far, pieces that go on overleaf linked into one. */
  get tables(): FoundTable[] {
    return this.found;
  }

  /** Takes the next page in. @returns the pages that could be read with it */
  add(page: PageContent): PageTables[] {
    this.waiting.push({ page, candidates: candidatesOf(page) });
    return this.waiting.length > neighbourhood ? this.readNext() : [];
  }

  /** No page is to come. @returns the pages that were still waiting */
  end(): PageTables[] {
    const read: PageTables[] = [];
    while (this.waiting.length > 0) read.push(...this.readNext());
    if (this.read) read.push(this.read);
    this.read = undefined;
    return read;
  }

  /** Reads the next page. @returns the one before, as it is known now */
  private readNext(): PageTables[] {
    const after = this.waiting.map(({ candidates }) => candidates).slice(0, neighbourhood + 1);
    const { page, candidates } = this.waiting.shift()!;
    this.begins(page.number);
    const furniture = furnitureAmong(candidates, [...this.before, ...after]);
    const found = piecesOfPage(page, furniture);
    const overleaf = this.last?.lowest && rowsOverleaf(this.last.lowest, this.last.page, page, furniture, found);
    const linked = this.linked(page, overleaf ? [overleaf, ...found] : found);
    const pieces = linked.map(({ piece }) => piece);
    this.before.push(candidates);
    if (this.before.length > neighbourhood) this.before.shift();
    this.last = { page, lowest: lowestOf(pieces), furniture };
    const before = this.read;
    this.read = { page, pieces, tables: linked.map(({ table }) => table) };
    return before ? [before] : [];
  }

  private linked(page: PageContent, pieces: readonly Piece[]): { piece: Piece; table: string }[] {
    return pieces.map((piece, n) => {
      const above = n === 0 ? this.last?.lowest : undefined;
      const table =
        above && continues(above, piece, this.last!.page, page)
          ? this.found.findLast((each) => each.pieces.at(-1) === above)
          : undefined;
      if (!table || !above) {
        this.found.push({ id: piece.id, ...(piece.title ? { title: piece.title } : {}), pieces: [piece] });
        return { piece, table: piece.id };
      }
      // Only now that it goes on is a label below its last row one of its rows.
      const whole = withLabelsBelow(above, this.last!.page, this.last!.furniture);
      table.pieces[table.pieces.length - 1] = whole;
      if (this.read)
        this.read = { ...this.read, pieces: this.read.pieces.map((each) => (each === above ? whole : each)) };
      const linked: Piece = {
        ...withCutRow(above, onColumnsBefore(above, piece, this.last!.page, page), this.last!.page, page),
        continues: above.id,
      };
      table.pieces.push(linked);
      return { piece: linked, table: table.id };
    });
  }
}

const lowestOf = (pieces: readonly Piece[]): Piece | undefined =>
  pieces.reduce<Piece | undefined>((low, piece) => (!low || piece.box[3] > low.box[3] ? piece : low), undefined);
