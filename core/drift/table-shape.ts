import type { Expecting, Found } from './difference';
import { usual } from './reference';
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
export function tableDifferences(rule: string, tables: Tables, { ownMarks }: Pick<Expecting, 'ownMarks'>, unsettled: ReadonlyMap<number, ReadonlySet<string>>): Found[] {
  const found = new Map<string, Omit<Found, 'at'> & { at: number[] }>();
  const expected = expectedOf(tables);
  const compare = (what: Found['what'], of: (table: ResolvedTable) => string | undefined, { holds = false, asked = () => true }: { holds?: boolean; asked?: (i: number, before: string, now: string) => boolean } = {}) =>
    tables.forEach((table, i) => {
      if (!table || table.seen.known) return;
      const now = of(table);
      const others = expected.flatMap((each) => (each === i ? [] : (of(tables[each]!) ?? [])));
      const before = usual(others, agreed);
      if (now === undefined || before === undefined || before === now || others.length < least || !asked(i, before, now)) return;
      const id = JSON.stringify([what, before, now]);
      const known = found.get(id);
      if (known) known.at.push(i);
      else found.set(id, { what, rule, column: '', before, now, at: [i], holds, proposals: holds ? [{ decided: 'as it is' }, { decided: 'hold back' }] : [{ decided: 'as it is' }] });
    });

  compare('other scale', ({ table }) => table.scale.toLowerCase(), { holds: true });
  compare('other unit', ({ table }) => table.unit.toLowerCase(), { holds: true, asked: (_, before, now) => before !== '' && now !== '' });
  if (!ownMarks) compare('other marks', marksOf, { holds: true });
  compare('order', ({ columns }) => columns.map((column) => `“${nameInPlace(column, columns)}”`).join(', '), { asked: (_, before, now) => before.split(', ').sort().join() === now.split(', ').sort().join() });
  compare('heading rows', ({ table }) => String(table.headingRows), { asked: (i) => !unsettled.has(i) });
  if (expected.length >= 3) {
    compare('tables', ({ table }) => counted(table.tables, ''));
    // Told once, with the first rule.
    compare('tables', ({ seen: { traits } }) => (traits.tables[0].rule === rule ? counted(traits.others, ' that no rule takes') : undefined));
  }
  const few = oddRowCounts(tables, expected);
  return [...found.values(), ...few.map((each): Found => ({ ...each, what: 'rows', rule, column: '', holds: false, proposals: [{ decided: 'as it is' }] }))];
}

const counted = (tables: number, which: string) => `${tables} ${tables === 1 ? 'table' : 'tables'}${which}`;

/** Beyond the usual band by as much as it is wide, as factors, and by this one at least. */
const leastFactor = 1.5;
const enoughReports = 4;

/** Reports that have many more or many fewer rows than all others ever had. */
function oddRowCounts(tables: Tables, expected: readonly number[]): { at: number[]; before: string; now: string }[] {
  return tables.flatMap((table, i) => {
    const others = expected.flatMap((each) => (each === i ? [] : [tables[each]!.table.rows]));
    if (!table || table.seen.known || others.length < enoughReports) return [];
    const [low, high] = [Math.min(...others), Math.max(...others)];
    const { rows } = table.table;
    const factor = Math.max(leastFactor, high / Math.max(1, low));
    if (rows >= low / factor && rows <= high * factor) return [];
    return [{ at: [i], before: low === high ? String(low) : `${low} to ${high}`, now: String(rows) }];
  });
}

/** The name by which a column stands at its place: contents put back where they belong do not move the headings. */
const nameInPlace = ({ name, printed }: ResolvedColumn, columns: readonly ResolvedColumn[]) => (columns.some((other) => other.printed !== printed && other.printed.name === name) ? printed.name : name);

/** How the numbers of a table are printed, where that is beyond doubt. */
function marksOf({ table: { points, commas } }: ResolvedTable): string | undefined {
  if (points + commas < 3) return undefined;
  return points > 5 * commas ? 'a decimal point' : commas > 5 * points ? 'a decimal comma' : undefined;
}
