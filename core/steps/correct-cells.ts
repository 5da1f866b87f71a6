import * as v from 'valibot';
import { cellText, type Cell } from '../sheet/cell';
import { nowhere } from '../sheet/origin';
import type { Problem } from '../sheet/problem';
import { rewritten } from './rewrite';
import { sameName } from './column-choice';
import { field, step, type Papers } from './step';

const correction = v.object({
  report: field(v.string(), 'Report', 'File name.'),
  page: field(v.pipe(v.number(), v.integer(), v.minValue(1)), 'Page'),
  /** The first word of the cell, counted over the page: its place on paper. */
  word: field(v.pipe(v.number(), v.integer(), v.minValue(0)), 'Word'),
  column: field(v.string(), 'Column'),
  from: field(v.string(), 'Printed'),
  to: field(v.optional(v.string(), ''), 'Means'),
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
  describe: ({ corrections }) => `${corrections.length} ${corrections.length === 1 ? 'correction' : 'corrections'} by hand`,
  run(sheet, { corrections }, { papers }) {
    const problems: Problem[] = [];
    const here = new Set(sheet.rows.map((mark) => mark.report));
    const files = new Map([...here].map((report) => [papers(report).fileName, report]));
    const due = corrections.filter((each) => files.has(each.report));
    const done = new Set<Correction>();
    const columns = sheet.columns.filter((column) => due.some((each) => sameName(each.column, column.name)));
    const result = rewritten(sheet, columns, 'corrected by hand', (cell, row, column): Cell => {
      const own = due.find((each) => sameName(each.column, column.name) && files.get(each.report) === sheet.rows[row].report && startsAt(papers, sheet.rows[row].report, column.origins[row], each));
      if (!own) return cell;
      done.add(own);
      if (cellText(cell) === own.from) return own.to === '' ? null : own.to;
      problems.push(notAsBefore(own, cellText(cell), files.get(own.report)!));
      return cell;
    });
    // A place that is not on this sheet may be on that of another table of the report; a page that is here must have it.
    const pages = new Set(sheet.rows.map((mark) => `${mark.report} ${mark.page}`));
    for (const each of due) {
      const report = files.get(each.report)!;
      if (!done.has(each) && pages.has(`${report} ${each.page}`) && columns.some((column) => sameName(column.name, each.column))) problems.push(notAsBefore(each, 'nothing at this place', report));
    }
    const overwritten = result.overwritten?.map((each) => ({ ...each, why: [each.why, ...new Set(due.filter((own) => sameName(own.column, each.column) && own.why).map(({ why }) => why))].join('; ') }));
    return { sheet: result.sheet, overwritten, problems };
  },
});

function startsAt(papers: Papers, report: string, origin: number, { page, word }: Correction): boolean {
  if (origin === nowhere) return false;
  return papers(report).origins.places(origin).some((place) => place.page === page && place.words[0] === word);
}

const notAsBefore = ({ column, from, page }: Correction, came: string, report: string): Problem => ({
  kind: 'step',
  report,
  page,
  column,
  expected: `“${from}” where it was corrected`,
  came: came === 'nothing at this place' ? came : `“${came}”`,
  remedy: 'The paper is another now: correct the cell anew, or take the correction out.',
});
