import { isOneOf, type Locale } from './locale';
import { misfit, value, withoutMarks, type Parsed } from './parsed';

export const durationUnits = ['hours', 'minutes', 'days'] as const;
export type DurationUnit = (typeof durationUnits)[number];
/** What heads a column that says how long something took. */
export const durationWords =
  /(?<!\p{L})(?:duration|elapsed|worked|breaks?|overtime|pausen?|time (?:taken|spent|worked)|(?:working|man|engine|running|total) (?:hours|time)|hours (?:worked|run)|dauer|\p{L}+dauer|arbeitszeit|laufzeit|dur[ée]e|duraci[óo]n|durata|dura[çc][ãa]o|duur|czas (?:trwania|pracy))(?!\p{L})/iu;

const secondsIn: Record<DurationUnit | 'seconds', number> = { seconds: 1, minutes: 60, hours: 3600, days: 86_400 };

/** A reader of durations, like "1 h 30", "90 min", "2 d 4 h" or "31:45", into decimals of one unit, to 15 significant digits. */
export function durationReader(unit: DurationUnit, locale: Locale): (text: string) => Parsed {
  const expected = misfit(`a duration like 1 ${locale.hours[0]} 30 ${locale.minutes[0]} or 1:30`);
  const inUnit = (seconds: number) => value(Number((seconds / secondsIn[unit]).toPrecision(15)));
  const sizeOf = (word: string): number | undefined =>
    isOneOf(locale.hours, word)
      ? 3600
      : isOneOf(locale.minutes, word)
        ? 60
        : isOneOf(locale.days, word)
          ? 86_400
          : isOneOf(locale.seconds, word)
            ? 1
            : undefined;
  return (text) => {
    const rest = withoutMarks(text);
    if (rest === '') return value(null);
    const clock = /^(\d{1,4}):([0-5]\d)(?::([0-5]\d))?(?:\s*(\p{L}+\.?))?$/u.exec(rest);
    if (clock && (clock[4] === undefined || sizeOf(clock[4]) === 3600))
      return inUnit(Number(clock[1]) * 3600 + Number(clock[2]) * 60 + Number(clock[3] ?? 0));
    let seconds = 0;
    let last: number | undefined;
    let at = 0;
    for (const part of rest.matchAll(/(\d+(?:[.,]\d+)?)\s*(\p{L}+\.?)?[\s,]*/gu)) {
      if (part.index !== at) return expected;
      at += part[0].length;
      // A number without a unit goes on from the one before: 1 h 30.
      const size = part[2] === undefined ? (last === 86_400 ? 3600 : last === 3600 ? 60 : undefined) : sizeOf(part[2]);
      if (size === undefined || (last !== undefined && size >= last)) return expected;
      seconds += Number(part[1].replace(',', '.')) * size;
      last = size;
    }
    return at === rest.length && last !== undefined ? inUnit(seconds) : expected;
  };
}
