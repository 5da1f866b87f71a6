import { random } from './random';

/** Planned and actual throughput of a month in tenths of a thousand tonnes; null: not available. */
export interface Month {
  readonly plan: number;
  readonly actual: number | null;
}

/** A line of the table: a class of cargo, a kind of cargo in it, or all cargo. */
export interface CargoLine {
  readonly cargo: string;
  /** 0: all cargo, 1: a class, 2: a kind of the class above. */
  readonly level: 0 | 1 | 2;
  readonly months: readonly Month[];
}

export interface Throughput {
  readonly year: number;
  readonly group: 'North' | 'West';
  readonly lines: readonly CargoLine[];
}

const classes: readonly [name: string, kinds: readonly [name: string, usual: number][]][] = [
  [
    'Dry bulk',
    [
      ['Grain', 620],
      ['Coal', 1480],
      ['Fertiliser', 210],
      ['Stone and sand', 940],
    ],
  ],
  [
    'Liquid bulk',
    [
      ['Fuel oil', 1310],
      ['Plant oils', 160],
    ],
  ],
  [
    'General cargo',
    [
      ['Timber', 380],
      ['Steel', 455],
      ['Paper', 120],
      ['Project cargo', 35],
    ],
  ],
  [
    'Fish',
    [
      ['Fresh', 88],
      ['Frozen', 142],
    ],
  ],
];

const sum = (months: readonly (readonly Month[])[]): Month[] =>
  Array.from({ length: 12 }, (_, m) => ({
    plan: months.reduce((total, line) => total + line[m].plan, 0),
    actual: months.reduce((total, line) => total + (line[m].actual ?? 0), 0),
  }));

/** The throughput of one group of quays in one year. */
export function throughput(year: number, group: Throughput['group']): Throughput {
  const r = random(year * 31 + (group === 'West' ? 7 : 0));
  const lines: CargoLine[] = [];
  const all: Month[][] = [];
  for (const [name, kinds] of classes) {
    const own = kinds.map(([cargo, usual]): CargoLine => ({
      cargo,
      level: 2,
      months: Array.from({ length: 12 }, (): Month => {
        const plan = Math.max(1, Math.round(usual * (0.8 + 0.4 * r.next())));
        return { plan, actual: r.chance(0.05) ? null : Math.round(plan * (0.7 + 0.5 * r.next())) };
      }),
    }));
    const months = sum(own.map((line) => line.months));
    all.push(months);
    lines.push({ cargo: name, level: 1, months }, ...own);
  }
  return { year, group, lines: [...lines, { cargo: 'All cargo', level: 0, months: sum(all) }] };
}

export const throughputYears = [2021, 2022, 2023, 2024];
export const monthNames = [
  'January',
  'February',
  'March',
  'April',
  'May',
  'June',
  'July',
  'August',
  'September',
  'October',
  'November',
  'December',
];

/** Plan, actual and what share of the plan was reached, over six months; hundredths of a percent, null where a month is not available. */
export function halfYear(months: readonly Month[]): { plan: number; actual: number | null; reached: number | null } {
  const plan = months.reduce((total, month) => total + month.plan, 0);
  const actual = months.some((month) => month.actual === null)
    ? null
    : months.reduce((total, month) => total + month.actual!, 0);
  return { plan, actual, reached: actual === null ? null : Math.round((actual * 1000) / plan) };
}
