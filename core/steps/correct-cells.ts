import * as v from 'valibot';
import { cellText, isBlank, type Cell } from '../values/cell';
import { nowhere } from '../sheet/origin';
import type { Problem } from '../sheet/problem';
import { rewritten } from './rewrite';
import type { Column } from '../sheet/column';
import { sheet as makeSheet, type Sheet } from '../sheet/sheet';
import { columnNamed, missingColumn, sameName } from '../sheet/column';
import { field, step, widget, type Overwritten, type StepResult } from './step';

const correction = v.object({
  report: field(v.string(), 'Report', 'Path below the folder.'),
  page: field(v.pipe(v.number(), v.integer(), v.minValue(1)), 'Page'),
  /** The first word of the cell, counted over the page: its place on paper. */
  word: field(v.pipe(v.number(), v.integer(), v.minValue(0)), 'Word'),
  column: field(v.string(), 'Column'),
  from: field(v.string(), 'Printed'),
  to: field(v.optional(v.string(), ''), 'Means'),
  into: field(
    widget(v.optional(v.string(), ''), { widget: 'column' }),
    'Moves into',
    'A blank cell of the same row in another column; no column: it stays where it is.',
  ),
  who: field(v.optional(v.string(), ''), 'Who'),
  when: field(v.optional(v.string(), ''), 'When'),
  why: field(v.optional(v.string(), ''), 'Why'),
});
export type Correction = v.InferOutput<typeof correction>;

export const correctCells = step({
  kind: 'correct cells',
  title: 'Correct cells',
  group: 'values',
  help: 'Corrects single cells by hand: this report, this place on paper, as long as the paper says what it said.',
  settings: { corrections: field(v.optional(v.array(correction), []), 'Corrections') },
  commutesWithAppend: true,
  needs: () => ['file name'],
  describe: ({ corrections }) =>
    `${corrections.length} ${corrections.length === 1 ? 'correction' : 'corrections'} by hand`,
  run(sheet, { corrections }, { papers }) {
    const problems: Problem[] = [];
    const here = new Set(sheet.rows.map(sheet.rows.report));
    const files = new Map([...here].map((report) => [papers(report).path, report]));
    const due = corrections.filter((each) => files.has(each.report));
    const done = new Set<Correction>();
    const columns = sheet.columns.filter((column) => due.some((each) => sameName(each.column, column.name)));
    const moved: Moved[] = [];
    const result = rewritten(sheet, columns, 'corrected by hand', (cell, row, column): Cell => {
      const own = due.find(
        (each) =>
          sameName(each.column, column.name) &&
          files.get(each.report) === sheet.rows.report(row) &&
          startsAt(sheet, column.origins[row], each),
      );
      if (!own) return cell;
      done.add(own);
      if (cellText(cell) !== own.from) {
        problems.push(notAsBefore(own, cellText(cell), files.get(own.report)!));
        return cell;
      }
      if (own.into === '') return own.to === '' ? null : own.to;
      const target = columnNamed(sheet, own.into);
      if (!target || !isBlank(target.cells[row])) {
        problems.push(notMoved(sheet, own, target && cellText(target.cells[row]), files.get(own.report)!));
        return cell;
      }
      moved.push({ row, target, cell: own.to || own.from, origin: column.origins[row] });
      return null;
    });
    // A place that is not on this sheet may be on that of another table of the report; a page that is here must have it.
    const pages = new Set(sheet.rows.map((row) => `${sheet.rows.report(row)} ${sheet.rows.page(row)}`));
    for (const each of due) {
      const report = files.get(each.report)!;
      if (
        !done.has(each) &&
        pages.has(`${report} ${each.page}`) &&
        columns.some((column) => sameName(column.name, each.column))
      )
        problems.push(notAsBefore(each, 'nothing at this place', report));
    }
    const overwritten = result.overwritten?.map((each) => ({
      ...each,
      why: [
        each.why,
        ...new Set(due.filter((own) => sameName(own.column, each.column) && own.why).map(({ why }) => why)),
      ].join('; '),
    }));
    return { ...withMoved(result.sheet, moved, overwritten ?? []), problems };
  },
});

/** A text that goes into another column of its row, with the words it comes from. */
interface Moved {
  readonly row: number;
  readonly target: Column;
  readonly cell: string;
  readonly origin: number;
}

function withMoved(
  sheet: Sheet,
  moved: readonly Moved[],
  overwritten: readonly Overwritten[],
): Pick<StepResult, 'sheet' | 'overwritten'> {
  if (moved.length === 0) return { sheet, overwritten };
  const columns = sheet.columns.map((column) => {
    const own = moved.filter(({ target }) => target.name === column.name);
    if (own.length === 0) return column;
    const cells = [...column.cells];
    const origins = Int32Array.from(column.origins);
    for (const { row, cell, origin } of own) {
      cells[row] = cell;
      origins[row] = origin;
    }
    return { ...column, cells, origins };
  });
  const into = moved.map(({ row, target }): Overwritten => ({
    column: target.name,
    rows: [row],
    old: [null],
    why: 'moved here by hand',
  }));
  return { sheet: makeSheet(columns, sheet.rows), overwritten: [...overwritten, ...into] };
}

function startsAt({ rows }: Sheet, origin: number, { page, word }: Correction): boolean {
  if (origin === nowhere) return false;
  return rows.book.origins.places(origin).some((place) => place.page === page && place.words[0] === word);
}

const notMoved = (
  sheet: Sheet,
  { column, into, page }: Correction,
  there: string | undefined,
  report: string,
): Problem =>
  there === undefined
    ? { ...missingColumn(sheet, into), report, page }
    : {
        kind: 'step',
        report,
        page,
        column,
        expected: `a blank cell in “${into}” to move it into`,
        came: `“${there}”`,
        remedy: 'Choose another column, or correct that cell first.',
      };

const notAsBefore = ({ column, from, page }: Correction, came: string, report: string): Problem => ({
  kind: 'step',
  report,
  page,
  column,
  expected: `“${from}” where it was corrected`,
  came: came === 'nothing at this place' ? came : `“${came}”`,
  remedy: 'The paper is another now: correct the cell anew, or take the correction out.',
});
