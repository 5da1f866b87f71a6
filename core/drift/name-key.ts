import { escaped } from '../values/escaped';
import { locales } from '../values/locale';

const all = Object.values(locales);
const longestFirst = (words: readonly string[]) =>
  [...new Set(words)].filter((word) => /\p{L}/u.test(word)).sort((a, b) => b.length - a.length);
const months = longestFirst(
  all.flatMap(({ months: beside, monthsAlone, monthsShort }) => [...beside, ...monthsAlone, ...monthsShort]),
).filter((word) => word.length > 2);
/** Short names that are words as well in another language ("out", "set") are months only beside a number. */
const sure = months.filter(
  (word) =>
    word.replace('.', '').length > 3 || locales['en-GB'].monthsShort.some((short) => short.slice(0, 3) === word),
);
const weekdays = longestFirst(all.flatMap(({ weekdays: long, weekdaysShort }) => [...long, ...weekdaysShort]));
const parts = longestFirst(
  all.flatMap(({ week, quarter, half, fiscal }) => [...week, ...quarter, ...half, ...fiscal]),
).filter((word) => word.length > 1);
const word = (words: readonly string[]) => `(?<!\\p{L})(?:${words.map(escaped).join('|')})(?!\\p{L})\\.?`;
const moments = new RegExp(
  [
    word(sure),
    `${word(months)}[\\s'’/-]*\\d{1,4}(?!\\d)`,
    `(?<!\\d)\\d{1,2}\\.?[\\s/-]*${word(months)}`,
    // "Week 24", "KW 24", "FY25", "2. Halbjahr"
    `(?<!\\p{L})(?:${parts.map(escaped).join('|')})\\.?\\s*\\d{1,4}(?!\\d)`,
    `(?<!\\d)\\d\\.?\\s*(?:${parts.map(escaped).join('|')})(?!\\p{L})`,
    // 31.03.2025, 03/25, 31.03., 3/6
    '(?<![\\d.,])(?:\\d{1,2}[./-]){1,2}\\d{2,4}(?![\\d,])',
    '(?<![\\d.,])\\d{1,2}\\.\\d{1,2}\\.(?!\\d)',
    '(?<![\\d.,/])\\d{1,2}/\\d{1,2}(?![\\d/])',
    // 2025, 2024/25
    '(?<!\\d)(?:19|20)\\d\\d(?:[/-]\\d{2,4})?(?!\\d)',
    // Q2, H1, W24
    '(?<!\\p{L})[QHWT][1-9]\\d?(?![\\p{L}\\d])',
  ].join('|'),
  'giu',
);
const dayOfWeek = new RegExp(`(${word(weekdays)})[\\s,]*\\d{1,2}(?:\\.\\d{1,2})?\\.?(?!\\d)`, 'giu');

/**
 * A column's name as it is compared from one report to the next: what names a moment ("March 2025", "31.03.2025", "Q2") becomes
 * a mark, as it changes by itself; nothing else is folded, as columns are appended by their exact names.
 */
export function nameKey(name: string): string {
  const known = keys.get(name);
  if (known !== undefined) return known;
  const key = workedOut(name);
  if (keys.size > mostKept) keys.clear();
  keys.set(name, key);
  return key;
}

const keys = new Map<string, string>();
const mostKept = 5000;

function workedOut(name: string): string {
  const trimmed = name.trim().replace(/\s+/g, ' ');
  if (/^\d{1,4}$/.test(trimmed)) return moment;
  const marked = trimmed.replace(dayOfWeek, `$1 ${moment}`).replace(moments, moment);
  // A day of the month, or a short year, beside a month: "3 March", "Mar-25".
  return marked === trimmed
    ? trimmed
    : marked
        .replace(/\d{1,2}\.?(?=[\s/-]*◷)|(?<=◷[\s/'’-]*)\d{1,4}(?!\d)/gu, moment)
        .replace(/(?:◷[\s,./'’–-]*)+(?=◷)/gu, '')
        .trim();
}

/** What stands for a moment in a key. */
export const moment = '◷';
