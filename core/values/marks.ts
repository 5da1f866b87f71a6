import type { Locale } from './locale';

/** The marks of printed numbers: between whole and fraction, between groups of digits, and how large the groups are. */
export interface Marks {
  readonly decimal: string;
  readonly groups: readonly string[];
  readonly grouping: readonly number[];
}

const spaces = [' ', '\u00a0', '\u202f', '\u2009'];
const apostrophes = ["'", '’'];

/** Ways of printing numbers, named by an example; where values fit several, the first is taken. */
export const markStyles = {
  '1,234.56': { decimal: '.', groups: [',', ...spaces], grouping: [3] },
  '1 234,56': { decimal: ',', groups: spaces, grouping: [3] },
  '1.234,56': { decimal: ',', groups: ['.', ...spaces], grouping: [3] },
  '1 234.56': { decimal: '.', groups: spaces, grouping: [3] },
  "1'234.56": { decimal: '.', groups: apostrophes, grouping: [3] },
  "1'234,56": { decimal: ',', groups: apostrophes, grouping: [3] },
  '12,34,567.89': { decimal: '.', groups: [',', ...spaces], grouping: [3, 2] },
} satisfies Record<string, Marks>;

export const asLocale = 'as the locale';
export const markNames = [asLocale, ...(Object.keys(markStyles) as (keyof typeof markStyles)[])] as const;
export type MarkName = (typeof markNames)[number];

/** Each report tells by its own numbers how they are printed. */
export const asReport = 'as each report prints them';

export const marksOf = (name: MarkName, locale: Locale): Marks => (name === asLocale ? locale : markStyles[name]);

/** 1234.5 as these marks have it. */
export const exampleOf = ({ decimal, groups }: Marks, kind: 'whole' | 'fraction' = 'fraction'): string =>
  `1${groups[0]}234${kind === 'fraction' ? `${decimal}5` : ''}`;
