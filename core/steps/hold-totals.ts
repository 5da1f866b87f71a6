import * as v from 'valibot';
import { cellText } from '../values/cell';
import { rowsAt, type Sheet } from '../sheet/sheet';
import { plainNumber } from '../values/plain-number';
import { localeNames, locales } from '../values/locale';
import { standsOverIndented } from './indents';
import { wildcard } from './wildcard';
import { field, hold, step } from './step';
import { totalsOver, totalsOverIndented, type TotalRow } from './totals-over';

export const holdTotals = step({
  kind: 'hold totals',
  title: 'Hold totals',
  group: 'rows',
  help: 'Printed totals leave the data and are kept with the rows that each covers: the dataset must add up to them.',
  settings: {
    wording: field(v.optional(v.array(v.string()), []), 'Wording', 'Texts such as “Total *”; a * stands for any text.'),
    marked: field(v.optional(v.boolean(), true), 'Rows marked as totals'),
    bold: field(v.optional(v.boolean(), false), 'Bold rows with amounts'),
    indented: field(v.optional(v.boolean(), false), 'Rows with amounts over rows further in'),
    arithmetic: field(
      v.optional(v.boolean(), false),
      'Rows that add up',
      'Rows whose amounts are the sum of the rows above, back to the total before or beyond it.',
    ),
    locale: field(
      v.optional(v.picklist(localeNames), 'en-GB'),
      'Amounts as in',
      'How amounts are printed, as long as their types are not set.',
    ),
  },
  commutesWithAppend: ({ arithmetic }) => !arithmetic,
  describe: ({ wording, marked, bold, indented, arithmetic }) =>
    [
      wording.length > 0 && wording.join(', '),
      marked && 'rows marked as totals',
      bold && 'bold rows with amounts',
      indented && 'rows with amounts over rows further in',
      arithmetic && 'rows that add up',
    ]
      .filter(Boolean)
      .join('; ') || 'No way to know a total yet',
  run(sheet, { wording, marked, bold, indented, arithmetic, locale }, around) {
    const patterns = wording.map((text) => ({ text, pattern: wildcard(text) }));
    const known = sheet.rows.map((row): string | undefined => {
      const texts = sheet.columns.map((column) => cellText(column.cells[row])).filter((text) => text !== '');
      const said = patterns.find(({ pattern }) => texts.some((text) => pattern.test(text)));
      if (said) return `total by wording “${said.text}”`;
      const role = sheet.rows.role(row);
      if (marked && (role === 'total' || role === 'subtotal')) return `marked as ${role}`;
      const looks =
        bold && sheet.rows.bold(row)
          ? 'bold row with amounts'
          : indented && standsOverIndented(sheet, row)
            ? overIndented
            : undefined;
      return looks && texts.some((text) => /\d/.test(text)) ? looks : undefined;
    });
    const isKnown = (row: number) => known[row] !== undefined && !around.letPass(sheet, row);
    const mayBe = (row: number) => arithmetic && !around.letPass(sheet, row);
    const heads = known.includes(overIndented)
      ? totalsOverIndented(sheet, locales[locale], (row) => known[row] === overIndented && isKnown(row))
      : undefined;
    const totals = heads
      ? besideHeads(sheet, heads, (others, at) =>
          totalsOver(
            others,
            locales[locale],
            (row) => isKnown(at[row]),
            (row) => mayBe(at[row]),
          ),
        )
      : totalsOver(sheet, locales[locale], isKnown, mayBe);
    const result = hold(
      sheet,
      around,
      (row) => (totals[row] ? `${known[row] ?? 'adds up'}, ${coverText(totals[row], sheet)}` : undefined),
      'totals',
    );
    return result.held
      ? {
          ...result,
          held: {
            ...result.held,
            covers: totals.flatMap((total) =>
              total
                ? [
                    {
                      rows: total.from.map((row) => sheet.rows.numbers[row]),
                      level: total.level,
                      differs: total.differs.map((each) => ({ ...each, column: sheet.columns[each.column].name })),
                    },
                  ]
                : [],
            ),
          },
        }
      : result;
  },
});

const overIndented = 'over rows further in';

/** The totals among the other rows: what is known to stand over its rows is none of those that another adds up. */
function besideHeads(
  sheet: Sheet,
  heads: readonly (TotalRow | undefined)[],
  among: (others: Sheet, at: readonly number[]) => readonly (TotalRow | undefined)[],
): (TotalRow | undefined)[] {
  const at = sheet.rows.map((row) => row).filter((row) => !heads[row]);
  const totals = [...heads];
  among(rowsAt(sheet, at), at).forEach(
    (total, row) => (totals[at[row]] = total && { ...total, from: total.from.map((own) => at[own]) }),
  );
  return totals;
}

function coverText({ from, compared, differs }: TotalRow, { rows, columns }: Sheet): string {
  if (from.length === 0) return 'covers no row';
  const pages = [...new Set([rows.page(from[0]), rows.page(from.at(-1)!)])];
  return `covers ${from.length} ${from.length === 1 ? 'row' : 'rows'} of page ${pages.join(' to ')}${compared === 0 ? '' : differs.length === 0 ? ', adding up to it' : `; ${differs.map(({ column, printed, computed }) => `“${columns[column].name}” does not add up: printed ${plainNumber(printed)}, the rows give ${plainNumber(computed)}`).join('; ')}`}`;
}
