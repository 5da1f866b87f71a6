import { dayOf, dayOfYear, isoWeek, mondayOf, weekday, type Moment } from '../calendar';
import { civilDay } from '../../values/date';
import { Mishap } from '../mishap';
import { absolute, numericText, parsed, rounded, type Numeric } from '../numeric';
import { declaring } from './function';

const fn = declaring('formats');

const months = ['January', 'February', 'March', 'April', 'May', 'June', 'July', 'August', 'September', 'October', 'November', 'December'];
const weekdays = ['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday'];
const longestName = 9;

/** Parts of a date's format, the longest first (PostgreSQL, "Template Patterns for Date/Time Formatting"). */
const dateParts = ['IYYY', 'YYYY', 'HH24', 'HH12', 'MONTH', 'Month', 'month', 'IDDD', 'DDD', 'DAY', 'Day', 'day', 'MON', 'Mon', 'mon', 'YYY', 'IYY', 'A.M.', 'P.M.', 'a.m.', 'p.m.', 'YY', 'MM', 'DD', 'DY', 'Dy', 'dy', 'ID', 'IW', 'IY', 'WW', 'CC', 'HH', 'MI', 'SS', 'MS', 'US', 'AM', 'PM', 'am', 'pm', 'Y', 'Q', 'D', 'W', 'I'] as const;
type DatePart = (typeof dateParts)[number];
type Template = readonly ({ readonly part: DatePart; readonly plain: boolean } | { readonly text: string })[];
const unread: readonly string[] = ['TZH', 'TZM', 'TZ', 'OF', 'BC', 'AD', 'B.C.', 'A.D.', 'RM', 'SSSSS', 'SSSS', 'FF', 'TM', 'FX', 'J', 'Y,YYY', 'th', 'TH'];

/** @throws Mishap where the format has parts that are not there */
function templateOf(format: string): Template {
  const made: ({ part: DatePart; plain: boolean } | { text: string })[] = [];
  let plain = false;
  const text = (own: string) => {
    const last = made.at(-1);
    if (last && 'text' in last) made[made.length - 1] = { text: last.text + own };
    else made.push({ text: own });
  };
  for (let at = 0; at < format.length; ) {
    if (format[at] === '"') {
      const end = format.indexOf('"', at + 1);
      text(format.slice(at + 1, end < 0 ? undefined : end));
      at = end < 0 ? format.length : end + 1;
      continue;
    }
    const rest = format.slice(at);
    if (rest.startsWith('FM')) {
      plain = true;
      at += 2;
      continue;
    }
    const other = unread.find((each) => rest.startsWith(each) && !(dateParts as readonly string[]).some((part) => rest.startsWith(part) && part.length > each.length));
    if (other !== undefined) throw new Mishap(`“${other}” in the format “${format}”: put texts into double quotes`);
    const part = dateParts.find((each) => rest.startsWith(each));
    if (part) {
      made.push({ part, plain });
      plain = false;
      at += part.length;
    } else {
      text(format[at]);
      at++;
    }
  }
  return made;
}

const padded = (n: number, digits: number, plain: boolean): string => (plain ? String(n) : String(n).padStart(digits, '0'));
const named = (name: string, plain: boolean): string => (plain ? name : name.padEnd(longestName));

function writtenPart(part: DatePart, plain: boolean, { day, micros }: Moment): string {
  const { year, month, day: ofMonth } = civilDay(day);
  const week = isoWeek(day);
  const hour = Math.floor(micros / 3_600_000_000);
  const [minute, second] = [Math.floor(micros / 60_000_000) % 60, Math.floor(micros / 1_000_000) % 60];
  const [monthName, dayName] = [months[month - 1], weekdays[weekday(day) - 1]];
  const short = (of: number, digits: number) => padded(of % 10 ** digits, digits, plain);
  switch (part) {
    case 'YYYY': return padded(year, 4, plain);
    case 'YYY': return short(year, 3);
    case 'YY': return short(year, 2);
    case 'Y': return short(year, 1);
    case 'IYYY': return padded(week.year, 4, plain);
    case 'IYY': return short(week.year, 3);
    case 'IY': return short(week.year, 2);
    case 'I': return short(week.year, 1);
    case 'CC': return padded(Math.floor((year + 99) / 100), 2, plain);
    case 'Q': return String(Math.floor((month + 2) / 3));
    case 'MM': return padded(month, 2, plain);
    case 'MONTH': return named(monthName.toUpperCase(), plain);
    case 'Month': return named(monthName, plain);
    case 'month': return named(monthName.toLowerCase(), plain);
    case 'MON': return monthName.slice(0, 3).toUpperCase();
    case 'Mon': return monthName.slice(0, 3);
    case 'mon': return monthName.slice(0, 3).toLowerCase();
    case 'IW': return padded(week.week, 2, plain);
    case 'WW': return padded(Math.floor((dayOfYear(day) - 1) / 7) + 1, 2, plain);
    case 'W': return String(Math.floor((ofMonth - 1) / 7) + 1);
    case 'DDD': return padded(dayOfYear(day), 3, plain);
    case 'IDDD': return padded(day - mondayOf(week.year, 1) + 1, 3, plain);
    case 'DD': return padded(ofMonth, 2, plain);
    case 'D': return String((weekday(day) % 7) + 1);
    case 'ID': return String(weekday(day));
    case 'DAY': return named(dayName.toUpperCase(), plain);
    case 'Day': return named(dayName, plain);
    case 'day': return named(dayName.toLowerCase(), plain);
    case 'DY': return dayName.slice(0, 3).toUpperCase();
    case 'Dy': return dayName.slice(0, 3);
    case 'dy': return dayName.slice(0, 3).toLowerCase();
    case 'HH24': return padded(hour, 2, plain);
    case 'HH':
    case 'HH12': return padded(hour % 12 === 0 ? 12 : hour % 12, 2, plain);
    case 'MI': return padded(minute, 2, plain);
    case 'SS': return padded(second, 2, plain);
    case 'MS': return padded(Math.floor((micros % 1_000_000) / 1000), 3, plain);
    case 'US': return padded(micros % 1_000_000, 6, plain);
    case 'AM':
    case 'PM': return hour < 12 ? 'AM' : 'PM';
    case 'am':
    case 'pm': return hour < 12 ? 'am' : 'pm';
    case 'A.M.':
    case 'P.M.': return hour < 12 ? 'A.M.' : 'P.M.';
    case 'a.m.':
    case 'p.m.': return hour < 12 ? 'a.m.' : 'p.m.';
  }
}

function keptTemplate(): (format: string) => Template {
  let last: { format: string; template: Template } | undefined;
  return (format) => {
    if (last?.format !== format) last = { format, template: templateOf(format) };
    return last.template;
  };
}

function dateWriter() {
  const template = keptTemplate();
  return (moment: Moment, format: string): string => template(format).map((each) => ('text' in each ? each.text : writtenPart(each.part, each.plain, moment))).join('');
}

/** How a part of a date is read: what its text looks like. */
const readAs: Readonly<Partial<Record<DatePart, string>>> = {
  YYYY: '(\\d{4})', YY: '(\\d{2})', MM: '(\\d{1,2})', DD: '(\\d{1,2})', DDD: '(\\d{1,3})', IYYY: '(\\d{4})', IW: '(\\d{1,2})', ID: '([1-7])', Q: '([1-4])',
};
const readNames = (part: DatePart): 'month' | 'mon' | 'day' | 'dy' | undefined => (['month', 'mon', 'day', 'dy'] as const).find((each) => each === part.toLowerCase());

/** A date as it is written by a format. The text must fit as a whole. @throws Mishap */
function dateReader() {
  const template = keptTemplate();
  return (text: string, format: string): number => {
    let rest = text.trim();
    const found = new Map<string, number>();
    const refuse = () => new Mishap(`“${text}” does not fit the format “${format}”`);
    for (const each of template(format)) {
      if ('text' in each) {
        // Signs between may be others, as they often are in print; spaces may be more.
        const own = each.text;
        if (/^[\s\-/.,:]+$/.test(own)) {
          const gap = /^[\s\-/.,:]+/.exec(rest);
          if (!gap) throw refuse();
          rest = rest.slice(gap[0].length);
        } else if (rest.startsWith(own)) rest = rest.slice(own.length);
        else throw refuse();
        continue;
      }
      rest = rest.trimStart();
      const name = readNames(each.part);
      if (name) {
        const names = name === 'month' ? months : name === 'mon' ? months.map((month) => month.slice(0, 3)) : name === 'day' ? weekdays : weekdays.map((day) => day.slice(0, 3));
        const at = names.findIndex((own) => rest.toLowerCase().startsWith(own.toLowerCase()));
        if (at < 0) throw refuse();
        if (name === 'month' || name === 'mon') found.set('MM', at + 1);
        rest = rest.slice(names[at].length);
        continue;
      }
      const as = readAs[each.part];
      if (as === undefined) throw new Mishap(`“${each.part}” in the format “${format}”: dates are read by ${[...Object.keys(readAs), 'Month', 'Mon', 'Day', 'Dy'].join(', ')}`);
      const match = new RegExp(`^${as}`).exec(rest);
      if (!match) throw refuse();
      found.set(each.part, Number(match[1]));
      rest = rest.slice(match[0].length);
    }
    if (rest.trim() !== '') throw refuse();
    return dayRead(found);
  };
}

function dayRead(found: ReadonlyMap<string, number>): number {
  const two = found.get('YY');
  const year = found.get('YYYY') ?? (two === undefined ? undefined : two < 70 ? 2000 + two : 1900 + two);
  const [isoYear, isoOfYear] = [found.get('IYYY'), found.get('IW')];
  if (isoYear !== undefined) return mondayOf(isoYear, isoOfYear ?? 1) + (found.get('ID') ?? 1) - 1;
  if (year === undefined) throw new Mishap('a date without a year');
  const ofYear = found.get('DDD');
  if (ofYear === undefined) return dayOf(year, found.get('MM') ?? 1, found.get('DD') ?? 1);
  const day = dayOf(year, 1, 1) + ofYear - 1;
  if (ofYear < 1 || civilDay(day).year !== year) throw new Mishap(`the year ${year} has no day ${ofYear}`);
  return day;
}

/** A number's format, taken apart (PostgreSQL, "Template Patterns for Numeric Formatting"). */
interface NumberFormat {
  /** Signs in their order: digits 9 and 0, marks between thousands, the point, signs of the number, other texts. */
  readonly parts: readonly { readonly is: '9' | '0' | 'group' | 'point' | 'S' | 'MI' | 'PL' | 'SG' | 'PR' | 'text'; readonly text: string }[];
  readonly plain: boolean;
  readonly before: number;
  readonly behind: number;
}

function numberFormat(format: string): NumberFormat {
  const parts: { is: NumberFormat['parts'][number]['is']; text: string }[] = [];
  let [plain, before, behind, pointed] = [false, 0, 0, false];
  for (let at = 0; at < format.length; ) {
    const rest = format.slice(at);
    const two = rest.slice(0, 2).toUpperCase();
    const take = (is: (typeof parts)[number]['is'], text: string) => {
      parts.push({ is, text });
      at += text.length;
    };
    if (two === 'FM') [plain, at] = [true, at + 2];
    else if (two === 'MI' || two === 'PL' || two === 'SG' || two === 'PR') take(two, rest.slice(0, 2));
    else if (/^(?:EEEE|RN|TH|V|L|C|B)/i.test(rest)) throw new Mishap(`“${/^(?:EEEE|RN|TH|V|L|C|B)/i.exec(rest)![0]}” in the format “${format}”: put texts into double quotes`);
    else if (rest[0] === '9' || rest[0] === '0') {
      if (pointed) behind++;
      else before++;
      take(rest[0], rest[0]);
    } else if (/^[,G]/i.test(rest)) take('group', rest[0]);
    else if (/^[.D]/i.test(rest)) {
      if (pointed) throw new Mishap(`two points in the format “${format}”`);
      pointed = true;
      take('point', rest[0]);
    } else if (/^S/i.test(rest)) take('S', rest[0]);
    else if (rest[0] === '"') {
      const end = rest.indexOf('"', 1);
      parts.push({ is: 'text', text: rest.slice(1, end < 0 ? undefined : end) });
      at += end < 0 ? rest.length : end + 1;
    } else take('text', rest[0]);
  }
  if (before + behind === 0) throw new Mishap(`no digits in the format “${format}”: 9 or 0 stands for one`);
  return { parts, plain, before, behind };
}

function keptFormat(): (format: string) => NumberFormat {
  let last: { format: string; made: NumberFormat } | undefined;
  return (format) => {
    if (last?.format !== format) last = { format, made: numberFormat(format) };
    return last.made;
  };
}

function numberWriter() {
  const formatOf = keptFormat();
  return (value: Numeric, text: string): string => {
    const { parts, plain, before, behind } = formatOf(text);
    const own = rounded(value, behind);
    const negative = own.n < 0;
    const [left, right = ''] = numericText(absolute(own)).split('.');
    const tooLong = left !== '0' && left.length > before;
    const digits = tooLong ? '#'.repeat(before) : (left === '0' ? '' : left).padStart(before, ' ');
    const fraction = tooLong ? '#'.repeat(behind) : right.padEnd(behind, '0');
    // From the first 0 on, zeros are written.
    const firstZero = parts.filter(({ is }) => is === '9' || is === '0').findIndex(({ is }) => is === '0');
    const zerosFrom = firstZero < 0 ? Infinity : firstZero;
    const hasOwnSign = parts.some(({ is }) => is === 'S' || is === 'MI' || is === 'SG' || is === 'PR');
    const isPr = parts.some(({ is }) => is === 'PR');
    // A zero before the point is written where nothing else would be.
    const lastBefore = parts.findLastIndex(({ is }, i) => (is === '9' || is === '0') && !parts.slice(0, i).some((each) => each.is === 'point'));
    let [at, fractionAt, begun, pointed] = [0, 0, false, false];
    const out: string[] = [];
    let signAt = -1;
    const begin = () => {
      if (!begun) signAt = out.length;
      begun = true;
    };
    parts.forEach(({ is, text: mark }, i) => {
      switch (is) {
        case '9':
        case '0': {
          if (pointed) {
            out.push(fraction[fractionAt++]);
            return;
          }
          const digit = digits[at];
          const isZero = digit === ' ' && (at >= zerosFrom || (i === lastBefore && behind === 0 && left === '0'));
          if (digit !== ' ' || isZero) begin();
          out.push(digit !== ' ' ? digit : isZero ? '0' : plain ? '' : ' ');
          at++;
          return;
        }
        case 'group':
          out.push(begun ? ',' : plain ? '' : ' ');
          return;
        case 'point':
          // Of nothing at all a zero is left.
          if (plain && !begun && own.n === 0) out.push('0');
          begin();
          pointed = true;
          out.push('.');
          return;
        case 'text':
          out.push(mark);
          return;
        case 'MI':
          out.push(negative ? '-' : plain ? '' : ' ');
          return;
        case 'PL':
          out.push(negative ? (plain ? '' : ' ') : '+');
          return;
        case 'SG':
          out.push(negative ? '-' : '+');
          return;
        case 'S':
        case 'PR':
          return;
      }
    });
    if (plain && pointed) {
      // Digits behind the point that nothing asks for go, up to the last 0 of the format.
      const behindParts = parts.slice(parts.findIndex(({ is }) => is === 'point') + 1).filter(({ is }) => is === '9' || is === '0');
      const least = behindParts.findLastIndex(({ is }) => is === '0') + 1;
      const point = out.lastIndexOf('.');
      let last = point + behind;
      while (last > point + least && out[last] === '0') out[last--] = '';
    }
    if (signAt < 0) signAt = out.length;
    const [first, end] = [parts.findIndex(({ is }) => is === 'S'), parts.findIndex(({ is }) => is === '9' || is === '0')];
    if (first >= 0) {
      if (first < end) out.splice(signAt, 0, negative ? '-' : '+');
      else out.push(negative ? '-' : '+');
    } else if (isPr) {
      out.splice(signAt, 0, negative ? '<' : plain ? '' : ' ');
      out.push(negative ? '>' : plain ? '' : ' ');
    } else if (!hasOwnSign) out.splice(signAt, 0, negative ? '-' : plain ? '' : ' ');
    return out.join('');
  };
}

/** A number as it is written by a format: marks between thousands go, the sign may stand at either end. @throws Mishap */
function numberReader() {
  const formatOf = keptFormat();
  return (text: string, format: string): Numeric => {
    const { parts, before, behind } = formatOf(format);
    const refuse = () => new Mishap(`“${text}” does not fit the format “${format}”`);
    let own = text.trim();
    let negative = false;
    if (parts.some(({ is }) => is === 'PR') && /^<.*>$/.test(own)) [negative, own] = [true, own.slice(1, -1)];
    for (const { is, text: mark } of parts) if (is === 'text' && mark.trim() !== '') own = own.replace(mark, '');
    own = own.trim();
    const sign = /^[+-]/.exec(own) ?? (parts.some(({ is }) => is === 'S' || is === 'MI' || is === 'PL' || is === 'SG') ? /[+-]$/.exec(own) : null);
    if (sign) [negative, own] = [negative || sign[0] === '-', (sign.index === 0 ? own.slice(1) : own.slice(0, -1)).trim()];
    if (parts.some(({ is }) => is === 'group')) own = own.replaceAll(',', '');
    const match = /^(\d*)(?:\.(\d*))?$/.exec(own);
    if (!match || (match[1] + (match[2] ?? '')) === '' || match[1].length > before || (match[2] ?? '').length > behind) throw refuse();
    const value = parsed(own)!;
    return negative ? { n: value.n === 0 ? 0 : -value.n, s: value.s } : value;
  };
}

export const formats = [
  { ...fn('to_char', ['timestamp', 'text'], 'text', { says: 'A date or timestamp as a format says: YYYY, MM, DD, Mon, Month, Dy, Day, Q, IW, IYYY, HH24, MI, SS ...; FM before a part leaves filling out, texts stand in double quotes.', example: ["to_char(date '2025-06-09', 'FMDay, DD Mon YYYY')", 'Monday, 09 Jun 2025'], called: 'date, format' }, dateWriter()), prepare: dateWriter },
  { ...fn('to_char', ['numeric', 'text'], 'text', { says: 'A number as a format says: 9 is a digit, 0 one that is always written, a comma stands between thousands, S, MI and PR are signs; FM leaves filling out.', example: ["to_char(1234.5, 'FM9,990.00')", '1,234.50'], called: 'number, format' }, numberWriter()), prepare: numberWriter },
  { ...fn('to_date', ['text', 'text'], 'date', { says: 'The date that a text says by a format. The text must fit it as a whole, where PostgreSQL guesses.', example: ["to_date('9 June 2025', 'DD Month YYYY')", '2025-06-09'], called: 'text, format' }, dateReader()), prepare: dateReader },
  { ...fn('to_number', ['text', 'text'], 'numeric', { says: 'The number that a text says by a format. The text must fit it as a whole, where PostgreSQL guesses.', example: ["to_number('1,234.50-', '9,999.99S')", '-1234.5'], called: 'text, format' }, numberReader()), prepare: numberReader },
];
