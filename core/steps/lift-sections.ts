import * as v from 'valibot';
import { labelThatGoesOn } from '../values/carry-over';
import { cellText, isBlank, type Cell } from '../values/cell';
import { nowhere } from '../sheet/origin';
import { freeNames, type Column } from '../sheet/column';
import { filledColumns, sheet as makeSheet, type Sheet } from '../sheet/sheet';
import { indentRanks, sameIndent, standsOverIndented } from './indents';
import { wildcard } from './wildcard';
import { field, hold, step } from './step';

const byIndent = 'indented rows below';
export const lifts = [
  'one filled cell',
  'marked as section',
  'bold',
  'bold print and amounts',
  byIndent,
  'pattern',
] as const;
const indents = ['any', 'outermost', 'second', 'third'] as const;

const level = v.object({
  into: field(v.pipe(v.string(), v.minLength(1, 'Name the column that the sections go into.')), 'Into column'),
  known: field(v.optional(v.picklist(lifts), 'one filled cell'), 'A section row has'),
  pattern: field(v.optional(v.string(), '*'), 'Text is like', 'A * stands for any text.'),
  indent: field(
    v.optional(v.picklist(indents), 'any'),
    'Indent',
    'How far their text stands in, counted among the rows with one filled cell, or those over rows further in.',
  ),
});
type Level = v.InferOutput<typeof level>;

export const liftSections = step({
  kind: 'lift sections',
  title: 'Lift sections',
  group: 'rows',
  help: 'Rows that only say the section become a column carried down over the rows below them; a section of an outer level ends those within it.',
  settings: {
    levels: field(
      v.optional(v.pipe(v.array(level), v.minLength(1, 'Say how a section row is known.')), [{ into: 'Section' }]),
      'Levels',
      'The outermost first.',
    ),
    stays: field(
      v.optional(v.boolean(), false),
      'The section rows stay',
      'Where they have amounts, too: “Hold totals” below keeps them as what the rows under them must add up to.',
    ),
  },
  commutesWithAppend: false,
  describe: ({ levels, stays }) =>
    `${levels.map(({ into, known, indent }) => `rows with ${known}${indent === 'any' ? '' : `, indent ${indent}`} into ${into}`).join('; ')}${stays ? '; they stay' : ''}`,
  run(sheet, { levels, stays }, around) {
    const sections = sectionsOf(sheet, levels, (row) => around.letPass(sheet, row));
    const goOn = goingOn(sheet, sections);
    const free = freeNames(sheet.columns);
    const lifted = levels.map(({ into, known }, depth) =>
      carriedDown(sheet, sections, goOn, { depth, byIndent: known === byIndent }, free(into)),
    );
    const whole = makeSheet([...lifted, ...sheet.columns], sheet.rows);
    const result = stays
      ? { sheet: whole }
      : hold(whole, around, (row) =>
          sections[row] ? `section label, carried into ${lifted[sections[row].depth].name}` : undefined,
        );
    const idle = levels.filter((_, depth) => !sections.some((section) => section?.depth === depth));
    return {
      ...result,
      problems: idle.map(({ into }) => ({
        kind: 'step',
        expected: `rows that are a section label for ${into}`,
        came: 'none',
        remedy: 'Choose another way to know a section row.',
      })),
    };
  },
});

/** A row that is a section label: its level, and the column that its text stands in. */
interface Section {
  readonly depth: number;
  readonly at: number;
}

/** Which rows are section labels. */
function sectionsOf(
  sheet: Sheet,
  levels: readonly Level[],
  letPass: (row: number) => boolean,
): (Section | undefined)[] {
  const filled = sheet.rows.map((row) => filledColumns(sheet, row));
  /** Beside the first cell: a number there is part of the label. */
  const hasAmounts = (row: number) =>
    filled[row].slice(1).some((at) => /\d/.test(cellText(sheet.columns[at].cells[row])));
  const isAlone = (row: number) => filled[row].length === 1;
  const isHead = (row: number) => filled[row][0] === 0 && standsOverIndented(sheet, row) && hasAmounts(row);
  const bySight: Record<(typeof lifts)[number], (row: number, at: number) => boolean> = {
    'one filled cell': (row, at) => isAlone(row) && at === 0,
    'marked as section': (row) => sheet.rows.role(row) === 'section',
    bold: (row, at) => isAlone(row) && at === 0 && sheet.rows.bold(row),
    'bold print and amounts': (row, at) => at === 0 && sheet.rows.bold(row) && hasAmounts(row),
    [byIndent]: isHead,
    pattern: () => true,
  };
  const tests = levels.map(({ known, pattern, indent }) => {
    const like = wildcard(pattern);
    const rank = indents.indexOf(indent);
    const counts = known === byIndent ? isHead : isAlone;
    const ranks =
      rank === 0 ? () => rank : indentRanks(filled.flatMap((_, row) => (counts(row) ? [sheet.rows.indent(row)] : [])));
    return (row: number, at: number): boolean =>
      bySight[known](row, at) &&
      like.test(cellText(sheet.columns[at].cells[row])) &&
      (rank === 0 || (counts(row) && ranks(sheet.rows.indent(row)) === rank));
  });
  return filled.map(([at], row) => {
    const depth = at === undefined ? -1 : tests.findIndex((test) => test(row, at));
    return depth < 0 || letPass(row) ? undefined : { depth, at };
  });
}

/** The rows of labels that only say that a section goes on: "Saltby (continued)" while Saltby is open. */
function goingOn(sheet: Sheet, sections: readonly (Section | undefined)[]): ReadonlySet<number> {
  const rows = new Set<number>();
  let open: string[] = [];
  sections.forEach((section, row) => {
    if (row > 0 && !sheet.rows.inSameReport(row, row - 1)) open = [];
    if (!section) return;
    const text = cellText(sheet.columns[section.at].cells[row]).trim();
    const bare = labelThatGoesOn(text);
    if (bare !== undefined && bare === open[section.depth]) rows.add(row);
    else open = [...open.slice(0, section.depth), bare ?? text];
  });
  return rows;
}

/** The labels of one level over the rows below each, until the next of its level or of an outer one, a row no further in where that is how they are known, or the end of the report. */
function carriedDown(
  sheet: Sheet,
  sections: readonly (Section | undefined)[],
  goOn: ReadonlySet<number>,
  { depth, byIndent }: { depth: number; byIndent: boolean },
  name: string,
): Column {
  const cells: Cell[] = [];
  const origins = new Int32Array(sheet.rows.length).fill(nowhere);
  let label: Cell = null;
  let origin = nowhere;
  let indent = 0;
  sections.forEach((section, row) => {
    const isOut = byIndent && !section && sheet.rows.indent(row) - indent <= sameIndent;
    if (
      (row > 0 && !sheet.rows.inSameReport(row, row - 1)) ||
      (section && section.depth < depth && !goOn.has(row)) ||
      isOut
    ) {
      label = null;
      origin = nowhere;
    }
    if (section?.depth === depth) {
      if (!goOn.has(row)) label = sheet.columns[section.at].cells[row];
      origin = sheet.columns[section.at].origins[row];
      indent = sheet.rows.indent(row);
    }
    cells.push(isBlank(label) ? null : label);
    origins[row] = origin;
  });
  return { name, type: 'text', cells, origins };
}
