import * as v from 'valibot';
import type { Problem } from '../sheet/problem';
import type { Column } from '../sheet/column';
import { sheet as makeSheet, type Sheet } from '../sheet/sheet';
import { sameName } from '../sheet/column';
import { chosen, columnChoice, describeChoice } from './column-choice';
import { isPattern, regularExpression } from './pattern';
import { columnNames, field, step, widget } from './step';

const patternRule = v.object({
  pattern: field(v.string(), 'Pattern', 'A regular expression; its groups are $1, $2 below.'),
  replace: field(v.optional(v.string(), ''), 'Becomes'),
});
const series = v.object({
  columns: field(columnChoice, 'Columns'),
  name: field(
    v.pipe(v.string(), v.includes('#', 'Put # where the number stands, as in “Week #”.')),
    'Named',
    'The # becomes the number, as in “Week #”.',
  ),
  from: field(v.optional(v.pipe(v.number(), v.integer()), 1), 'First number'),
});

export const rename = step({
  kind: 'rename',
  title: 'Rename columns',
  group: 'columns',
  help: 'Gives columns new names: by a list in which several spellings may become one name, by a pattern, or as a counted series.',
  settings: {
    names: field(
      widget(
        v.optional(
          v.array(
            v.object({
              from: field(v.array(v.string()), 'Printed as'),
              to: field(v.pipe(v.string(), v.minLength(1, 'A column needs a name.')), 'New name'),
            }),
          ),
          [],
        ),
        { widget: 'pairs', of: columnNames },
      ),
      'Names',
      'The new name, and every spelling that becomes it.',
    ),
    patterns: field(v.optional(v.array(patternRule), []), 'Patterns', 'For the names that are not in the list.'),
    series: field(v.optional(v.array(series), []), 'Counted series'),
  },
  commutesWithAppend: ({ series }) => series.length === 0,
  describe: ({ names, patterns, series }) =>
    [
      ...names.map(({ to, from }) => `${from.join(' / ')} → ${to}`),
      ...patterns.map(({ pattern, replace }) => `${pattern} → ${replace}`),
      ...series.map(({ columns, name }) => `${describeChoice(columns)} → ${name}`),
    ].join(', ') || 'No names yet',
  run(sheet, { names, patterns, series }) {
    const problems: Problem[] = [];
    const expressions = patterns.flatMap(({ pattern, replace }) => {
      const expression = regularExpression(pattern);
      if (isPattern(expression)) return [{ expression, replace }];
      problems.push(expression);
      return [];
    });
    const counted = new Map<Column, string>();
    for (const each of series) {
      const { columns, problems: missing } = chosen(sheet, each.columns);
      problems.push(...missing);
      columns.forEach((column, i) => counted.set(column, each.name.replaceAll('#', String(each.from + i))));
    }
    const wanted = (column: Column): string => {
      const listed =
        names.find(({ from }) => from.some((name) => sameName(name, column.name)))?.to ?? counted.get(column);
      if (listed) return listed;
      const found = expressions.find(({ expression }) => expression.test(column.name));
      return (found && found.expression.replace(column.name, found.replace, 'first').trim()) || column.name;
    };
    return { sheet: renamedTo(sheet, wanted, problems), problems };
  },
});

/** The sheet with other column names; a name that two columns would bear is a problem, and the latter keeps its own. */
export function renamedTo(sheet: Sheet, wanted: (column: Column) => string, problems: Problem[]): Sheet {
  const to = new Map(sheet.columns.map((column) => [column, wanted(column)]));
  const taken = new Set<string>();
  const columns = sheet.columns.map((column) => {
    const name = to.get(column)!;
    const staysOther =
      name !== column.name &&
      sheet.columns.some((other) => other !== column && other.name === name && to.get(other) === name);
    if (!taken.has(name) && !staysOther) {
      taken.add(name);
      return name === column.name ? column : { ...column, name };
    }
    problems.push({
      kind: 'step',
      column: column.name,
      expected: `one column to be named “${name}”`,
      came: 'two of them in one sheet',
      remedy: 'Give one of the spellings another name.',
    });
    let own = column.name;
    while (taken.has(own)) own = `${own} (${column.name})`;
    taken.add(own);
    return own === column.name ? column : { ...column, name: own };
  });
  return makeSheet(columns, sheet.rows);
}
