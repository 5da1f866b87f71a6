import { locales } from '../values/locale';

const escaped = (text: string) => text.replace(/[.*+?^${}()|[\]\\/-]/g, '\\$&');
const months = [...new Set(Object.values(locales).flatMap(({ months: beside, monthsAlone, monthsShort }) => [...beside, ...monthsAlone, ...monthsShort]))].filter((word) => word.length > 2).sort((a, b) => b.length - a.length);
const weeks = [...new Set(Object.values(locales).flatMap(({ week, quarter, half }) => [...week, ...quarter, ...half]))].filter((word) => /\p{L}/u.test(word));
const word = (words: readonly string[]) => `(?<!\\p{L})(?:${words.map(escaped).join('|')})(?!\\p{L})\\.?`;
const moments = new RegExp(`(?:${word(months)}|${word(weeks)}\\s*\\d{1,2}(?!\\d)|(?<![\\d.,])(?:\\d{1,2}[./-]){1,2}\\d{2,4}(?![\\d,])|(?<!\\d)(?:19|20)\\d\\d(?:[/-]\\d{2,4})?(?!\\d)|(?<!\\p{L})[QHWT][1-9]\\d?(?!\\p{L}))`, 'giu');

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
  const marked = trimmed.replace(moments, moment);
  // A day of the month beside a month: "3 March".
  return marked === trimmed ? trimmed : marked.replace(/\d{1,2}\.?(?=\s*◷)|(?<=◷\s*)\d{1,2}(?!\d)/gu, moment).replace(/(?:◷[\s,./–-]*)+(?=◷)/gu, '').trim();
}

/** What stands for a moment in a key. */
export const moment = '◷';
