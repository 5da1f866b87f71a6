// Functions that look at other rows of the same report: of all of it, of a part of it, or of those up to the own row.
import type { Over, Span } from './ast';
import { alike, taken, typeNames, type Checked, type Source, type Worked } from './checked';
import { Faulty } from './fault';
import { Mishap } from './mishap';
import { add, divide, truncated, whole, zero, type Numeric } from './numeric';
import { orderOf, textOf, type FormulaType, type Value } from './value';
import { own } from '../values/own';

export interface WindowFunction {
  readonly written: string;
  readonly says: string;
  /** Asks for order by report.row, or does without. */
  readonly ordered: 'must be' | 'may be';
  readonly takes: readonly [number, number];
  check(
    at: Span,
    args: readonly Checked[],
    ordered: boolean,
  ): {
    readonly type: FormulaType;
    readonly whole: boolean;
    work(of: Source, rowsOf: readonly (readonly number[])[]): Value[] | ((row: number) => Value);
  };
}

/** What came of a row: a value, or why there is none, which those who look at it have too. */
type Came = { readonly value: Value } | { readonly mishap: Mishap };

function cameOf(own: Worked): (row: number) => Came {
  return (row) => {
    try {
      return { value: own(row) };
    } catch (error) {
      if (error instanceof Mishap) return { mishap: error };
      throw error;
    }
  };
}
const valueOf = (came: Came): Value => {
  if ('mishap' in came) throw came.mishap;
  return came.value;
};

/** Values that are worked out when they are asked for first. */
function lazily(rows: number, fill: (came: Came[]) => void): (row: number) => Value {
  let all: Came[] | undefined;
  return (row) => {
    if (!all) fill((all = new Array<Came>(rows)));
    return valueOf(all[row]);
  };
}

/** What is gathered from row to row: up to the own one, or of all. */
function gathering<State>(
  arg: Checked | undefined,
  begin: () => State,
  put: (state: State, value: Value) => State,
  tell: (state: State) => Value,
  ordered: boolean,
) {
  return (of: Source, rowsOf: readonly (readonly number[])[]) => {
    const own = arg && cameOf(arg.work(of));
    return lazily(of.rows, (came) => {
      for (const rows of rowsOf) {
        let state = begin();
        let mishap: Came | undefined;
        for (const row of rows) {
          const each: Came = own ? own(row) : { value: true };
          if ('mishap' in each) mishap ??= each;
          else if (!mishap) state = put(state, each.value);
          if (ordered) came[row] = mishap ?? { value: tell(state) };
        }
        if (!ordered) for (const row of rows) came[row] = mishap ?? { value: tell(state) };
      }
    });
  };
}

const numbersOnly = (name: string, arg: Checked): Checked => {
  const own = taken(arg, 'numeric');
  if (!own)
    throw new Faulty(
      `${name} takes numbers, and this is ${typeNames[arg.type]}: set the type of the column in a step above, or write cast(... as numeric).`,
      arg,
    );
  return own;
};

/** The value so many rows before or behind. */
const shifted = (written: string, says: string, direction: -1 | 1): WindowFunction => ({
  written,
  says,
  ordered: 'must be',
  takes: [1, 3],
  check(_at, args) {
    const [own, other] = [args[0], args[2]];
    const { type, all } = alike(other ? [own, other] : [own], 'taken for one another');
    const distance = args[1] && numbersOnly('The distance', args[1]);
    return {
      type,
      whole: all.every(({ whole }) => whole),
      work(of, rowsOf) {
        const [value, instead] = all.map((each) => each.work(of));
        const by = distance?.work(of);
        // Of each row its part, and its place there.
        const [part, place] = [new Int32Array(of.rows), new Int32Array(of.rows)];
        rowsOf.forEach((rows, n) => rows.forEach((row, at) => ((part[row] = n), (place[row] = at))));
        return (row) => {
          const count = by ? by(row) : whole(1);
          if (count === null) return null;
          const found = rowsOf[part[row]][place[row] + direction * Number(truncated(count as Numeric, 0).n)];
          return found === undefined ? (instead?.(row) ?? null) : value(found);
        };
      },
    };
  },
});

const ofEnds = (written: string, says: string, better: (order: number) => boolean): WindowFunction => ({
  written,
  says,
  ordered: 'may be',
  takes: [1, 1],
  check(_at, args, ordered) {
    const { type, all } = alike(args, 'compared');
    const order = orderOf(type);
    return {
      type,
      whole: all[0].whole,
      work: gathering<Value>(
        all[0],
        () => null,
        (best, value) => (value !== null && (best === null || better(order(value, best))) ? value : best),
        (best) => best,
        ordered,
      ),
    };
  },
});

export const windows: Readonly<Record<string, WindowFunction>> = {
  lag: shifted(
    'lag(…) over (order by report.row)',
    'The value in the row before, or so many before; blank, or the third, where there is none.',
    -1,
  ),
  lead: shifted('lead(…) over (order by report.row)', 'The value in the next row, or so many further down.', 1),
  row_number: {
    written: 'row_number() over (order by report.row)',
    says: 'The number of the row, from 1.',
    ordered: 'must be',
    takes: [0, 0],
    check: () => ({
      type: 'numeric',
      whole: true,
      work: gathering<number>(
        undefined,
        () => 0,
        (count) => count + 1,
        (count) => whole(count),
        true,
      ),
    }),
  },
  first_value: {
    written: 'first_value(…) over (order by report.row)',
    says: 'The value in the first row.',
    ordered: 'must be',
    takes: [1, 1],
    check(_at, args) {
      const { type, all } = alike(args, 'compared');
      return {
        type,
        whole: all[0].whole,
        work: gathering<{ readonly value?: Value }>(
          all[0],
          () => ({}),
          (first, value) => ('value' in first ? first : { value }),
          ({ value = null }) => value,
          true,
        ),
      };
    },
  },
  sum: {
    written: 'sum(…) over (…)',
    says: 'The sum, exactly: of all rows, or with order by report.row of those up to the own one.',
    ordered: 'may be',
    takes: [1, 1],
    check(_at, args, ordered) {
      const own = numbersOnly('sum', args[0]);
      return {
        type: 'numeric',
        whole: own.whole,
        work: gathering<Numeric | null>(
          own,
          () => null,
          (sum, value) => (value === null ? sum : add(sum ?? zero, value as Numeric)),
          (sum) => sum,
          ordered,
        ),
      };
    },
  },
  avg: {
    written: 'avg(…) over (…)',
    says: 'The mean of the numbers; blanks do not count.',
    ordered: 'may be',
    takes: [1, 1],
    check(_at, args, ordered) {
      const own = numbersOnly('avg', args[0]);
      return {
        type: 'numeric',
        whole: false,
        work: gathering<{ sum: Numeric; count: number }>(
          own,
          () => ({ sum: zero, count: 0 }),
          (state, value) =>
            value === null ? state : { sum: add(state.sum, value as Numeric), count: state.count + 1 },
          ({ sum, count }) => (count === 0 ? null : divide(sum, whole(count))),
          ordered,
        ),
      };
    },
  },
  count: {
    written: 'count(…) over (…)',
    says: 'How many are not blank; count(*): how many rows.',
    ordered: 'may be',
    takes: [0, 1],
    check: (_at, args, ordered) => ({
      type: 'numeric',
      whole: true,
      work: gathering<number>(
        args[0],
        () => 0,
        (count, value) => (value === null ? count : count + 1),
        (count) => whole(count),
        ordered,
      ),
    }),
  },
  min: ofEnds('min(…) over (…)', 'The least value; blanks do not count.', (order) => order < 0),
  max: ofEnds('max(…) over (…)', 'The largest value; blanks do not count.', (order) => order > 0),
};

/** The rows that are looked at together: those of one report that are alike in all of some expressions. */
function partsOf(of: Source, by: readonly Checked[]): number[][] {
  const keys = by.map((each) => ({ own: each.work(of), type: each.type === 'open' ? ('text' as const) : each.type }));
  const parts = new Map<string, number[]>();
  for (let row = 0; row < of.rows; row++) {
    const key = JSON.stringify([
      of.reportOf(row),
      ...keys.map(({ own, type }) => {
        const value = own(row);
        // 2.0 and 2 are alike.
        return value === null
          ? null
          : type === 'numeric'
            ? textOf(value, type)
                .replace(/(\.\d*?)0+$/, '$1')
                .replace(/\.$/, '')
            : textOf(value, type);
      }),
    ]);
    const known = parts.get(key);
    if (known) known.push(row);
    else parts.set(key, [row]);
  }
  return [...parts.values()];
}

/** @throws Faulty */
export function checkedWindow(
  name: string,
  at: Span,
  args: readonly Checked[],
  { ordered }: Over,
  partitionBy: readonly Checked[],
): Omit<Checked, 'from' | 'to'> {
  const known = own(windows, name);
  if (!known)
    throw new Faulty(
      `${name} does not look at other rows: leave over (...) out. Those that do are ${Object.keys(windows).join(', ')}.`,
      at,
    );
  if (args.length < known.takes[0] || args.length > known.takes[1])
    throw new Faulty(`${name} is written ${known.written}.`, at);
  if (known.ordered === 'must be' && !ordered)
    throw new Faulty(`${name} hangs on the order of the rows: write ${known.written}.`, at);
  const { type, whole: isWhole, work } = known.check(at, args, ordered);
  return {
    type,
    whole: isWhole,
    work: (of) => {
      const values = work(of, partsOf(of, partitionBy));
      return typeof values === 'function' ? values : (row) => values[row];
    },
  };
}
