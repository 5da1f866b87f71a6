import type { Column } from '../sheet/column';
import type { Sheet } from '../sheet/sheet';
import { cellText, isBlank } from '../values/cell';
import { exactSum } from '../values/exact';
import { decimalsOf } from '../values/plain-number';
import type { Check } from './check';
import { statedNumbers, statedRows, type Lines, type StatedNumber } from './printed-count';
import { failuresOf, isRounded, keyOf } from './run-checks';

/** What holds in the rows of one report. */
export interface SheetFacts {
  readonly rows: number;
  readonly columns: readonly {
    readonly name: string;
    readonly number: boolean;
    readonly unique: boolean;
    readonly filled: boolean;
    readonly least?: number;
    /** Its different texts, where they are few. */ readonly values?: readonly string[];
  }[];
  /** Pairs of columns that are unique together, where neither is alone. */
  readonly keys: readonly (readonly [string, string])[];
  /** Relations among columns of numbers that hold in every row. */
  readonly relations: readonly Relation[];
  /** Columns that are a running balance, with what moves them. */
  readonly balances: readonly {
    readonly balance: string;
    readonly plus: readonly string[];
    readonly minus: readonly string[];
  }[];
  /** Columns that state on every row how many rows there are. */
  readonly stated: readonly string[];
  /** Columns that add up to what another states on every row. */
  readonly sums: readonly { readonly column: string; readonly is: string }[];
  /** Forms of the lines on its paper that state how many rows there are. */
  readonly counts: readonly string[];
  /** Columns of shares that give 100. */
  readonly shares: readonly string[];
}

interface Relation {
  readonly kind: 'sum' | 'product';
  readonly columns: readonly [string, string];
  readonly is: string;
}

/** A check that would hold in all reports so far. */
export interface ProposedCheck {
  readonly check: Check;
  /** Reports in which there is something to hold. */
  readonly reports: number;
}

const fewValues = 12;
const mostRelated = 10;
const leastRelated = 4;

export function factsOf({ columns, rows }: Sheet, paper: Lines): SheetFacts {
  return {
    rows: rows.length,
    columns: columns.map((column) => {
      const filled = column.cells.filter((cell) => !isBlank(cell));
      const values = new Set(filled.map(cellText));
      const numbers = filled.filter((cell): cell is number => typeof cell === 'number');
      const number = filled.length > 0 && numbers.length === filled.length;
      return {
        name: column.name,
        number,
        unique: rows.length > 1 && filled.length === rows.length && isUnique([column], rows.length),
        filled: rows.length > 0 && filled.length === rows.length,
        ...(number ? { least: numbers.reduce((least, value) => Math.min(least, value), Infinity) } : {}),
        ...(column.type === 'text' && values.size <= fewValues && values.size < filled.length / 2
          ? { values: [...values] }
          : {}),
      };
    }),
    keys: keysIn(columns, rows.length),
    relations: relationsIn(columns, rows.length),
    balances: balancesIn(columns, rows.length),
    stated:
      rows.length > 1
        ? columns
            .filter(({ cells }) => cells.every((cell) => cellText(cell) === String(rows.length)))
            .map(({ name }) => name)
        : [],
    sums: statedSums(columns, rows.length),
    counts: rows.length > 0 ? countsIn(statedNumbers(paper), rows.length) : [],
    shares: columns
      .filter(
        (column) =>
          holds(
            { id: '', severity: 'tell', kind: 'adds up to', column: column.name, is: 100, by: [] },
            [column],
            rows.length,
          ) && column.cells.filter((cell) => typeof cell === 'number' && cell !== 0).length > 1,
      )
      .map(({ name }) => name),
  };
}

/** The forms of lines that state how many rows there are. */
function countsIn(stated: readonly StatedNumber[], rows: number): string[] {
  const byForm = new Map<string, StatedNumber[]>();
  for (const each of stated) {
    const own = byForm.get(each.form);
    if (own) own.push(each);
    else byForm.set(each.form, [each]);
  }
  return [...byForm].flatMap(([form, own]) => (statedRows(own, form, rows)?.says === rows ? [form] : []));
}

/** Columns that say the same number on every row, as what others add up to. */
function statedSums(columns: readonly Column[], rows: number): SheetFacts['sums'][number][] {
  const numbers = columns.filter(({ cells }) => cells.some((cell) => typeof cell === 'number' && cell !== 0));
  const stated = rows > 1 ? numbers.filter(({ cells }) => cells.every((cell) => cell === cells[0])) : [];
  return stated.flatMap((is) =>
    numbers
      .filter(
        (column) =>
          !stated.includes(column) &&
          holds({ id: '', severity: 'tell', kind: 'stated sum', column: column.name, is: is.name }, [column, is], rows),
      )
      .map((column) => ({ column: column.name, is: is.name })),
  );
}

const mostKeys = 8;

function keysIn(columns: readonly Column[], rows: number): [string, string][] {
  const candidates = columns
    .filter(
      ({ type, cells }) =>
        (type === 'text' || type === 'date' || type === 'period') && rows > 1 && cells.every((cell) => !isBlank(cell)),
    )
    .slice(0, mostKeys);
  const alone = candidates.filter((column) => isUnique([column], rows));
  return candidates.flatMap((a, n) =>
    candidates
      .slice(n + 1)
      .flatMap((b): [string, string][] =>
        !alone.includes(a) && !alone.includes(b) && isUnique([a, b], rows) ? [[a.name, b.name]] : [],
      ),
  );
}

function isUnique(columns: readonly Column[], rows: number): boolean {
  const seen = new Set<string>();
  for (let row = 0; row < rows; row++) {
    const key = keyOf(columns, row)!;
    if (seen.has(key)) return false;
    seen.add(key);
  }
  return true;
}

const holds = (check: Check, columns: readonly Column[], rows: number): boolean =>
  failuresOf(check, columns, rows).length === 0;

/** Running balances: a column that each movement of one or two others changes. */
function balancesIn(columns: readonly Column[], rows: number): SheetFacts['balances'][number][] {
  const numbers = columns.filter(({ cells }) => cells.some((cell) => typeof cell === 'number')).slice(0, mostRelated);
  const full = numbers.filter(({ cells }) => cells.every((cell) => typeof cell === 'number'));
  const found: SheetFacts['balances'][number][] = [];
  for (const balance of rows > leastRelated ? full : []) {
    if (new Set(balance.cells).size < 3) continue;
    const others = numbers.filter((column) => column !== balance);
    const ways = others.flatMap((a) => [
      { plus: [a], minus: [] as Column[] },
      { plus: [] as Column[], minus: [a] },
      ...others.filter((b) => b !== a).map((b) => ({ plus: [a], minus: [b] })),
    ]);
    const way = ways.find(({ plus, minus }) =>
      holds(
        {
          id: '',
          severity: 'tell',
          kind: 'balance',
          balance: balance.name,
          plus: plus.map(({ name }) => name),
          minus: minus.map(({ name }) => name),
        },
        columns,
        rows,
      ),
    );
    if (way)
      found.push({
        balance: balance.name,
        plus: way.plus.map(({ name }) => name),
        minus: way.minus.map(({ name }) => name),
      });
  }
  return found;
}

/** Sums and products of two columns that a third is, in every row that has all of them. */
function relationsIn(columns: readonly Column[], rows: number): Relation[] {
  const numbers = columns
    .filter(({ cells }) => cells.some((cell) => typeof cell === 'number' && cell !== 0))
    .slice(0, mostRelated);
  const relations: Relation[] = [];
  const relate = (a: Column, b: Column, c: Column, work: (x: number, y: number) => number) => {
    let [held, telling] = [0, 0];
    const digits = decimalsOf(c.cells);
    for (let row = 0; row < rows; row++) {
      const [x, y, z] = [a.cells[row], b.cells[row], c.cells[row]];
      if (typeof x !== 'number' || typeof y !== 'number' || typeof z !== 'number') continue;
      if (!isRounded(work(x, y), z, digits)) return false;
      held++;
      // Nought and one say nothing.
      if (![x, y].some((value) => value === 0 || value === 1)) telling++;
    }
    return held >= leastRelated && telling >= leastRelated / 2;
  };
  numbers.forEach((a, n) => {
    for (const b of numbers.slice(n + 1))
      for (const c of numbers) {
        if (c === a || c === b) continue;
        if (relate(a, b, c, (x, y) => exactSum([x, y])))
          relations.push({ kind: 'sum', columns: [a.name, b.name], is: c.name });
        else if (relate(a, b, c, (x, y) => x * y))
          relations.push({ kind: 'product', columns: [a.name, b.name], is: c.name });
      }
  });
  return relations;
}

/** Least reports in which something must hold to be proposed; of one listing that comes once, one is all there is. */
const enough = (reports: number) => Math.min(3, reports);

/** Checks that hold in all reports so far and are not there yet, the weightiest first. */
export function proposedChecks(facts: readonly SheetFacts[], there: readonly Check[]): ProposedCheck[] {
  const told = facts.filter(({ rows }) => rows > 0);
  const names = [...new Set(told.flatMap(({ columns }) => columns.map(({ name }) => name)))];
  const proposals: ProposedCheck[] = [];
  const propose = (check: Check, reports: number) => {
    const same = (other: Check) =>
      JSON.stringify({ ...check, id: '', severity: '' }) === JSON.stringify({ ...other, id: '', severity: '' });
    if (reports >= enough(told.length) && reports > 0 && !there.some((each) => same(each) || covers(each, check)))
      proposals.push({ check, reports });
  };
  const of = (name: string) => told.flatMap(({ columns }) => columns.find((column) => column.name === name) ?? []);
  const balances = new Map(
    told.flatMap((each) => each.balances.map((found) => [JSON.stringify(found), found] as const)),
  );
  for (const [key, { balance, plus, minus }] of balances) {
    const withAll = told.filter(
      ({ rows, columns }) => rows > leastRelated && columns.some(({ name }) => name === balance),
    );
    if (withAll.every((each) => each.balances.some((other) => JSON.stringify(other) === key)))
      propose(
        { ...idOf('balance', key), kind: 'balance', balance, plus: [...plus], minus: [...minus] },
        withAll.length,
      );
  }
  for (const name of names) {
    const all = told.filter(({ columns }) => columns.some((column) => column.name === name));
    if (all.every(({ stated }) => stated.includes(name)))
      propose({ ...idOf('stated rows', name), kind: 'stated rows', column: name }, all.length);
    if (all.every(({ shares }) => shares.includes(name)))
      propose({ ...idOf('adds up to', name), kind: 'adds up to', column: name, is: 100, by: [] }, all.length);
  }
  const sums = new Map(told.flatMap((each) => each.sums.map((sum) => [JSON.stringify(sum), sum] as const)));
  for (const [key, { column, is }] of sums) {
    const withBoth = told.filter(
      ({ rows, columns }) => rows > 1 && [column, is].every((name) => columns.some((each) => each.name === name)),
    );
    if (withBoth.every((each) => each.sums.some((other) => JSON.stringify(other) === key)))
      propose({ ...idOf('stated sum', key), kind: 'stated sum', column, is }, withBoth.length);
  }
  // Where all have as many rows, a number that always stands there says nothing.
  if (new Set(told.map(({ rows }) => rows)).size > 1)
    for (const line of told[0].counts)
      if (told.every(({ counts }) => counts.includes(line)))
        propose({ ...idOf('printed count', line), kind: 'printed count', line }, told.length);
  const relations = new Map(
    told.flatMap((each) => each.relations.map((relation) => [JSON.stringify(relation), relation] as const)),
  );
  for (const [key, relation] of relations) {
    const withAll = told.filter(({ columns }) =>
      [...relation.columns, relation.is].every((name) => columns.find((column) => column.name === name)?.number),
    );
    if (withAll.every((each) => each.relations.some((other) => JSON.stringify(other) === key)))
      propose({ ...idOf(relation.kind, key), ...relation, columns: [...relation.columns] }, withAll.length);
  }
  for (const name of names) {
    const all = of(name);
    if (all.every(({ unique }) => unique) && all.some(({ number }) => !number))
      propose({ ...idOf('unique', name), kind: 'unique', columns: [name], over: 'report' }, all.length);
  }
  const pairs = new Map(told.flatMap(({ keys }) => keys.map((key) => [JSON.stringify(key), key] as const)));
  for (const [id, key] of pairs) {
    if (
      told.every(
        ({ keys, columns }) =>
          keys.some((other) => JSON.stringify(other) === id) ||
          columns.some(({ name, unique }) => unique && key.includes(name)),
      )
    )
      propose({ ...idOf('unique', id), kind: 'unique', columns: [...key], over: 'report' }, told.length);
  }
  // One press keeps all of them.
  const filled = names.filter(
    (name) =>
      of(name).length === told.length &&
      of(name).every((each) => each.filled) &&
      !there.some((each) => each.kind === 'filled' && each.columns.includes(name)),
  );
  if (filled.length > 0) propose({ ...idOf('filled', filled.join()), kind: 'filled', columns: filled }, told.length);
  for (const name of names) {
    const all = of(name);
    if (all.every(({ number }) => number) && all.every(({ least }) => least! >= 0))
      propose({ ...idOf('range', name), kind: 'range', column: name, least: 0 }, all.length);
    const values = [...new Set(all.flatMap((each) => each.values ?? []))];
    if (all.every((each) => each.values) && values.length > 1 && values.length <= fewValues)
      propose({ ...idOf('allowed', name), kind: 'allowed', column: name, values: values.sort() }, all.length);
  }
  return proposals;
}

const idOf = (kind: string, of: string) => ({ id: `${kind}-${hash(of)}`, severity: 'tell' as const });
const hash = (text: string): string =>
  [...text].reduce((sum, letter) => Math.imul(sum ^ letter.codePointAt(0)!, 0x01000193) >>> 0, 0x811c9dc5).toString(36);

/** A check that is there and says as much: another list of values or range of the same column, or the same columns among others. */
function covers(there: Check, proposed: Check): boolean {
  if (there.kind !== proposed.kind) return false;
  if (
    (there.kind === 'range' || there.kind === 'allowed') &&
    (proposed.kind === 'range' || proposed.kind === 'allowed')
  )
    return there.column === proposed.column;
  return (
    there.kind === 'filled' &&
    proposed.kind === 'filled' &&
    proposed.columns.every((name) => there.columns.includes(name))
  );
}
