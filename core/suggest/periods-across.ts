import { isWeekWord } from '../intake/propose-template';
import { looksNumeric } from '../values/numeric';
import { cellText, isBlank } from '../values/cell';
import { monthNumber, weekdayNamed } from '../values/date';
import { locales } from '../values/locale';
import type { Sheet } from '../sheet/sheet';
import { asTemplate } from '../values/template';
import { isDateInNumbers, isDateWithoutYear, isWholeDate, weekdaysNamed } from '../values/date-texts';
import { isNamed, mostCommon, reportSheet, share } from './sheets-seen';
import type { Detector, Suggestion } from './suggestion';

/** So many columns of one kind of period are a crosstab. */
const fewest = 3;

/** What kind of period a word is, as a column would be called. */
function periodKind(word: string): string | undefined {
  const plain = word.replace(/[.,]$/, '');
  if (/^(?:19|20)\d\d(?:\/\d\d)?$/.test(plain)) return 'Year';
  if (/^(?:Q[1-4]|[1-4]Q|[1-4]\. (?:Quartal|kwartał))$/i.test(plain)) return 'Quarter';
  if (/^\d{1,2}:\d\d$/.test(plain)) return 'Time';
  if (/^\p{L}{3,}$/u.test(plain)) {
    if (monthNumber(plain) > 0) return 'Month';
    if (weekdaysNamed(plain).length > 0) return 'Day';
  }
  return undefined;
}

/** A quantity printed across the page, by years, quarters, months, days or hours. */
export const periodsAcross: Detector = ({ reports }) => {
  // Below what holds totals and lifts sections: their rows have amounts in these columns too.
  const tables = reports.map(reportSheet).filter(isNamed);
  const least = changing(tables) ? 2 : fewest;
  const found = tables.flatMap((table) => crosstab(table, least) ?? measuresAgain(table) ?? []);
  const usual = mostCommon(found.map(({ id }) => id));
  if (usual === undefined || found.length * 2 < tables.length) return [];
  const { suggestion } = found.find(({ id }) => id === usual)!;
  const own = found.filter(({ id }) => id === usual).length;
  return [{ ...suggestion, reason: `${suggestion.reason} in ${share(own, tables.length, 'report')}` }];
};

/** Have the tables columns called by years, and not all by the same? "2024" and "2023" become "2025" and "2024" in the next report. */
function changing(tables: readonly Sheet[]): boolean {
  const years = tables.map(({ columns }) =>
    columns
      .map(({ name }) => name)
      .filter((name) => periodKind(name) === 'Year')
      .join(' '),
  );
  return years.length > 1 && years.every((each) => each.includes(' ')) && new Set(years).size > 1;
}

function crosstab({ columns }: Sheet, least = fewest): { id: string; suggestion: Suggestion } | undefined {
  const names = columns.map(({ name }) => name);
  // Words that all but the labels have in common say what is measured.
  const parts = names.map((name) => name.split(' '));
  const at = parts.map((words) =>
    words.map((word, i) => ({ i, kind: periodKind(word) })).find(({ kind }) => kind !== undefined),
  );
  const { turned, kind, whole, template: parted } = acrossWhole(names) ?? acrossByWord(at.map((each) => each?.kind));
  if (turned.length < least || kind === undefined) return undefined;
  const labels = names.filter((_, i) => !turned.includes(i));
  if (labels.length === 0 || turned.some((i) => i === 0)) return undefined;
  const columnsToTurn = { by: 'all but' as const, names: labels };
  // An amount beside them comes again with each: who adds it up must know.
  const beside = columns
    .filter(
      ({ cells }, i) =>
        i > turned[0] &&
        !turned.includes(i) &&
        cells.some((cell) => !isBlank(cell)) &&
        cells.every((cell) => isBlank(cell) || looksNumeric(cellText(cell))),
    )
    .map(({ name }) => `“${name}”`);
  const repeated =
    beside.length === 0
      ? ''
      : ` (${beside.join(' and ')} then ${beside.length === 1 ? 'stands' : 'stand'} on the row of each)`;
  const says = `${turned.length} columns are ${kind === 'Number' ? 'numbers that count up' : `${kind.toLowerCase()}s`}: “${names[turned[0]]}” to “${names[turned.at(-1)!]}”${repeated}`;
  if (parted)
    return {
      id: JSON.stringify([labels, parted]),
      suggestion: {
        zone: 'eachReport',
        kind: 'unpivot',
        settings: { columns: columnsToTurn, heading: 'the parts of a template', template: parted, value: 'Value' },
        reason: says,
      },
    };
  if (whole || turned.every((i) => parts[i].length === 1))
    return {
      id: JSON.stringify([labels, kind]),
      suggestion: {
        zone: 'eachReport',
        kind: 'unpivot',
        settings: { columns: columnsToTurn, heading: 'one column', into: kind, value: 'Value' },
        reason: says,
      },
    };
  const template = templateOf(
    turned.map((i) => parts[i]),
    turned.map((i) => at[i]!.i),
    kind,
  );
  return (
    template && {
      id: JSON.stringify([labels, template]),
      suggestion: {
        zone: 'eachReport',
        kind: 'unpivot',
        settings: { columns: columnsToTurn, heading: 'the parts of a template', value: 'Value', ...template },
        reason: says,
      },
    }
  );
}

/** Columns of one kind, and what they would be called; `whole` where the whole name says it. */
interface Across {
  readonly turned: readonly number[];
  readonly kind: string | undefined;
  readonly whole?: boolean;
  /** Where the name is in parts. */
  readonly template?: string;
}

/** Columns whose whole names are dates, days of the week in their order, or numbers that count up. */
function acrossWhole(names: readonly string[]): Across | undefined {
  const dated = names.flatMap((name, i) => (isDate(withoutWeekday(name)) ? [i] : []));
  if (dated.length >= fewest)
    return {
      turned: dated,
      kind: 'Date',
      whole: true,
      ...(dated.every((i) => withoutWeekday(names[i]) !== names[i]) ? { template: '{Weekday} {Date}' } : {}),
    };
  // "Mon 3" to "Sun 9": the day of the month may begin anew.
  const numbered = names.flatMap((name, i) =>
    /^\d{1,2}\.?$/.test(withoutWeekday(name)) && withoutWeekday(name) !== name ? [i] : [],
  );
  if (numbered.length >= fewest) return { turned: numbered, kind: 'Day', whole: true, template: '{Weekday} {Day}' };
  const weeks = weeksIn(names);
  if (weeks) return weeks;
  const days = daysInOrder(names);
  if (days.length >= fewestDays) return { turned: days, kind: 'Day', whole: true };
  const counted = countedUp(names);
  return counted.length === 0
    ? undefined
    : { turned: counted, kind: isMonth(names[counted.at(-1)!]) ? 'Day' : 'Number', whole: true };
}

function acrossByWord(kinds: readonly (string | undefined)[]): Across {
  const kind = mostCommon(kinds.flatMap((each) => each ?? []));
  return { turned: kinds.flatMap((each, i) => (each === kind && kind !== undefined ? [i] : [])), kind };
}

/** "wk 23" to "wk 27": a word for the week with a number, alike but for the number. */
function weeksIn(names: readonly string[]): Across | undefined {
  const parts = names.map((name) => /^(\p{L}+\.?\s?)(\d{1,2})$/u.exec(name));
  // A letter alone may stand for anything: S1 to S4.
  const word = parts.find((each) => each !== null)?.[1] ?? '';
  const turned = parts.flatMap((each, i) => (each?.[1] === word && Number(each[2]) <= 53 ? [i] : []));
  return word.trim().length > 1 && isWeekWord(word) && turned.length >= fewest
    ? { turned, kind: 'Week', whole: true, template: `${asTemplate(word)}{Week}` }
    : undefined;
}

const isDate = (text: string): boolean => isWholeDate(text) || isDateInNumbers(text) || isDateWithoutYear(text);
/** "Mon 2 June" and "Mo. 02.06." without the day of the week. */
const withoutWeekday = (name: string): string => {
  const [first, ...others] = name.split(/[\s,]+/);
  return others.length > 0 && weekdaysNamed(first).length > 0 ? others.join(' ') : name;
};

/** Shortened to two letters only so many in their order are days of the week. */
const fewestDays = 5;
/** The columns side by side that are called by the days of the week in their order, in one language. */
const daysInOrder = (names: readonly string[]): number[] =>
  Object.values(locales)
    .map((locale) => {
      const days = names.map((name) => weekdayNamed(name, locale));
      const at = days.flatMap((day, i) => (day > 0 ? [i] : []));
      return at.every((place, i) => i === 0 || (place === at[i - 1] + 1 && days[place] === (days[at[i - 1]] % 7) + 1))
        ? at
        : [];
    })
    .reduce((most, each) => (each.length > most.length ? each : most), []);

/** So many columns called by numbers that count up are a crosstab. */
const fewestCounted = 4;
/** The last day of a month. */
const isMonth = (name: string): boolean => /^(?:28|29|30|31)$/.test(name);

/** The columns called by numbers that count up by one, side by side: days of a month, hours or classes. */
function countedUp(names: readonly string[]): number[] {
  const at = names.flatMap((name, i) => (/^\d{1,2}$/.test(name) ? [i] : []));
  const countsUp = at.every(
    (place, i) => i === 0 || (place === at[i - 1] + 1 && Number(names[place]) === Number(names[at[i - 1]]) + 1),
  );
  return at.length >= fewestCounted && countsUp ? at : [];
}

/** A template over names of several words: what all have in common as it is, the period a hole, what changes beside it another. */
function templateOf(
  names: readonly (readonly string[])[],
  at: readonly number[],
  kind: string,
): { template: string; measure?: string; value?: string } | undefined {
  const shortest = Math.min(...names.map((words) => words.length));
  let common = 0;
  while (common < shortest - 1 && names.every((words, i) => words[common] === names[0][common] && common < at[i]))
    common++;
  const before = names.map((words, i) => words.slice(common, at[i]).join(' '));
  const after = names.map((words, i) => words.slice(at[i] + 1).join(' '));
  const some = (texts: readonly string[]) => texts.some((text) => text !== '');
  const all = (texts: readonly string[]) => texts.every((text) => text !== '');
  if ((some(before) && !all(before)) || (some(after) && !all(after))) return undefined;
  const same = (texts: readonly string[]) => new Set(texts).size === 1;
  const part = (texts: readonly string[], hole: string) =>
    !some(texts) ? [] : same(texts) ? [texts[0]] : [`{${hole}}`];
  const written = [...names[0].slice(0, common), ...part(before, 'Part'), `{${kind}}`, ...part(after, 'Measure')].join(
    ' ',
  );
  // What stands behind a period tells values of unlike kinds apart; what all begin with says what the values are.
  const value = names[0]
    .slice(0, common)
    .join(' ')
    .replace(/\s+(?:from|in|for|of|per|by|at|von|in|für|ab|de|du|en|par|od|w|na|z)$/i, '');
  const named = value === '' ? {} : { value };
  // A period of another kind behind it is no measure: "2024 Q1".
  const within = mostCommon(after.map((text) => periodKind(text) ?? ''));
  if (within && within !== kind && after.every((text) => periodKind(text) === within))
    return {
      template: [...names[0].slice(0, common), ...part(before, 'Part'), `{${kind}}`, `{${within}}`].join(' '),
      ...named,
    };
  return { template: written, ...(some(after) && !same(after) ? { measure: 'Measure' } : named) };
}

/** The same measures under each of several headings: "First high water Time", "First high water Height", "Second high water Time" ... */
function measuresAgain({ columns }: Sheet): { id: string; suggestion: Suggestion } | undefined {
  const names = columns.map(({ name }) => name.split(' '));
  for (let from = 1; from + 2 * fewest <= names.length; from++)
    for (let many = 2; many <= 4; many++) {
      const measures = names.slice(from, from + many).map((words) => words.at(-1)!);
      let groups = 0;
      while (isGroup(names.slice(from + groups * many, from + (groups + 1) * many), measures, many)) groups++;
      if (groups < fewest || new Set(measures).size < many) continue;
      const turned = new Set(Array.from({ length: groups * many }, (_, i) => from + i));
      const labels = columns.filter((_, i) => !turned.has(i)).map(({ name }) => name);
      const reason = `${measures.map((measure) => `“${measure}”`).join(' and ')} stand under each of ${groups} headings`;
      // A word that ends every heading says what they are; it also tells where the measure begins.
      const ends = Array.from({ length: groups }, (_, i) => names[from + i * many].at(-2)!);
      const template =
        ends.every((word) => word === ends[0]) && names[from].length > 2
          ? `{Part} ${asTemplate(ends[0])} {Measure}`
          : '{Part} {Measure}';
      return {
        id: JSON.stringify([labels, measures]),
        suggestion: {
          zone: 'eachReport',
          kind: 'unpivot',
          settings: {
            columns: { by: 'all but', names: labels },
            heading: 'the parts of a template',
            template,
            measure: 'Measure',
          },
          reason,
        },
      };
    }
  return undefined;
}

/** Do the names say one heading and then each of the measures, in their order? */
function isGroup(group: readonly (readonly string[])[], measures: readonly string[], many: number): boolean {
  if (group.length < many) return false;
  // "Height (m)": what stands in brackets belongs to the measure.
  const heading = group[0].slice(0, -1).join(' ');
  return (
    heading !== '' &&
    group.every(
      (words, i) =>
        words.at(-1) === measures[i] &&
        words
          .slice(0, words.length - 1)
          .join(' ')
          .startsWith(heading),
    )
  );
}
