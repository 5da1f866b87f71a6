import * as v from 'valibot';
import { cellText, isError, type Cell } from '../sheet/cell';
import type { Problem } from '../sheet/problem';
import { sheet as makeSheet, valueTypes, type Column, type ValueType } from '../sheet/sheet';
import { parseDate } from '../values/date';
import { localeNames, locales, type Locale } from '../values/locale';
import { parseNumber } from '../values/number';
import { misfit, value, type Parsed } from '../values/parsed';
import { parsePeriod } from '../values/period';
import { chosen, columnChoice, describeChoice } from './column-choice';
import { field, step } from './step';

/** Types that the step can set; times come as text until their reader is there. */
const settable = valueTypes.filter((type) => type !== 'time' && type !== 'datetime') as Exclude<ValueType, 'time' | 'datetime'>[];

const rule = v.object({
  columns: field(columnChoice, 'Columns'),
  type: field(v.picklist(settable), 'Type'),
  nil: field(v.optional(v.picklist(['blank', 'zero']), 'blank'), 'A dash is'),
});
type Rule = v.InferOutput<typeof rule>;

export const setTypes = step({
  kind: 'set types',
  title: 'Set types',
  group: 'values',
  help: 'Turns printed texts into numbers, dates and periods. A text that does not fit stays as an error cell.',
  settings: {
    locale: field(v.optional(v.picklist(localeNames), 'en-GB'), 'Printed as in'),
    types: field(v.array(rule), 'Types', 'Which columns, their type, and what a dash for nil means.'),
  },
  commutesWithAppend: true,
  describe: ({ types, locale }) => `${types.map(({ columns, type }) => `${describeChoice(columns)}: ${type}`).join('; ') || 'No types yet'} (${locale})`,
  run(sheet, { locale, types }) {
    const problems: Problem[] = [];
    const ruleOf = new Map<Column, Rule>();
    for (const each of types) {
      const { columns, problems: missing } = chosen(sheet, each.columns);
      problems.push(...missing);
      for (const column of columns) ruleOf.set(column, each);
    }
    const columns = sheet.columns.map((column) => {
      const own = ruleOf.get(column);
      if (!own) return column;
      const typed = typedColumn(column, own, locales[locale]);
      typed.cells.forEach((cell, row) => {
        if (isError(cell) && cell !== column.cells[row])
          problems.push({
            kind: 'misfit',
            report: sheet.rows[row].report,
            page: sheet.rows[row].page,
            column: column.name,
            row,
            expected: cell.reason.replace(/^expected /, '').replace(/, got .*$/, ''),
            came: `“${cell.text}”`,
            remedy: 'Correct it with a step, hold the row, or choose another type.',
          });
      });
      return typed;
    });
    return { sheet: makeSheet(columns, sheet.rows), problems };
  },
});

function typedColumn(column: Column, { type, nil }: Rule, locale: Locale): Column {
  // The same text means the same thing all down the column, and is read once.
  const read = new Map<string, Cell>();
  const cells = column.cells.map((cell): Cell => {
    if (cell === null || isError(cell)) return cell;
    const text = cellText(cell);
    let parsed = read.get(text);
    if (parsed === undefined) {
      const result = parse(text, type, nil, locale);
      parsed = 'value' in result ? result.value : { text, reason: `expected ${result.expected}, got '${text}'` };
      read.set(text, parsed);
    }
    return parsed;
  });
  return { ...column, type, cells };
}

function parse(text: string, type: Rule['type'], nil: Rule['nil'], locale: Locale): Parsed {
  switch (type) {
    case 'text':
      return value(text);
    case 'integer':
    case 'decimal':
    case 'percent':
      return parseNumber(text, locale, { kind: type, nil });
    case 'date':
      return parseDate(text, locale);
    case 'period':
      return parsePeriod(text, locale);
    case 'boolean': {
      const word = text.trim().toLowerCase();
      return locale.yes.includes(word) ? value(true) : locale.no.includes(word) ? value(false) : misfit(`${locale.yes[0]} or ${locale.no[0]}`);
    }
  }
}
