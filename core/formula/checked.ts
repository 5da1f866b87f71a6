import type { Span } from './ast';
import { Faulty } from './fault';
import { Mishap } from './mishap';
import { valueFrom, type FormulaType, type Value } from './value';

/** Where the values of rows come from. Rows are counted from 0. */
export interface Source {
  readonly rows: number;
  column(name: string): Worked;
  report(field: string): Worked;
  /** Rows of one report have the same. */
  reportOf(row: number): string;
}

/** The value in a row. @throws Mishap where there is none */
export type Worked = (row: number) => Value;

/** An expression of which the type is known. A text in quotes has none of its own until it is known what stands beside it. */
export interface Checked extends Span {
  readonly type: FormulaType | 'open';
  /** Numbers that are always whole. */
  readonly whole: boolean;
  /** Of a text in quotes, and of null. */
  readonly open?: string | null;
  readonly work: (of: Source) => Worked;
}

export const typeNames: Readonly<Record<FormulaType | 'open', string>> = {
  numeric: 'a number',
  text: 'a text',
  date: 'a date',
  time: 'a time',
  timestamp: 'a moment',
  interval: 'an interval',
  boolean: 'a condition',
  open: 'a text',
};

export const constant = (at: Span, type: FormulaType, value: Value, whole = false): Checked => ({
  from: at.from,
  to: at.to,
  type,
  whole,
  work: () => () => value,
});

/** Of another type that it can be taken for without a word: a text in quotes for any, a date for a moment. Undefined: it cannot. @throws Faulty where the text is no such value */
export function taken(of: Checked, type: FormulaType): Checked | undefined {
  if (of.type === type) return of;
  if (of.type === 'open') {
    if (of.open === null || of.open === undefined) return constant(of, type, null, true);
    try {
      const value = valueFrom(of.open, type);
      return constant(of, type, value, type === 'numeric' && /^[+-]?\d+$/.test(of.open.trim()));
    } catch (error) {
      if (error instanceof Mishap) throw new Faulty(`It should be ${typeNames[type]} here: ${error.message}.`, of);
      throw error;
    }
  }
  if (of.type === 'date' && type === 'timestamp')
    return {
      ...of,
      type,
      work: (source) => {
        const own = of.work(source);
        return (row) => {
          const day = own(row);
          return day === null ? null : { day: day as number, micros: 0 };
        };
      },
    };
  return undefined;
}

/** The type that expressions of different kinds have together; undefined: they have none. Open ones follow the others, and are texts alone. */
export function typeOfAll(all: readonly Checked[]): FormulaType | undefined {
  const known = [...new Set(all.flatMap(({ type }) => (type === 'open' ? [] : [type])))];
  if (known.length === 0) return 'text';
  if (known.length === 1) return known[0];
  return known.length === 2 && known.includes('date') && known.includes('timestamp') ? 'timestamp' : undefined;
}

/** All as one type. @param what they are for, in the sentence of the fault @throws Faulty */
export function alike(all: readonly Checked[], what: string): { type: FormulaType; all: readonly Checked[] } {
  const type = typeOfAll(all);
  if (type === undefined) {
    const first = all.find((each) => each.type !== 'open')!;
    const other = all.find((each) => each.type !== 'open' && each.type !== first.type)!;
    throw new Faulty(
      `${typeNames[first.type].replace(/^a/, 'A')} and ${typeNames[other.type]} cannot be ${what}: set the type of the column in a step above, or write cast(... as ${first.type}).`,
      other,
    );
  }
  return { type, all: all.map((each) => taken(each, type)!) };
}

/** As a condition. @throws Faulty */
export function asCondition(of: Checked): Checked {
  const own = taken(of, 'boolean');
  if (!own)
    throw new Faulty(`A condition is expected here, and this is ${typeNames[of.type]}: compare it with something.`, of);
  return own;
}
