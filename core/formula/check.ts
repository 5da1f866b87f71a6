import type { Call, CastType, Expression, Span } from './ast';
import { constant, taken, typeNames, type Checked, type Source, type Worked } from './checked';
import { Faulty } from './fault';
import { checkedCase, checkedForm, forms } from './forms';
import { functions, functionsNamed } from './functions/all';
import type { Argument, FormulaFunction } from './functions/function';
import { Mishap } from './mishap';
import { absolute, compare, isWhole, numericText, parsed, rounded, type Numeric } from './numeric';
import { outside } from './outside';
import { asInteger, bounded, castsBetween, textOf, valueFrom, type FormulaType, type Value } from './value';
import { checkedWindow, windows } from './windows';
import { own } from '../values/own';

/** A column that a formula may name. */
export interface FormulaColumn {
  readonly name: string;
  readonly type: FormulaType;
  readonly whole: boolean;
}

const reportTypes = { 'file name': 'text', page: 'numeric', 'table title': 'text', row: 'numeric' } as const;

/** Types an expression. @param find the column of a name @throws Faulty */
export function checked(of: Expression, find: (name: string) => FormulaColumn | undefined): Checked {
  const own = check(of, find);
  return { from: of.from, to: of.to, ...own };
}

type Typed = Omit<Checked, 'from' | 'to'>;

function check(of: Expression, find: (name: string) => FormulaColumn | undefined): Typed {
  const inside = (each: Expression) => checked(each, find);
  switch (of.kind) {
    case 'number': {
      const value = parsed(of.text);
      if (!value) throw new Faulty('The number has too many digits.', of);
      return constant(of, 'numeric', value, value.s === 0);
    }
    case 'text':
      return { type: 'open', whole: false, open: of.value, work: () => () => of.value };
    case 'null':
      return { type: 'open', whole: true, open: null, work: () => () => null };
    case 'boolean':
      return constant(of, 'boolean', of.value);
    case 'column': {
      const column = find(of.name);
      if (!column) throw new Faulty(`There is no column "${of.name}" here.`, of);
      return { type: column.type, whole: column.whole, work: (source) => source.column(column.name) };
    }
    case 'report':
      return { type: reportTypes[of.field], whole: true, work: (source) => source.report(of.field) };
    case 'case':
      return checkedCase(
        of.of && inside(of.of),
        of.whens.map(([when, then]) => [inside(when), inside(then)] as const),
        of.otherwise && inside(of.otherwise),
      );
    case 'cast':
      return cast(of, inside(of.of), of.into, of.digits);
    case 'call':
      return call(of, inside);
  }
}

function call(of: Call, inside: (each: Expression) => Checked): Typed {
  const { name, over } = of;
  const args = of.args.map(inside);
  if (over) return checkedWindow(name, of, args, over, over.partitionBy.map(inside));
  if (Object.hasOwn(forms, name)) return checkedForm(name, of, args);
  const ways = functionsNamed(name);
  if (ways.length > 0) return called(of, ways, args);
  if (Object.hasOwn(windows, name))
    throw new Faulty(`${name} looks at other rows: write ${windows[name].written}.`, of);
  const elsewhere = own(outside, name);
  throw new Faulty(`There is no function ${name}.${elsewhere === undefined ? near(name) : ` ${elsewhere}`}`, of);
}

/** A name that may have been meant. */
function near(name: string): string {
  const found = [
    ...new Set([...functions.map((each) => each.name), ...Object.keys(forms), ...Object.keys(windows)]),
  ].find(
    (each) =>
      /^\w+$/.test(each) &&
      (each.startsWith(name) || name.startsWith(each) || [...each].sort().join('') === [...name].sort().join('')),
  );
  return found ? ` Is ${found} meant?` : '';
}

const argumentAt = ({ args, rest }: FormulaFunction, at: number): Argument | undefined => args[at] ?? rest;
const typeOfArgument = (argument: Argument): FormulaType | undefined =>
  argument === 'any' ? undefined : argument === 'integer' ? 'numeric' : argument;

/** How far arguments are from what a function takes: 0 as they are; undefined: they are not taken. */
function distance(way: FormulaFunction, args: readonly Checked[]): number | undefined {
  const { args: takes, optional = 0, rest } = way;
  if (args.length < takes.length - optional || (args.length > takes.length && !rest)) return undefined;
  const known = args.find(({ type }) => type !== 'open')?.type;
  let far = 0;
  for (const [at, { type }] of args.entries()) {
    const argument = argumentAt(way, at)!;
    const wanted = typeOfArgument(argument);
    if (wanted === undefined || wanted === type) continue;
    // A text in quotes beside a value is most likely one of its kind.
    if (type === 'open') far += wanted === (known ?? 'text') ? 0 : wanted === 'text' ? 1 : 2;
    else if (type === 'date' && wanted === 'timestamp') far += 1;
    else return undefined;
  }
  return far;
}

/** The ways that take some of what came, or all where none does: a few. */
function nearest(ways: readonly FormulaFunction[], args: readonly Checked[]): readonly FormulaFunction[] {
  const some = ways.filter((way) => args.some(({ type }, at) => typeOfArgument(argumentAt(way, at) ?? 'any') === type));
  return (some.length > 0 ? some : ways).slice(0, mostTold);
}
const mostTold = 4;

const says = (way: FormulaFunction): string =>
  /^\w+$/.test(way.name)
    ? `${way.name}(${way.called ?? [...way.args, ...(way.rest ? [`${way.rest} ...`] : [])].join(', ')})`
    : way.args.length === 2
      ? `${way.args[0]} ${way.name} ${way.args[1]}`
      : `${way.name} ${way.args[0]}`;

function called(of: Call, ways: readonly FormulaFunction[], args: readonly Checked[]): Typed {
  const best = ways
    .map((way) => ({ way, far: distance(way, args) }))
    .filter((each): each is { way: FormulaFunction; far: number } => each.far !== undefined)
    .sort((a, b) => a.far - b.far)[0];
  if (!best) {
    const came = args.map(({ type }) => typeNames[type]).join(' and ') || 'nothing';
    const texts =
      args.some(({ type }) => type === 'text') &&
      ways.some(({ args: takes }) => takes.includes('numeric') || takes.includes('integer'));
    throw new Faulty(
      `${/^\w+$/.test(of.name) ? of.name : `The sign ${of.name}`} does not take ${came}: it is written ${[...new Set(nearest(ways, args).map(says))].join(' or ')}.${texts ? ' Set the type of the column in a step above, or write cast(... as numeric).' : ''}`,
      of,
    );
  }
  const { way } = best;
  const given = args.map((arg, at) => {
    const wanted = typeOfArgument(argumentAt(way, at)!) ?? (arg.type === 'open' ? 'text' : arg.type);
    return taken(arg, wanted)!;
  });
  const isWhole =
    way.result === 'integer' ||
    (['+', '-', '*', '%', 'mod', 'abs'].includes(of.name) &&
      given.every(({ type, whole }) => type === 'numeric' && whole));
  return {
    type: way.result === 'integer' ? 'numeric' : way.result,
    whole: isWhole,
    work: (source) => applied(way, given, source),
  };
}

/** The closure of a call: most functions have no value where an argument has none. */
function applied(way: FormulaFunction, given: readonly Checked[], source: Source): Worked {
  const worked = (way.prepare?.() ?? way.run) as (...args: unknown[]) => Value;
  const run = way.result === 'text' ? (...args: unknown[]) => bounded(worked(...args)) : worked;
  const values = given.map((arg, at): ((row: number) => unknown) => {
    const own = arg.work(source);
    const argument = argumentAt(way, at)!;
    if (argument === 'any') {
      const type = arg.type as FormulaType;
      return way.takesBlanks
        ? (row) => ({ value: own(row), type })
        : (row) => {
            const value = own(row);
            return value === null ? null : { value, type };
          };
    }
    if (argument !== 'integer') return own;
    return (row) => {
      const value = own(row) as Numeric | null;
      if (value !== null && !isWhole(value))
        throw new Mishap(`${numericText(value)}, where a whole number is expected`);
      return value === null ? null : asInteger(value);
    };
  });
  if (way.takesBlanks) return (row) => run(...values.map((value) => value(row)));
  const [a, b] = values;
  switch (values.length) {
    case 1:
      return (row) => {
        const x = a(row);
        return x === null ? null : run(x);
      };
    case 2:
      return (row) => {
        const [x, y] = [a(row), b(row)];
        return x === null || y === null ? null : run(x, y);
      };
    default:
      return (row) => {
        // Blank or not, all are worked out: one that has no value is told.
        const all = values.map((value) => value(row));
        return all.includes(null) ? null : run(...all);
      };
  }
}

/** @throws Faulty where the types cannot be turned into one another */
function cast(at: Span, of: Checked, to: CastType, digits?: readonly [number, number]): Typed {
  const type: FormulaType = to === 'integer' ? 'numeric' : to;
  const whole = to === 'integer' || digits?.[1] === 0 || (to === 'numeric' && of.whole);
  const turn = turning(at, of, to);
  const turned = digits ? (value: Value) => within(turn(value) as Numeric, digits) : turn;
  if (of.type === 'open' && typeof of.open === 'string') {
    try {
      return constant(at, type, turned(of.open), whole);
    } catch (error) {
      if (error instanceof Mishap)
        throw new Faulty(`${error.message.charAt(0).toUpperCase()}${error.message.slice(1)}.`, of);
      throw error;
    }
  }
  return {
    type,
    whole,
    work: (source) => {
      const own = of.work(source);
      return (row) => {
        const value = own(row);
        return value === null ? null : turned(value);
      };
    },
  };
}

function turning(at: Span, of: Checked, to: CastType): (value: Value) => Value {
  const from = of.type;
  if (from === 'open' || from === 'text') {
    if (to !== 'integer') return (value) => valueFrom(value as string, to);
    return (value) => {
      if (!/^\s*[+-]?\d+\s*$/.test(value as string)) throw new Mishap(`“${value as string}” is no whole number`);
      return asInteger(valueFrom(value as string, 'numeric') as Numeric);
    };
  }
  if (to === 'text') return (value) => textOf(value!, from);
  if (to === from) return (value) => value;
  const known = castsBetween[from]?.[to] as ((value: Value) => Value) | undefined;
  if (!known)
    throw new Faulty(
      `${typeNames[from].replace(/^a/, 'A')} cannot be turned into ${to}${from === 'date' || from === 'timestamp' ? ': use extract or to_char' : ''}.`,
      at,
    );
  return known;
}

function within(value: Numeric, [precision, scale]: readonly [number, number]): Numeric {
  const own = rounded(value, scale);
  if (compare(absolute(own), parsed(`1e${Math.max(0, precision - scale)}`)!) >= 0)
    throw new Mishap(`a number with more digits than numeric(${precision}, ${scale}) has`);
  return own;
}
