// Random formulas, of which each function and form comes about as often, and random values for them.
import type { Expression } from '../../core/formula/ast';
import { forms } from '../../core/formula/forms';
import { functions } from '../../core/formula/functions/all';
import type { Argument, FormulaFunction } from '../../core/formula/functions/function';
import type { FormulaType } from '../../core/formula/value';
import type { ValueType } from '../../core/sheet/column';
import type { Cell } from '../../core/values/cell';
import type { random } from '../../demo/random';

export type Random = ReturnType<typeof random>;

/** Columns that formulas are about: two of most types, so that values meet. */
export const columns: readonly { readonly name: string; readonly type: ValueType }[] = [
  { name: 'Item', type: 'text' },
  { name: 'Note "n"', type: 'text' },
  { name: 'Value', type: 'decimal' },
  { name: 'Price', type: 'decimal' },
  { name: 'Boxes', type: 'integer' },
  { name: 'Share', type: 'percent' },
  { name: 'Day', type: 'date' },
  { name: 'Until', type: 'date' },
  { name: 'At', type: 'time' },
  { name: 'Seen', type: 'datetime' },
  { name: 'Open', type: 'boolean' },
];

const two = (n: number) => String(n).padStart(2, '0');
const texts = [
  'Saltby',
  'Tern Point',
  'HK1 - Hake',
  ' padded ',
  '1,234.50',
  '-12',
  '12.5',
  'a_b%c',
  'x',
  'aXbXc',
  'Größe É',
  '鯖 🐟 fish',
  '2025-06-09',
  'été',
  'AAA aaa',
  "it's",
  '0',
  'true',
  'Landed by the boats of the northern quay, and weighed there twice',
  'BN-1041',
  '(12)',
  '\\d',
];

/** A value as a cell of its column: ordinary, negative, long, or blank. */
export function cellOf(draw: Random, type: ValueType): Cell {
  if (draw.chance(0.12)) return null;
  const day = () => `${draw.one([2025, 2024, 1999, 2000, 1900])}-${two(draw.whole(1, 12))}-${two(draw.whole(1, 28))}`;
  const time = () => `${two(draw.whole(0, 23))}:${two(draw.whole(0, 59))}:${two(draw.whole(0, 59))}`;
  switch (type) {
    case 'integer':
      return draw.one([0, 1, -1, 2, 3, 7, draw.whole(-50, 50), draw.whole(-99_999, 99_999), 123_456_789_012]);
    case 'decimal':
      return draw.one([
        0,
        0.5,
        -0.5,
        1,
        draw.whole(-999_999, 999_999) / 100,
        draw.whole(-99, 99) / 10,
        0.001,
        1e-7,
        123_456_789.123456,
        -98_765_432_109.87,
        draw.whole(1, 9) * 1000,
      ]);
    case 'percent':
      return draw.whole(-200, 1200) / 10;
    case 'date':
      return draw.chance(0.1) ? draw.one(['2024-02-29', '2025-12-31', '2025-01-01', '2026-01-04']) : day();
    case 'time':
      return time();
    case 'datetime':
      return `${day()} ${draw.chance(0.2) ? '00:00:00' : time()}`;
    case 'boolean':
      return draw.chance(0.5);
    default:
      return draw.one(texts);
  }
}

const at = { from: 0, to: 0 };
const number = (text: string | number): Expression =>
  Number(text) < 0
    ? { ...at, kind: 'call', name: '-', args: [{ ...at, kind: 'number', text: String(text).slice(1) }] }
    : { ...at, kind: 'number', text: String(text) };
const textOf = (value: string): Expression => ({ ...at, kind: 'text', value });
const typed = (value: string, into: FormulaType): Expression => ({ ...at, kind: 'cast', of: textOf(value), into });
const call = (name: string, ...args: Expression[]): Expression => ({ ...at, kind: 'call', name, args });

/** What stands in a call, beside values of a type: a format, a pattern, the name of a part. */
function given(draw: Random, { name, args }: FormulaFunction, nth: number): Expression | undefined {
  const isDate = args[0] !== 'numeric';
  switch (`${name} ${nth}`) {
    case 'to_char 1':
      return textOf(
        isDate
          ? draw.one([
              'YYYY-MM-DD',
              'DD.MM.YY',
              'FMDay, FMDD FMMonth YYYY',
              'Mon YYYY',
              'IYYY-"W"IW',
              'HH24:MI:SS',
              'Q/YYYY',
              'DDD',
              'HH12 AM',
              'DY D ID W WW CC',
              'MONTH|Dy',
              'Day',
              'IDDD',
            ])
          : draw.one([
              '999,999.99',
              'FM999999990.00',
              '9999',
              '000.0',
              'S9999.9',
              '99999MI',
              '99999PR',
              'FM9,999,999.99',
              '0.999',
              'SG99990',
              'FM000',
              '9,999,999,999,999.999',
              'FM99990.099',
              '99999S',
              'PL9999',
            ]),
      );
    case 'extract 0':
      return textOf(
        draw.one(
          args[1] === 'time'
            ? ['hour', 'minute', 'second']
            : args[1] === 'interval'
              ? ['day', 'hour', 'month', 'year', 'minute']
              : args[1] === 'date'
                ? ['year', 'month', 'day', 'quarter', 'week', 'isoyear', 'dow', 'isodow', 'doy', 'decade', 'century']
                : ['year', 'month', 'hour', 'minute', 'second', 'week'],
        ),
      );
    case 'date_trunc 0':
      return textOf(
        draw.one(['year', 'quarter', 'month', 'week', 'day', 'hour', 'minute', 'decade', 'century', 'second']),
      );
    case 'like 1':
    case 'ilike 1':
      return textOf(draw.one(['%a%', 'S_lt%', '%', '', '_', 'saltby', '%by', '%\\%%', '__', '%,%', 'a\\_b%']));
    case 'like 2':
    case 'ilike 2':
      return textOf(draw.one(['\\', '!', '']));
    case '~ 1':
    case '~* 1':
    case '!~ 1':
    case '!~* 1':
    case 'regexp_replace 1':
    case 'regexp_substr 1':
      return textOf(
        draw.one([
          '[0-9]+',
          '^[A-Z]',
          'a|ab|abc',
          '(\\d+)[.,](\\d+)',
          '\\s',
          'X',
          '[^a-z ]',
          '^.*$',
          'o*',
          'n$',
          '(a+)(b*)',
          '[[:alpha:]]+',
          '-',
          '.',
          '(?:th|t)e',
          '\\(',
          'a{2,3}',
        ]),
      );
    case 'regexp_replace 2':
      return textOf(draw.one(['', '*', '<\\&>', '\\1', '[\\1|\\2]', '\\\\', 'x\\2']));
    case 'regexp_replace 3':
      return textOf(draw.one(['g', 'i', 'gi', '']));
    case 'regexp_substr 2':
    case 'regexp_substr 3':
      return number(draw.one([1, 1, 2, 3]));
    case 'regexp_substr 4':
      return textOf(draw.one(['', 'i']));
    case 'regexp_substr 5':
      return number(draw.one([0, 1, 2]));
    case 'split_part 1':
      return textOf(draw.one([' - ', ' ', 'X', ',', '', 'zz']));
    case 'split_part 2':
      return number(draw.one([1, 2, 3, -1, -2]));
    case 'replace 1':
    case 'position 0':
    case 'strpos 1':
    case 'starts_with 1':
      return draw.chance(0.3) ? undefined : textOf(draw.one(['a', ' ', 'X', 'by', '', '🐟', 'S']));
    case 'left 1':
    case 'right 1':
      return number(draw.one([0, 1, 2, 3, 10, -1, -2, -30]));
    case 'lpad 1':
    case 'rpad 1':
      return number(draw.one([0, 1, 3, 8, 12, -1]));
    case 'substring 1':
    case 'substr 1':
      return number(draw.one([1, 2, 5, 0, -1, 40]));
    case 'substring 2':
    case 'substr 2':
      return number(draw.one([1, 2, 5, 0, 100]));
    case 'round 1':
    case 'trunc 1':
      return number(draw.one([0, 1, 2, 3, -1, -2, 6]));
    case 'power 1':
    case '^ 1':
      return draw.chance(0.2) ? undefined : number(draw.one([2, 3, 0, 1, -1, 0.5, -2, 1.5]));
    case 'make_date 0':
      return number(draw.one([2025, 2024, 1999]));
    case 'make_date 1':
      return number(draw.whole(1, 12));
    case 'make_date 2':
      return number(draw.whole(1, 30));
    case 'make_interval 0':
    case 'make_interval 1':
    case 'make_interval 2':
    case 'make_interval 3':
      return number(draw.whole(-3, 14));
    case 'to_date 0':
      return textOf(draw.one(['2025-06-09', '2024-02-29', '1999-12-31']));
    case 'to_date 1':
      return textOf('YYYY-MM-DD');
    case 'to_number 0':
      return textOf(draw.one(['1,234.50', '12', '0.5', '999,999']));
    case 'to_number 1':
      return textOf('999,999.99');
    default:
      return undefined;
  }
}

/** Ours alone, or meant another way: not for the judge. */
const unjudged: ReadonlySet<string> = new Set(['first_day', 'last_day']);
export const judgeable = ({ name }: FormulaFunction): boolean => !unjudged.has(name);
const literals: Readonly<Record<FormulaType, (draw: Random) => Expression>> = {
  numeric: (draw) =>
    number(draw.one(['0', '1', '2', '7', '0.1', '2.50', '100', '1000000', '-3', '-0.25', '12345678901.23'])),
  text: (draw) => textOf(draw.one(texts)),
  date: (draw) => typed(draw.one(['2025-01-31', '2024-02-29', '2025-12-31', '1999-03-01']), 'date'),
  time: (draw) => typed(draw.one(['00:00', '14:30:15', '23:59:59']), 'time'),
  timestamp: (draw) => typed(draw.one(['2025-01-31 14:30', '2024-02-29 00:00:00', '2025-12-31 23:59:59']), 'timestamp'),
  interval: (draw) =>
    typed(draw.one(['1 month', '2 days', '-1 day', '1 year 2 months', '36 hours', '90 minutes']), 'interval'),
  boolean: (draw) => ({ ...at, kind: 'boolean', value: draw.chance(0.5) }),
};
const columnTypes: Readonly<Record<FormulaType, readonly ValueType[]>> = {
  numeric: ['decimal', 'integer', 'percent'],
  text: ['text'],
  date: ['date'],
  time: ['time'],
  timestamp: ['datetime'],
  interval: [],
  boolean: ['boolean'],
};

/** Random formulas, of which each function and form comes about as often. */
export class FormulaMaker {
  /** Which function each call is meant to be: a sign may be several. */
  readonly ways = new WeakMap<Expression, FormulaFunction>();
  constructor(private readonly draw: Random) {}

  private leaf(type: FormulaType): Expression {
    const own = columns.filter((column) => columnTypes[type].includes(column.type));
    if (own.length > 0 && this.draw.chance(0.7)) return { ...at, kind: 'column', name: this.draw.one(own).name };
    return this.draw.chance(0.06)
      ? { ...at, kind: 'cast', of: { ...at, kind: 'null' }, into: type }
      : literals[type](this.draw);
  }

  private argument(argument: Argument, depth: number): Expression {
    if (argument === 'any') return this.made(this.draw.one(['text', 'numeric', 'date', 'boolean'] as const), depth);
    if (argument === 'integer')
      return this.draw.chance(0.5) ? number(this.draw.whole(-5, 40)) : this.made('numeric', 0);
    return this.made(argument, depth);
  }

  /** A call of one function, with one argument more or less where some may be left out. */
  called(way: FormulaFunction, depth: number): Expression {
    const count = way.args.length - (way.optional ? this.draw.whole(0, way.optional) : 0);
    const args = way.args
      .slice(0, count)
      .map((argument, nth) => given(this.draw, way, nth) ?? this.argument(argument, depth - 1));
    if (way.rest)
      for (let more = this.draw.whole(0, 2); more > 0; more--) args.push(this.argument(way.rest, depth - 1));
    const made = call(way.name, ...args);
    this.ways.set(made, way);
    return made;
  }

  form(
    name: string,
    depth: number,
    type = this.draw.one(['numeric', 'text', 'date', 'timestamp', 'boolean', 'time'] as const),
  ): Expression {
    const inner = (of: FormulaType) => this.made(of, depth - 1);
    if (name === 'and' || name === 'or') return call(name, inner('boolean'), inner('boolean'));
    if (name === 'not' || /^is (?:not )?(?:true|false)$/.test(name)) return call(name, inner('boolean'));
    if (name.endsWith('null')) return call(name, inner(type));
    const [least, most] = forms[name].takes;
    return call(name, ...Array.from({ length: this.draw.whole(least, Math.min(most, 4)) }, () => inner(type)));
  }

  choice(type: FormulaType, depth: number): Expression {
    const inner = (of: FormulaType) => this.made(of, depth - 1);
    const of = this.draw.chance(0.4) ? this.draw.one(['text', 'numeric', 'date'] as const) : undefined;
    const whens = Array.from({ length: this.draw.whole(1, 3) }, () => [inner(of ?? 'boolean'), inner(type)] as const);
    return {
      ...at,
      kind: 'case',
      whens,
      ...(of ? { of: inner(of) } : {}),
      ...(this.draw.chance(0.7) ? { otherwise: inner(type) } : {}),
    };
  }

  cast(type: FormulaType, depth: number): Expression | undefined {
    const from: Partial<
      Record<
        FormulaType,
        readonly (readonly [FormulaType, 'text' | 'integer' | 'date' | 'time' | 'timestamp' | 'numeric'])[]
      >
    > = {
      text: [
        ['numeric', 'text'],
        ['date', 'text'],
        ['timestamp', 'text'],
        ['time', 'text'],
        ['boolean', 'text'],
        ['interval', 'text'],
      ],
      numeric: [
        ['numeric', 'integer'],
        ['boolean', 'integer'],
      ],
      date: [['timestamp', 'date']],
      time: [['timestamp', 'time']],
      timestamp: [['date', 'timestamp']],
    };
    const own = from[type];
    if (!own) return undefined;
    const [source, into] = this.draw.one(own);
    return {
      ...at,
      kind: 'cast',
      of: this.made(source, depth - 1),
      into,
      ...(into === 'numeric' ? { digits: [12, 2] } : {}),
    };
  }

  /** One of many: by turns a function, a form, or any formula of a type. */
  nth(n: number, depth: number): Expression {
    const ways = functions.filter(judgeable);
    if (n % 3 === 0) return this.called(ways[n % ways.length], depth);
    if (n % 3 === 1) return this.form(Object.keys(forms)[n % Object.keys(forms).length], depth);
    return this.made((['numeric', 'text', 'date', 'timestamp', 'boolean', 'time', 'interval'] as const)[n % 7], depth);
  }

  /** @param depth how many calls may stand in one another */
  made(type: FormulaType, depth: number): Expression {
    if (depth <= 0 || this.draw.chance(0.25)) return this.leaf(type);
    if (this.draw.chance(0.12)) return this.choice(type, depth);
    if (this.draw.chance(0.1)) return this.cast(type, depth) ?? this.leaf(type);
    const choosing = ['coalesce', 'greatest', 'least', 'nullif'];
    const others = Object.keys(forms).filter((name) => !choosing.includes(name));
    if (type === 'boolean' && this.draw.chance(0.6)) return this.form(this.draw.one(others), depth);
    if (type !== 'interval' && this.draw.chance(0.15)) return this.form(this.draw.one(choosing), depth, type);
    const ways = functions.filter(
      (way) => (way.result === 'integer' ? 'numeric' : way.result) === type && judgeable(way),
    );
    return ways.length === 0 ? this.leaf(type) : this.called(this.draw.one(ways), depth);
  }
}
