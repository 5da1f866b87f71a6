// What is written like a function or a sign, but takes values of any type, or looks at some of them only where it must.
import type { Span } from './ast';
import { alike, asCondition, type Checked, type Source, type Worked } from './checked';
import { Faulty } from './fault';
import { orderOf, type Value } from './value';

export interface Form {
  /** How it is written, for completion and docs. */
  readonly written: string;
  readonly says: string;
  readonly example: readonly [formula: string, result: string];
  /** How many it takes: at least, at most. */
  readonly takes: readonly [number, number];
  check(at: Span, args: readonly Checked[]): Omit<Checked, 'from' | 'to'>;
}

const several = 1000;
const worked = (all: readonly Checked[], of: Source): readonly Worked[] => all.map((each) => each.work(of));

/** A condition on two values of one type. @param test gets how they stand to one another; undefined: where one of them is blank */
const onTwo = (
  written: string,
  says: string,
  example: Form['example'],
  test: (order: number | undefined, a: Value, b: Value) => boolean | null,
): Form => ({
  written,
  says,
  example,
  takes: [2, 2],
  check(_at, args) {
    const { type, all } = alike(args, 'compared');
    const order = orderOf(type);
    return {
      type: 'boolean',
      whole: false,
      work: (of) => {
        const [left, right] = worked(all, of);
        return (row) => {
          const [a, b] = [left(row), right(row)];
          return test(a === null || b === null ? undefined : order(a, b), a, b);
        };
      },
    };
  },
});

/** Blank where one of them is. */
const comparing = (written: string, says: string, example: Form['example'], test: (order: number) => boolean): Form =>
  onTwo(written, says, example, (order) => (order === undefined ? null : test(order)));
const distinct = (written: string, says: string, example: Form['example'], wanted: boolean): Form =>
  onTwo(written, says, example, (order, a, b) => (order === undefined ? a !== b : order !== 0) === wanted);

const stating = (
  written: string,
  says: string,
  example: Form['example'],
  test: (value: Value) => boolean,
  conditions: boolean,
): Form => ({
  written,
  says,
  example,
  takes: [1, 1],
  check: (_at, [of]) => {
    const own = conditions ? asCondition(of) : of;
    return {
      type: 'boolean',
      whole: false,
      work: (source) => {
        const value = own.work(source);
        return (row) => test(value(row));
      },
    };
  },
});

/** One value of several: all of one type. */
const choosing = (
  written: string,
  says: string,
  example: Form['example'],
  takes: Form['takes'],
  choose: (all: readonly Worked[], order: (a: Value, b: Value) => number) => Worked,
): Form => ({
  written,
  says,
  example,
  takes,
  check(_at, args) {
    const { type, all } = alike(args, 'taken for one another');
    return { type, whole: all.every(({ whole }) => whole), work: (of) => choose(worked(all, of), orderOf(type)) };
  },
});

const best =
  (better: (order: number) => boolean) =>
  (all: readonly Worked[], order: (a: Value, b: Value) => number): Worked =>
  (row) => {
    let found: Value = null;
    for (const each of all) {
      const value = each(row);
      if (value !== null && (found === null || better(order(value, found)))) found = value;
    }
    return found;
  };

/** Conditions put together: the one of them that settles it is not looked beyond. */
const joining = (written: string, says: string, example: Form['example'], settles: boolean): Form => ({
  written,
  says,
  example,
  takes: [2, 2],
  check(_at, args) {
    const all = args.map(asCondition);
    return {
      type: 'boolean',
      whole: false,
      work: (of) => {
        const [left, right] = worked(all, of);
        return (row) => {
          const a = left(row);
          if (a === settles) return settles;
          const b = right(row);
          return b === settles ? settles : a === null || b === null ? null : !settles;
        };
      },
    };
  },
});

export const forms: Readonly<Record<string, Form>> = {
  and: joining('… and …', 'Both are true.', ['2 > 1 and null', ''], false),
  or: joining('… or …', 'One of them is true.', ['2 > 1 or null', 'true'], true),
  not: {
    written: 'not …',
    says: 'It is not true.',
    example: ['not (1 > 2)', 'true'],
    takes: [1, 1],
    check: (_at, [of]) => {
      const own = asCondition(of);
      return {
        type: 'boolean',
        whole: false,
        work: (source) => {
          const value = own.work(source);
          return (row) => {
            const is = value(row);
            return is === null ? null : !(is as boolean);
          };
        },
      };
    },
  },
  '=': comparing(
    '… = …',
    'They are the same; blank where one is blank.',
    ["'a' = 'A'", 'false'],
    (order) => order === 0,
  ),
  '<>': comparing('… <> …', 'They are not the same.', ['1 <> 2', 'true'], (order) => order !== 0),
  '<': comparing(
    '… < …',
    'The first is less: numbers by size, dates by time, texts by their code points.',
    ["'B' < 'a'", 'true'],
    (order) => order < 0,
  ),
  '<=': comparing('… <= …', 'The first is not more.', ['2 <= 2.0', 'true'], (order) => order <= 0),
  '>': comparing('… > …', 'The first is more.', ["date '2025-02-01' > '2025-01-31'", 'true'], (order) => order > 0),
  '>=': comparing('… >= …', 'The first is not less.', ['1 >= 2', 'false'], (order) => order >= 0),
  'is distinct from': distinct(
    '… is distinct from …',
    'They are not the same, where two blanks are.',
    ['null is distinct from 1', 'true'],
    true,
  ),
  'is not distinct from': distinct(
    '… is not distinct from …',
    'They are the same, as two blanks are.',
    ['null is not distinct from null', 'true'],
    false,
  ),
  'is null': stating('… is null', 'It is blank.', ["'' is null", 'false'], (value) => value === null, false),
  'is not null': stating(
    '… is not null',
    'It is not blank.',
    ['1 is not null', 'true'],
    (value) => value !== null,
    false,
  ),
  'is true': stating(
    '… is true',
    'It is true, and not blank.',
    ['null is true', 'false'],
    (value) => value === true,
    true,
  ),
  'is not true': stating(
    '… is not true',
    'It is false or blank.',
    ['null is not true', 'true'],
    (value) => value !== true,
    true,
  ),
  'is false': stating(
    '… is false',
    'It is false, and not blank.',
    ['(1 > 2) is false', 'true'],
    (value) => value === false,
    true,
  ),
  'is not false': stating(
    '… is not false',
    'It is true or blank.',
    ['null is not false', 'true'],
    (value) => value !== false,
    true,
  ),
  between: {
    written: '… between … and …',
    says: 'It is not below the first end nor above the second.',
    example: ['2 between 1 and 2', 'true'],
    takes: [3, 3],
    check(_at, args) {
      const { type, all } = alike(args, 'compared');
      const order = orderOf(type);
      return {
        type: 'boolean',
        whole: false,
        work: (of) => {
          const [own, low, high] = worked(all, of);
          return (row) => {
            const [value, from] = [own(row), low(row)];
            const above = value === null || from === null ? null : order(value, from) >= 0;
            if (above === false) return false;
            const to = high(row);
            const below = value === null || to === null ? null : order(value, to) <= 0;
            return below === false ? false : above === null || below === null ? null : true;
          };
        },
      };
    },
  },
  in: {
    written: '… in (…, …)',
    says: 'It is one of the list.',
    example: ["'S' in ('N', 'S')", 'true'],
    takes: [2, several],
    check(_at, args) {
      const { type, all } = alike(args, 'compared');
      const order = orderOf(type);
      return {
        type: 'boolean',
        whole: false,
        work: (of) => {
          const [own, ...list] = worked(all, of);
          return (row) => {
            const value = own(row);
            let blank = value === null;
            for (const each of list) {
              const other = each(row);
              if (other === null) blank = true;
              else if (value !== null && order(value, other) === 0) return true;
            }
            return blank ? null : false;
          };
        },
      };
    },
  },
  coalesce: choosing(
    'coalesce(…, …)',
    'The first that is not blank.',
    ['coalesce(null, 0)', '0'],
    [1, several],
    (all) => (row) => {
      for (const each of all) {
        const value = each(row);
        if (value !== null) return value;
      }
      return null;
    },
  ),
  greatest: choosing(
    'greatest(…, …)',
    'The largest; blanks do not count.',
    ['greatest(1, null, 3)', '3'],
    [1, several],
    best((order) => order > 0),
  ),
  least: choosing(
    'least(…, …)',
    'The least; blanks do not count.',
    ['least(1, null, 3)', '1'],
    [1, several],
    best((order) => order < 0),
  ),
  nullif: choosing(
    'nullif(…, …)',
    'The first, or blank where it is the second.',
    ["nullif('-', '-')", ''],
    [2, 2],
    ([own, other], order) =>
      (row) => {
        const [value, against] = [own(row), other(row)];
        return value !== null && against !== null && order(value, against) === 0 ? null : value;
      },
  ),
};

/** case: the first branch of which the condition is true. */
export function checkedCase(
  of: Checked | undefined,
  whens: readonly (readonly [Checked, Checked])[],
  otherwise: Checked | undefined,
): Omit<Checked, 'from' | 'to'> {
  const results = alike([...whens.map(([, then]) => then), ...(otherwise ? [otherwise] : [])], 'results of one case');
  const conditions = of ? undefined : whens.map(([when]) => asCondition(when));
  const compared = of && alike([of, ...whens.map(([when]) => when)], 'compared');
  const order = compared && orderOf(compared.type);
  return {
    type: results.type,
    whole: results.all.every(({ whole }) => whole),
    work: (source) => {
      const thens = worked(results.all, source);
      if (conditions) {
        const all = worked(conditions, source);
        return (row) => {
          const at = all.findIndex((condition) => condition(row) === true);
          return at >= 0 ? thens[at](row) : (thens[whens.length]?.(row) ?? null);
        };
      }
      const [own, ...all] = worked(compared!.all, source);
      return (row) => {
        const value = own(row);
        const at = all.findIndex((each) => {
          const other = each(row);
          return value !== null && other !== null && order!(value, other) === 0;
        });
        return at >= 0 ? thens[at](row) : (thens[whens.length]?.(row) ?? null);
      };
    },
  };
}

/** @throws Faulty */
export function checkedForm(name: string, at: Span, args: readonly Checked[]): Omit<Checked, 'from' | 'to'> {
  const form = forms[name];
  const [least, most] = form.takes;
  if (args.length < least || args.length > most) throw new Faulty(`${name} is written ${form.written}.`, at);
  return form.check(at, args);
}
