// Dates as formats write and read them.
import { dayOf, dayOfYear, isoWeek, mondayOf, weekday, type Moment } from '../calendar';
import { civilDay } from '../../values/date';
import { Mishap } from '../mishap';
const months = [
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
const weekdays = ['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday'];
const longestName = 9;

/** Parts of a date's format, the longest first (PostgreSQL, "Template Patterns for Date/Time Formatting"). */
const dateParts = [
  'IYYY',
  'YYYY',
  'HH24',
  'HH12',
  'MONTH',
  'Month',
  'month',
  'IDDD',
  'DDD',
  'DAY',
  'Day',
  'day',
  'MON',
  'Mon',
  'mon',
  'YYY',
  'IYY',
  'A.M.',
  'P.M.',
  'a.m.',
  'p.m.',
  'YY',
  'MM',
  'DD',
  'DY',
  'Dy',
  'dy',
  'ID',
  'IW',
  'IY',
  'WW',
  'CC',
  'HH',
  'MI',
  'SS',
  'MS',
  'US',
  'AM',
  'PM',
  'am',
  'pm',
  'Y',
  'Q',
  'D',
  'W',
  'I',
] as const;
type DatePart = (typeof dateParts)[number];
/** Those that are numbers may be written in small letters too; of names and of AM the letters say how they are written. */
const asNames = /^(?:MONTH|MON|DAY|DY|[AP]\.?M\.?)$/i;
const written: readonly (readonly [string, DatePart])[] = dateParts
  .flatMap((part): [string, DatePart][] =>
    asNames.test(part)
      ? [[part, part]]
      : [
          [part, part],
          [part.toLowerCase(), part],
        ],
  )
  .sort(([a], [b]) => b.length - a.length);
type Template = readonly ({ readonly part: DatePart; readonly plain: boolean } | { readonly text: string })[];
const unread: readonly string[] = [
  'TZH',
  'TZM',
  'TZ',
  'OF',
  'BC',
  'AD',
  'B.C.',
  'A.D.',
  'RM',
  'SSSSS',
  'SSSS',
  'FF',
  'TM',
  'FX',
  'J',
  'Y,YYY',
  'TH',
].flatMap((part) => [part, part.toLowerCase()]);

/** @throws Mishap where the format has parts that are not there */
function templateOf(format: string): Template {
  const made: ({ part: DatePart; plain: boolean } | { text: string })[] = [];
  let plain = false;
  const text = (own: string) => {
    // It is asked for the part right behind it.
    plain = false;
    const last = made.at(-1);
    if (last && 'text' in last) made[made.length - 1] = { text: last.text + own };
    else made.push({ text: own });
  };
  for (let at = 0; at < format.length;) {
    if (format[at] === '"') {
      const end = format.indexOf('"', at + 1);
      text(format.slice(at + 1, end < 0 ? undefined : end));
      at = end < 0 ? format.length : end + 1;
      continue;
    }
    const rest = format.slice(at);
    if (/^(?:FM|fm)/.test(rest)) {
      if (plain) throw new Mishap(`FM twice in the format “${format}”`);
      plain = true;
      at += 2;
      continue;
    }
    const other = unread.find(
      (each) => rest.startsWith(each) && !written.some(([part]) => rest.startsWith(part) && part.length > each.length),
    );
    if (other !== undefined) throw new Mishap(`“${other}” in the format “${format}”: put texts into double quotes`);
    const found = written.find(([each]) => rest.startsWith(each));
    if (found) {
      made.push({ part: found[1], plain });
      plain = false;
      at += found[0].length;
    } else {
      text(format[at]);
      at++;
    }
  }
  return made;
}

const padded = (n: number, digits: number, plain: boolean): string =>
  plain ? String(n) : String(n).padStart(digits, '0');
const named = (name: string, plain: boolean): string => (plain ? name : name.padEnd(longestName));

function writtenPart(part: DatePart, plain: boolean, { day, micros }: Moment): string {
  const { year, month, day: ofMonth } = civilDay(day);
  const week = isoWeek(day);
  const hour = Math.floor(micros / 3_600_000_000);
  const [minute, second] = [Math.floor(micros / 60_000_000) % 60, Math.floor(micros / 1_000_000) % 60];
  const [monthName, dayName] = [months[month - 1], weekdays[weekday(day) - 1]];
  const short = (of: number, digits: number) => padded(of % 10 ** digits, digits, plain);
  switch (part) {
    case 'YYYY':
      return padded(year, 4, plain);
    case 'YYY':
      return short(year, 3);
    case 'YY':
      return short(year, 2);
    case 'Y':
      return short(year, 1);
    case 'IYYY':
      return padded(week.year, 4, plain);
    case 'IYY':
      return short(week.year, 3);
    case 'IY':
      return short(week.year, 2);
    case 'I':
      return short(week.year, 1);
    case 'CC':
      return padded(Math.floor((year + 99) / 100), 2, plain);
    case 'Q':
      return String(Math.floor((month + 2) / 3));
    case 'MM':
      return padded(month, 2, plain);
    case 'MONTH':
      return named(monthName.toUpperCase(), plain);
    case 'Month':
      return named(monthName, plain);
    case 'month':
      return named(monthName.toLowerCase(), plain);
    case 'MON':
      return monthName.slice(0, 3).toUpperCase();
    case 'Mon':
      return monthName.slice(0, 3);
    case 'mon':
      return monthName.slice(0, 3).toLowerCase();
    case 'IW':
      return padded(week.week, 2, plain);
    case 'WW':
      return padded(Math.floor((dayOfYear(day) - 1) / 7) + 1, 2, plain);
    case 'W':
      return String(Math.floor((ofMonth - 1) / 7) + 1);
    case 'DDD':
      return padded(dayOfYear(day), 3, plain);
    case 'IDDD':
      return padded(day - mondayOf(week.year, 1) + 1, 3, plain);
    case 'DD':
      return padded(ofMonth, 2, plain);
    case 'D':
      return String((weekday(day) % 7) + 1);
    case 'ID':
      return String(weekday(day));
    case 'DAY':
      return named(dayName.toUpperCase(), plain);
    case 'Day':
      return named(dayName, plain);
    case 'day':
      return named(dayName.toLowerCase(), plain);
    case 'DY':
      return dayName.slice(0, 3).toUpperCase();
    case 'Dy':
      return dayName.slice(0, 3);
    case 'dy':
      return dayName.slice(0, 3).toLowerCase();
    case 'HH24':
      return padded(hour, 2, plain);
    case 'HH':
    case 'HH12':
      return padded(hour % 12 === 0 ? 12 : hour % 12, 2, plain);
    case 'MI':
      return padded(minute, 2, plain);
    case 'SS':
      return padded(second, 2, plain);
    case 'MS':
      return padded(Math.floor((micros % 1_000_000) / 1000), 3, false);
    case 'US':
      return padded(micros % 1_000_000, 6, false);
    case 'AM':
    case 'PM':
      return hour < 12 ? 'AM' : 'PM';
    case 'am':
    case 'pm':
      return hour < 12 ? 'am' : 'pm';
    case 'A.M.':
    case 'P.M.':
      return hour < 12 ? 'A.M.' : 'P.M.';
    case 'a.m.':
    case 'p.m.':
      return hour < 12 ? 'a.m.' : 'p.m.';
  }
}

function keptTemplate(): (format: string) => Template {
  let last: { format: string; template: Template } | undefined;
  return (format) => {
    if (last?.format !== format) last = { format, template: templateOf(format) };
    return last.template;
  };
}

/** Writes moments by formats, the last of which it keeps taken apart. */
export function dateWriter() {
  const template = keptTemplate();
  return (moment: Moment, format: string): string =>
    template(format)
      .map((each) => ('text' in each ? each.text : writtenPart(each.part, each.plain, moment)))
      .join('');
}

/** How a part of a date is read: what its text looks like. */
const readAs: Readonly<Partial<Record<DatePart, string>>> = {
  YYYY: '(\\d{4})',
  YY: '(\\d{2})',
  MM: '(\\d{1,2})',
  DD: '(\\d{1,2})',
  DDD: '(\\d{1,3})',
  IYYY: '(\\d{4})',
  IW: '(\\d{1,2})',
  ID: '([1-7])',
  Q: '([1-4])',
};
const readNames = (part: DatePart): 'month' | 'mon' | 'day' | 'dy' | undefined =>
  (['month', 'mon', 'day', 'dy'] as const).find((each) => each === part.toLowerCase());

/** A date as it is written by a format. The text must fit as a whole. @throws Mishap */
export function dateReader() {
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
        const names =
          name === 'month'
            ? months
            : name === 'mon'
              ? months.map((month) => month.slice(0, 3))
              : name === 'day'
                ? weekdays
                : weekdays.map((day) => day.slice(0, 3));
        const at = names.findIndex((own) => rest.toLowerCase().startsWith(own.toLowerCase()));
        if (at < 0) throw refuse();
        if (name === 'month' || name === 'mon') found.set('MM', at + 1);
        rest = rest.slice(names[at].length);
        continue;
      }
      const as = readAs[each.part];
      if (as === undefined)
        throw new Mishap(
          `“${each.part}” in the format “${format}”: dates are read by ${[...Object.keys(readAs), 'Month', 'Mon', 'Day', 'Dy'].join(', ')}`,
        );
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
