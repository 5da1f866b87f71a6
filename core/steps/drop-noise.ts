import * as v from 'valibot';
import { looksNumeric } from '../values/numeric';
import { cellText, isBlank, type Cell } from '../values/cell';
import { filledColumns, type Sheet } from '../sheet/sheet';
import { field, hold, step, when, widget } from './step';

/** Why a row is held, by the setting that holds it. */
export const noiseReasons = {
  dashes: 'a row of dashes',
  pages: 'a page number',
  headings: 'says the heading again',
  furniture: 'page furniture: the same at the edge of other pages',
};

const roles = ['heading', 'section', 'subtotal', 'total', 'note'] as const;

export const dropNoise = step({
  kind: 'drop noise',
  title: 'Drop noise',
  group: 'rows',
  help: 'Holds rows that say nothing: rows of dashes or dots, page numbers, headings printed again, page furniture, and rows marked with a role.',
  settings: {
    dashes: field(v.optional(v.boolean(), true), 'Rows of dashes'),
    pages: field(v.optional(v.boolean(), true), 'Page numbers', 'Like “Page 3 of 8”.'),
    headings: field(
      v.optional(v.boolean(), false),
      'Headings again',
      'Rows that print the heading again, as it is done on top of each page.',
    ),
    headingRows: field(
      when(
        widget(v.optional(v.pipe(v.number(), v.integer(), v.minValue(0)), 0), {
          widget: 'number',
          zero: 'as many as are marked as heading',
        }),
        'headings',
        'true',
      ),
      'Heading rows',
      'After a promotion, the column names count too.',
    ),
    furniture: field(
      v.optional(v.boolean(), false),
      'Page furniture',
      'Rows of one or two texts at the edge of most pages, the same but for their digits.',
    ),
    role: field(v.optional(v.picklist(['none', ...roles]), 'none'), 'Rows marked as'),
  },
  commutesWithAppend: ({ headings, furniture }) => !headings && !furniture,
  describe: ({ dashes, pages, headings, furniture, role }) =>
    [
      dashes && 'rows of dashes',
      pages && 'page numbers',
      headings && 'headings printed again',
      furniture && 'page furniture',
      role !== 'none' && `rows marked as ${role}`,
    ]
      .filter(Boolean)
      .join(', ') || 'Nothing dropped',
  run(sheet, { dashes, pages, headings, headingRows, furniture, role }, around) {
    const saysHeading = headings ? headingAgain(sheet, headingRows) : () => false;
    const isFurniture = furniture ? furnitureIn(sheet) : () => false;
    return hold(sheet, around, (row) => {
      const texts = textsOf(sheet, row);
      const text = dashes || pages ? texts.join(' ').trim() : '';
      if (dashes && /^[-–—_=.·\s]+$/.test(text) && /[-–—_=.·]{3}/.test(text.replace(/\s/g, '')))
        return noiseReasons.dashes;
      if (
        pages &&
        /^(?:page|seite|pagina|página|sida|strona|p\.)\s*\d+(?:\s*(?:of|von|de|di|van|av|z|\/)\s*\d+)?$/i.test(text)
      )
        return noiseReasons.pages;
      if (saysHeading(row, texts)) return noiseReasons.headings;
      if (isFurniture(row)) return noiseReasons.furniture;
      return role !== 'none' && sheet.rows.role(row) === role ? `marked as ${role}` : undefined;
    });
  },
});

function textsOf({ columns }: Sheet, row: number): string[] {
  const texts: string[] = [];
  for (const { cells } of columns) {
    const text = cellText(cells[row]);
    if (text !== '') texts.push(text);
  }
  return texts;
}
const squeezed = (parts: readonly string[]) => parts.join('|').toLowerCase().replace(/\s+/g, '');

const firstOf = (text: string) => text.trimStart().slice(0, 1).toLowerCase().slice(0, 1);

/** Whether a row below the heading says one of its rows, or the column names; asked with the texts of the row. */
function headingAgain(sheet: Sheet, rows: number): (row: number, texts: readonly string[]) => boolean {
  const marked = sheet.rows.find((row) => sheet.rows.role(row) !== 'heading');
  const count = rows > 0 ? rows : Math.max(marked, 0);
  const heading = new Set(
    Array.from({ length: Math.min(count, sheet.rows.length) }, (_, row) => squeezed(textsOf(sheet, row))),
  );
  // Once promoted, the heading stands in the names: also a first row that says them says it again.
  const names = squeezed(sheet.columns.map((column) => column.name));
  heading.delete('');
  // Few rows begin as a heading does: the others need not be spelled alike.
  const begins = new Set([names, ...heading].map(firstOf));
  return (row, texts) => {
    if (!begins.has(firstOf(texts[0] ?? ''))) return false;
    const text = squeezed(texts);
    return text === names || (row >= count && heading.has(text));
  };
}

/** So many rows from the top and the bottom of a page are its edge. */
const edge = 2;

/** The rows at the edges of a page. Where every row is one text they are those that white space sets off from the others. */
function edgesOf({ rows, columns }: Sheet, page: readonly number[]): ReadonlySet<number> {
  if (columns.length > 1) return new Set([...page.slice(0, edge), ...page.slice(-edge)]);
  const top = page.findIndex((row, i) => i > 0 && i <= edge && rows.spaced(row));
  const bottom = page.findLastIndex((row, i) => i >= page.length - edge && rows.spaced(row));
  return new Set([...page.slice(0, Math.max(0, top)), ...(bottom > 0 ? page.slice(bottom) : [])]);
}

const isAmounts = (cells: readonly Cell[]): boolean => {
  const filled = cells.filter((cell) => !isBlank(cell));
  return filled.length > 0 && filled.filter((cell) => looksNumeric(cellText(cell))).length * 2 > filled.length;
};

/** Whether a row stands at the edge of its page and says, but for digits, what the edges of at least half of the pages say. */
function furnitureIn(sheet: Sheet): (row: number) => boolean {
  const pageOf = (row: number) => `${sheet.rows.report(row)} ${sheet.rows.page(row)}`;
  const pages = new Map<string, number[]>();
  for (let row = 0; row < sheet.rows.length; row++) {
    const own = pages.get(pageOf(row));
    if (own) own.push(row);
    else pages.set(pageOf(row), [row]);
  }
  const amounts = new Set(sheet.columns.filter(({ cells }) => isAmounts(cells)));
  const says = (row: number): string | undefined => {
    const filled = filledColumns(sheet, row).length;
    const text = squeezed(textsOf(sheet, row)).replace(/\d+/g, '#');
    const few = filled > 0 && filled <= 2 && filled * 2 < sheet.columns.length;
    // What has an amount where the other rows have one says something, as a sum does.
    if ([...amounts].some(({ cells }) => looksNumeric(cellText(cells[row])))) return undefined;
    return (few || sheet.columns.length === 1) && /\p{L}/u.test(text) ? text : undefined;
  };
  const on = new Map<string, Set<string>>();
  const edges = new Map<number, string>();
  for (const [page, rows] of pages)
    for (const row of edgesOf(sheet, rows)) {
      const text = says(row);
      if (text === undefined) continue;
      edges.set(row, text);
      on.set(text, (on.get(text) ?? new Set()).add(page));
    }
  return (row) => {
    const seen = on.get(edges.get(row) ?? '')?.size ?? 0;
    return seen >= 2 && seen * 2 >= pages.size;
  };
}
