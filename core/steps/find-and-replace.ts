import * as v from 'valibot';
import { cellText, isBlank, isError, type Cell } from '../values/cell';
import type { Problem } from '../sheet/problem';
import { chosen, columnChoice, describeChoice } from './column-choice';
import { areByRow, condition, describeCondition, neededBy, testOf } from './conditions';
import { isPattern, literally, regularExpression, type Pattern } from './pattern';
import { remembered } from './remembered';
import { rewritten } from './rewrite';
import { field, step, when, widget } from './step';

const findWays = ['a text', 'the whole cell', 'a pattern', 'a blank', 'a misfit'] as const;

export const findAndReplace = step({
  kind: 'find and replace',
  title: 'Find and replace',
  group: 'values',
  help: 'Puts one text in the place of another: a part, the whole cell, a pattern with groups, blanks or misfits.',
  settings: {
    columns: field(columnChoice, 'In'),
    find: field(v.optional(v.picklist(findWays), 'a text'), 'Find'),
    text: field(
      when(
        widget(v.optional(v.string(), ''), { widget: 'pattern', of: 'columns', find: 'find', matchCase: 'matchCase' }),
        'find',
        'a text',
        'the whole cell',
        'a pattern',
      ),
      'Text or pattern',
      'A pattern is a regular expression; its groups are $1, $2 below.',
    ),
    replace: field(v.optional(v.string(), ''), 'Replace by', 'Blank: the cell becomes blank, or the part goes.'),
    matchCase: field(v.optional(v.boolean(), false), 'Capitals matter'),
    where: field(
      widget(v.optional(v.array(condition), []), { widget: 'conditions' }),
      'Only where',
      'Conditions that must all be true of the row.',
    ),
  },
  commutesWithAppend: ({ where }) => areByRow(where),
  needs: ({ where }) => neededBy(where),
  describe: ({ columns, find, text, replace, where }) =>
    `${find === 'a blank' || find === 'a misfit' ? find : `“${text}”`} → “${replace}” in ${describeChoice(columns)}${where.length > 0 ? ` where ${where.map(describeCondition).join(' and ')}` : ''}`,
  run(sheet, { columns, find, text, replace, matchCase, where }, { papers }) {
    const { columns: searched, problems } = chosen(sheet, columns);
    const tests = where.map((each) => testOf(sheet, each, papers));
    const missing = tests.filter((test): test is Problem => typeof test !== 'function');
    const pattern = searchFor(find, text, matchCase);
    if (pattern && !isPattern(pattern)) return { sheet, problems: [...problems, pattern] };
    if (missing.length > 0 || ((find === 'a text' || find === 'a pattern') && text === ''))
      return { sheet, problems: [...problems, ...missing] };
    const asked = tests.filter((test) => typeof test === 'function');
    const by: Cell = replace === '' ? null : replace;
    const written = remembered((own: string) => pattern!.replace(own, replace));
    const found = rewritten(sheet, searched, `found ${find}`, (cell, row) => {
      if (asked.some((test) => !test(row))) return cell;
      if (find === 'a blank') return isBlank(cell) ? by : cell;
      if (find === 'a misfit') return isError(cell) ? by : cell;
      if (cell === null || typeof cell === 'boolean') return cell;
      const own = cellText(cell);
      const next = written(own);
      return next === own ? cell : next === '' ? null : next;
    });
    return { ...found, problems };
  },
});

/** What is looked for; undefined for blanks and misfits. */
export function searchFor(
  find: (typeof findWays)[number],
  text: string,
  matchCase: boolean,
): Pattern | Problem | undefined {
  if (find === 'a pattern') return regularExpression(text, { capitals: matchCase });
  return find === 'a text' || find === 'the whole cell'
    ? literally(text, { capitals: matchCase, whole: find === 'the whole cell' })
    : undefined;
}
