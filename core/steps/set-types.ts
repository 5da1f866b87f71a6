import * as v from 'valibot';
import { cellText, isError, type Cell } from '../values/cell';
import type { Problem } from '../sheet/problem';
import { freeNames, type Column } from '../sheet/column';
import { sheet as makeSheet, type Sheet } from '../sheet/sheet';
import { describeFormat, formatEntries, isNumeric, readerOf, unitOf, type Format } from '../values/format';
import { localeNames, locales, type Locale } from '../values/locale';
import { asReport } from '../values/marks';
import { ownMarks } from '../values/own-marks';
import type { Parsed } from '../values/parsed';
import { daysOf } from '../values/period';
import { chosen, columnChoice, describeChoice } from './column-choice';
import { remembered } from './remembered';
import { field, step } from './step';

const rule = v.object({
  columns: field(columnChoice, 'Columns'),
  ...formatEntries,
  /** Why this format, as it was worked out. */
  reason: v.optional(v.string(), ''),
  /** Set by hand: it stays as it is when types are worked out again. */
  byHand: v.optional(v.boolean(), false),
  /** A doubt about the format that the analyst has answered: it is not told again. */
  settled: v.optional(v.string(), ''),
});
export type TypeRule = v.InferOutput<typeof rule>;

export const setTypes = step({
  kind: 'set types',
  title: 'Set types',
  group: 'values',
  help: 'Turns printed texts into numbers, dates and periods. A text that does not fit stays as an error cell.',
  settings: {
    locale: field(v.optional(v.picklist(localeNames), 'en-GB'), 'Printed as in'),
    types: field(v.array(rule), 'Types', 'Which columns, their type, and what a dash or n/a means.'),
  },
  commutesWithAppend: true,
  describe: ({ types, locale }) =>
    `${types.map(({ columns, ...format }) => `${describeChoice(columns)}: ${describeFormat(format)}`).join('; ') || 'No types yet'} (${locale})`,
  run(sheet, { locale, types }) {
    const problems: Problem[] = [];
    const ruleOf = new Map<Column, TypeRule>();
    for (const each of types) {
      const { columns, problems: missing } = chosen(sheet, each.columns);
      problems.push(...missing);
      for (const column of columns) ruleOf.set(column, each);
    }
    const readersFor = readersIn(sheet, ruleOf);
    const free = freeNames(sheet.columns);
    const columns = sheet.columns.flatMap((column) => {
      const own = ruleOf.get(column);
      if (!own) return [column];
      const typed = typedColumn(column, own, readersFor(own, locales[locale]));
      typed.cells.forEach((cell, row) => {
        if (isError(cell) && cell !== column.cells[row])
          problems.push({
            kind: 'misfit',
            report: sheet.rows.report(row),
            page: sheet.rows.page(row),
            column: column.name,
            row: sheet.rows.id(row),
            expected: cell.expected,
            came: `“${cell.text}”`,
            remedy: 'Correct it with a step, hold the row, or choose another type.',
          });
      });
      return own.type === 'period' && own.days ? [typed, ...daysColumns(typed, free)] : [typed];
    });
    return { sheet: makeSheet(columns, sheet.rows), problems };
  },
});

/** The first and the last day of each period, in columns of their own. */
const daysColumns = (periods: Column, free: (wanted: string) => string): Column[] =>
  (['first', 'last'] as const).map((which) => ({
    name: free(`${periods.name} ${which} day`),
    type: 'date',
    cells: periods.cells.map((cell) => (typeof cell === 'string' ? (daysOf(cell)?.[which] ?? null) : null)),
    origins: periods.origins,
  }));

type ReadRow = (row: number) => (text: string) => Parsed;

/** The readers of each rule: one for all rows, or one a report, where each report tells by all numbers under the rule how they are printed. */
function readersIn(
  { rows }: Sheet,
  ruleOf: ReadonlyMap<Column, TypeRule>,
): (rule: TypeRule, locale: Locale) => ReadRow {
  const known = new Map<TypeRule, ReadRow>();
  const byReport = (rule: TypeRule, locale: Locale): ReadRow => {
    const texts = new Map<string, string[]>();
    for (const [column, own] of ruleOf)
      if (own === rule)
        column.cells.forEach((cell, row) => {
          if (cell === null || isError(cell)) return;
          const report = rows.report(row);
          const all = texts.get(report);
          if (all) all.push(cellText(cell));
          else texts.set(report, [cellText(cell)]);
        });
    const readers = new Map([...texts].map(([report, all]) => [report, remembered(ownMarks(all, rule, locale).read)]));
    const none = remembered(ownMarks([], rule, locale).read);
    return (row) => readers.get(rows.report(row)) ?? none;
  };
  return (rule, locale) => {
    let read = known.get(rule);
    if (!read) {
      const all = remembered(readerOf(rule, locale));
      known.set(rule, (read = rule.marks === asReport && isNumeric(rule.type) ? byReport(rule, locale) : () => all));
    }
    return read;
  };
}

function typedColumn(column: Column, format: Format, readRow: ReadRow): Column {
  const unit = unitOf(format);
  const cells = column.cells.map((cell, row): Cell => {
    if (cell === null) return cell;
    // As a text every text fits; as anything else a misfit stays one.
    if (isError(cell) && format.type !== 'text') return cell;
    const text = cellText(cell);
    const parsed = readRow(row)(text);
    if (!('value' in parsed)) return { text, expected: parsed.expected };
    // A whole number larger than these is not exact any more.
    return format.type === 'integer' && typeof parsed.value === 'number' && !Number.isSafeInteger(parsed.value)
      ? { text, expected: 'a whole number of at most 15 digits' }
      : parsed.value;
  });
  const { unit: _, ...bare } = column;
  return { ...bare, type: format.type === 'duration' ? 'decimal' : format.type, cells, ...(unit ? { unit } : {}) };
}
