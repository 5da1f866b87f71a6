import type { Expecting, Found } from './difference';
import { tally, usualIn } from './reference';
import { expectedOf, type ResolvedColumn, type ResolvedTable } from './resolved';

type Tables = readonly (ResolvedTable | undefined)[];

/** How large a part must agree on what is usual. */
const agreed = 0.8;
const least = 2;

/**
 * What is different about tables as a whole: what is stated above them, how their numbers are printed, the order of the columns,
 * heading rows, how many there are.
 * @param unsettled reports whose columns are in question already
 */
export function tableDifferences(
  rule: string,
  tables: Tables,
  { ownMarks }: Pick<Expecting, 'ownMarks'>,
  unsettled: ReadonlyMap<number, ReadonlySet<string>>,
): Found[] {
  const found = new Map<string, Omit<Found, 'at'> & { at: number[] }>();
  const expected = expectedOf(tables);
  const compare = (
    what: Found['what'],
    of: (table: ResolvedTable) => string | undefined,
    {
      holds = false,
      asked = () => true,
    }: { holds?: boolean; asked?: (i: number, before: string, now: string) => boolean } = {},
  ) => {
    const said = tables.map((table) => table && of(table));
    const all = tally(expected.flatMap((each) => said[each] ?? []));
    const counts = new Set(expected);
    tables.forEach((table, i) => {
      const now = said[i];
      if (!table || table.seen.known || now === undefined) return;
      const before = usualIn(all, agreed, counts.has(i) ? now : undefined);
      if (
        before === undefined ||
        before === now ||
        all.size - (counts.has(i) ? 1 : 0) < least ||
        !asked(i, before, now)
      )
        return;
      const id = JSON.stringify([what, before, now]);
      const known = found.get(id);
      if (known) known.at.push(i);
      else
        found.set(id, {
          what,
          rule,
          column: '',
          before,
          now,
          at: [i],
          holds,
          proposals: holds ? [{ decided: 'as it is' }, { decided: 'hold back' }] : [{ decided: 'as it is' }],
        });
    });
  };

  compare('other scale', ({ table }) => table.scale.toLowerCase(), { holds: true });
  compare('other unit', ({ table }) => table.unit.toLowerCase(), {
    holds: true,
    asked: (_, before, now) => before !== '' && now !== '',
  });
  if (!ownMarks) compare('other marks', marksOf, { holds: true });
  compare('order', ({ columns }) => columns.map((column) => `“${nameInPlace(column, columns)}”`).join(', '), {
    asked: (_, before, now) => before.split(', ').sort().join() === now.split(', ').sort().join(),
  });
  compare('heading rows', ({ table }) => String(table.headingRows), { asked: (i) => !unsettled.has(i) });
  if (expected.length >= 3) {
    compare('tables', ({ table }) => counted(table.tables, ''));
    // Told once, with the first rule.
    compare('tables', ({ seen: { traits } }) =>
      traits.tables[0].rule === rule ? counted(traits.others, ' that no rule takes') : undefined,
    );
  }
  const few = oddRowCounts(tables, expected);
  return [
    ...found.values(),
    ...few.map((each): Found => ({
      ...each,
      what: 'rows',
      rule,
      column: '',
      holds: false,
      proposals: [{ decided: 'as it is' }],
    })),
  ];
}

const counted = (tables: number, which: string) => `${tables} ${tables === 1 ? 'table' : 'tables'}${which}`;

/** Beyond the usual band by as much as it is wide, as factors, and by this one at least. */
const leastFactor = 1.5;
const enoughReports = 4;

/** Reports that have many more or many fewer rows than all others ever had. */
function oddRowCounts(tables: Tables, expected: readonly number[]): { at: number[]; before: string; now: string }[] {
  const counts = expected.map((each) => tables[each]!.table.rows).sort((a, b) => a - b);
  const counting = new Set(expected);
  return tables.flatMap((table, i) => {
    const own = counting.has(i) ? 1 : 0;
    if (!table || table.seen.known || counts.length - own < enoughReports) return [];
    const { rows } = table.table;
    // The least and the most of the others: without itself, where it is one of the ends.
    const low = own && rows === counts[0] ? counts[1] : counts[0];
    const high = own && rows === counts.at(-1) ? counts.at(-2)! : counts.at(-1)!;
    const factor = Math.max(leastFactor, high / Math.max(1, low));
    if (rows >= low / factor && rows <= high * factor) return [];
    return [{ at: [i], before: low === high ? String(low) : `${low} to ${high}`, now: String(rows) }];
  });
}

/** The name by which a column stands at its place: contents put back where they belong do not move the headings. */
const nameInPlace = ({ name, printed }: ResolvedColumn, columns: readonly ResolvedColumn[]) =>
  columns.some((other) => other.printed !== printed && other.printed.name === name) ? printed.name : name;

/** How the numbers of a table are printed, where that is beyond doubt. */
function marksOf({ table: { points, commas } }: ResolvedTable): string | undefined {
  if (points + commas < 3) return undefined;
  return points > 5 * commas ? 'a decimal point' : commas > 5 * points ? 'a decimal comma' : undefined;
}
