import type { Box } from '../../core/page/box';
import { linesOf } from '../../core/page/lines';
import type { PageContent } from '../../core/page/page';
import { headingText } from '../../core/intake/take';
import type { FoundTable } from '../../core/reading/found-table';
import { picturesWithoutText } from '../../core/reading/pictures';
import type { ReportContent } from './report-content';

/** A page as the page strip shows it: its size, and where ink and pictures lie. */
export interface PageFacts {
  readonly number: number;
  readonly label: string | null;
  readonly width: number;
  readonly height: number;
  readonly ink: readonly Box[];
  readonly pictures: readonly Box[];
  /** Pictures that may hold a table: large, and without text over them. */
  readonly unread: readonly Box[];
}

/** A found table without its cells. While a report is still being read it comes in parts, each with more pieces. */
export interface TableFacts {
  readonly id: string;
  readonly title: string | null;
  readonly heading: string;
  readonly headingCells: readonly string[];
  readonly rows: number;
  readonly columns: number;
  readonly pieces: readonly { readonly id: string; readonly page: number; readonly box: Box; readonly readings: readonly { name: string; score: number; reason: string }[] }[];
}

/** What was found on pages of a report. */
export interface FoundFacts {
  readonly pageCount: number;
  readonly pages: readonly PageFacts[];
  readonly tables: readonly TableFacts[];
}

export const isScanned = (content: ReportContent) => content.pages.length > 0 && content.pages.every((page) => page.words.length === 0 && page.pictures.length > 0);

export const pageFacts = (page: PageContent): PageFacts => ({
  number: page.number,
  label: page.label ?? null,
  width: page.width,
  height: page.height,
  ink: linesOf(page.words).map((line) => line.box),
  pictures: page.pictures.map((picture) => picture.box),
  unread: picturesWithoutText(page),
});

export const tableFacts = (table: FoundTable): TableFacts => ({
  id: table.id,
  title: table.title ?? null,
  heading: headingText(table),
  headingCells: headingCells(table),
  rows: table.pieces.reduce((sum, piece) => sum + piece.readings[0].rows.length, 0),
  columns: Math.max(...table.pieces.map((piece) => piece.readings[0].columns.length)),
  pieces: table.pieces.map(({ id, page, box, readings }) => ({ id, page, box, readings: readings.map(({ name, score, reason }) => ({ name, score, reason })) })),
});

export const foundIn = (content: ReportContent): FoundFacts => ({ pageCount: content.pageCount, pages: content.pages.map(pageFacts), tables: content.tables.map(tableFacts) });

/** The texts of the heading cells, for a take rule that knows the table by them. */
function headingCells(table: FoundTable): string[] {
  const [first] = table.pieces[0].readings;
  return first.cells.filter((cell) => cell.row < Math.max(1, first.headingRows)).map((cell) => cell.text);
}
