import { linesOf } from '../../core/page/lines';
import type { PageContent } from '../../core/page/page';
import { headingText } from '../../core/intake/take';
import { isScanned } from '../../core/pipeline/held-back';
import type { FoundTable } from '../../core/reading/found-table';
import { picturesWithoutText } from '../../core/reading/pictures';
import type { PageTables } from '../../core/reading/table-finder';
import { at } from '../../core/sheet/problem';
import type { FoundFacts, PageFacts, ReadSummary, TableFacts } from '../contract/answers';
import type { ReportContent } from './content';

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
  pieces: table.pieces.map(({ id, page, box, readings }) => ({
    id,
    page,
    box,
    readings: readings.map(({ name, score, reason }) => ({ name, score, reason })),
  })),
});

export const foundIn = (content: ReportContent): FoundFacts => ({
  pageCount: content.pageCount,
  pages: content.pages.map(pageFacts),
  tables: content.tables.map(tableFacts),
});

export const readSummary = (report: string, content: ReportContent, parsed: boolean): ReadSummary => ({
  parsed,
  scanned: isScanned(content.pages),
  problems: at({ report }, content.problems),
  ...foundIn(content),
});

export const foundOn = (read: readonly PageTables[], pageCount: number): FoundFacts => ({
  pageCount,
  pages: read.map(({ page }) => pageFacts(page)),
  tables: read.flatMap(({ pieces, tables }) =>
    pieces.map((piece, i) =>
      tableFacts({ id: tables[i], ...(piece.title ? { title: piece.title } : {}), pieces: [piece] }),
    ),
  ),
});

/** The texts of the heading cells, for a take rule that knows the table by them. */
function headingCells(table: FoundTable): string[] {
  const [first] = table.pieces[0].readings;
  return first.cells.filter((cell) => cell.row < Math.max(1, first.headingRows)).map((cell) => cell.text);
}
