import * as v from 'valibot';
import { cellText, isBlank, type Cell } from '../values/cell';
import type { Problem } from '../sheet/problem';
import { chosen, columnChoice, describeChoice } from './column-choice';
import { remembered } from './remembered';
import { rewritten } from './rewrite';
import { field, step, widget } from './step';

/** New values that are named one by one; the others are counted. */
const namedValues = 5;

export const recode = step({
  kind: 'recode',
  title: 'Recode',
  group: 'values',
  help: 'Puts other values in the place of those listed; what is not listed is kept, becomes blank, or is a problem.',
  settings: {
    columns: field(columnChoice, 'In'),
    values: field(
      widget(
        v.array(
          v.object({
            from: field(v.array(v.string()), 'Printed as'),
            to: field(v.optional(v.string(), ''), 'Becomes'),
          }),
        ),
        { widget: 'pairs', of: 'columns' },
      ),
      'Values',
    ),
    others: field(v.optional(v.picklist(['kept', 'blank', 'a problem']), 'kept'), 'Values not listed are'),
  },
  commutesWithAppend: true,
  describe: ({ columns, values }) =>
    `${values.map(({ from, to }) => `${from.join(' / ')} → ${to || 'blank'}`).join(', ') || 'No values yet'} in ${describeChoice(columns)}`,
  run(sheet, { columns, values, others }) {
    const { columns: coded, problems } = chosen(sheet, columns);
    const to = new Map(values.flatMap((each) => each.from.map((from) => [plain(from), each.to] as const)));
    const key = remembered(plain);
    const unlisted = new Map<string, Set<string>>();
    const result = rewritten(sheet, coded, 'recoded', (cell, _row, column): Cell => {
      if (isBlank(cell)) return cell;
      const text = cellText(cell);
      const known = to.get(key(text));
      if (known !== undefined) return known === '' ? null : known === text ? cell : known;
      unlisted.set(column.name, (unlisted.get(column.name) ?? new Set()).add(text));
      return others === 'blank' ? null : cell;
    });
    return {
      ...result,
      problems: [
        ...problems,
        ...(others === 'a problem' ? [...unlisted].map(([column, texts]) => notListed(column, [...texts])) : []),
      ],
    };
  },
});

const plain = (text: string) => text.trim().replace(/\s+/g, ' ').toLowerCase();

const notListed = (column: string, texts: readonly string[]): Problem => ({
  kind: 'step',
  column,
  expected: 'values that are listed',
  came: `${texts
    .slice(0, namedValues)
    .map((text) => `“${text}”`)
    .join(', ')}${texts.length > namedValues ? ` and ${texts.length - namedValues} more` : ''}`,
  remedy: 'Add them to the values, or let others be kept.',
});
