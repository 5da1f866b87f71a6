import { monthNumber } from '../values/date';
import { isWholeDate, periodSaid, saysWhen, weekdaysNamed } from '../values/date-texts';
import { looksNumeric } from '../values/numeric';
import { asTemplate, template } from '../values/template';
import { isUnit, unitBeside, withoutUnit } from '../values/unit';
import { totalWords } from '../reading/roles';
import type { PaperLine } from '../steps/step';
import { boldLabels } from './bold-labels';
import { printedOutside, reportSheet } from './sheets-seen';
import type { Detector, SeenReport, Suggestion } from './suggestion';

/** So many values are proposed at most. */
const mostStamps = 4;
/** In at least this share of the reports a line must stand. */
export const inMost = 0.8;
/** A longer line is a sentence. */
const mostWords = 16;

interface Line {
  readonly text: string;
  readonly words: readonly string[];
}

/** Lines outside the tables that are the same in the reports but for a part: the part becomes a column. */
export const pageHeadings: Detector = ({ reports }) => {
  const lines = reports.map((report) => linesOutside(report, 'all tables'));
  const known = new Set(
    reports.length === 0 ? [] : reportSheet(reports[0]).columns.map(({ name }) => name.toLowerCase()),
  );
  const told = new Set<string>();
  const found: Suggestion[] = [];
  const when = whenPrinted(reports, lines);
  const labels = reports.length === 0 ? [] : boldLabels(reports[0]);
  for (const line of (lines[0] ?? []).filter(({ text }) => text !== when?.text)) {
    // Values beside labels are for another detector; totals and page numbers are no heading.
    if (
      labels.some((label) => line.text.startsWith(`${label} `)) ||
      /\S:(?:\s|$)/.test(line.text) ||
      totalWords.test(line.text) ||
      pageNumber.test(line.text) ||
      isAmount(line.text)
    )
      continue;
    const alike = lines.map((own) => bestMatch(line, own));
    const those = alike.filter((each) => each !== undefined);
    if (those.length < inMost * reports.length) continue;
    const varying = withWeekdays(line, withYears(line, varyingIn(line, those, reports.length === 1), those));
    if (varying.length === 0 || varying.length > 2) continue;
    const holes = named(line, varying);
    const written = templateFor(line, holes);
    const parts = template(written);
    const values = lines.map((own) => valuesIn(own, parts));
    const fits = values.filter((each) => each !== undefined).length;
    const saying = JSON.stringify(values.map((each) => each && Object.values(each)));
    if (fits < inMost * reports.length || told.has(saying) || holes.some(({ name }) => known.has(name.toLowerCase())))
      continue;
    told.add(saying);
    found.push({
      zone: 'eachReport',
      kind: 'stamp',
      settings: { from: 'page text', template: written },
      name: `Stamp ${holes.map(({ name }) => name.toLowerCase()).join(' and ')} from the paper`,
      reason: `“${line.text}” is printed beside the table${reports.length > 1 ? `, and a line like it in ${fits} of ${reports.length} reports` : ''}`,
    });
    for (const { name } of holes) known.add(name.toLowerCase());
    if (found.length === mostStamps) break;
  }
  return when ? [...found, when.suggestion] : found;
};

/** Lines that say nothing but a period or a date, which is another in each report. */
function whenPrinted(
  reports: readonly SeenReport[],
  lines: readonly (readonly Line[])[],
): { readonly suggestion: Suggestion; readonly text: string } | undefined {
  const values = lines.map((own) => own.map(({ text }) => text).filter(saysWhen));
  const said = values.flatMap((own) => own.slice(0, 1));
  // Of several on the first pages it is not known which is meant.
  if (
    reports.length < 2 ||
    said.length < inMost * reports.length ||
    values.some((own) => own.length > 1) ||
    new Set(said).size < 2
  )
    return undefined;
  const period = periodSaid(said[0]);
  const column = period === undefined ? 'Date' : periodName(period);
  if (
    reports.some(({ carried }) =>
      carried.layers.some(({ sheet }) => sheet.columns.some(({ name }) => name.toLowerCase() === column.toLowerCase())),
    )
  )
    return undefined;
  return {
    text: said[0],
    suggestion: {
      zone: 'eachReport',
      kind: 'stamp',
      settings: { from: 'line that says when', column },
      name: `Stamp ${column.toLowerCase()} from the paper`,
      reason: `“${said[0]}” is printed beside the table, and a line that says nothing but a date or a period in ${said.length} of ${reports.length} reports`,
    },
  };
}

/** Lines of the first pages that are in no taken table, or in no found one; each once. */
export const linesOutside = (report: SeenReport, of: 'taken tables' | 'all tables'): Line[] =>
  [...new Set(printedOutside(report, of).flatMap(({ line }) => phrasesIn(line)))]
    .map(lineOf)
    .filter(({ words }) => words.length <= mostWords);

const lineOf = (text: string): Line => ({ text, words: text.split(/\s+/).filter(Boolean) });

/** The texts on a line, parted where there is much white space. */
export const phrasesIn = (line: PaperLine): string[] => (line.phrases ?? [line]).map(({ text }) => text);

const isMonth = (word: string) => /^\p{L}{3,}[.,]?$/u.test(word) && monthNumber(word.replace(/[.,]$/, '')) > 0;
const isChanging = (word: string) => /\d/.test(word) || isMonth(word);
const masked = (word: string) => (isMonth(word) ? 'M' : word.replace(/\d+/g, '#').toLowerCase());

/** The line of another report that says most of the same words at the same places, digits aside. */
function bestMatch(line: Line, others: readonly Line[]): Line | undefined {
  let best: Line | undefined;
  let most = 0;
  for (const other of others) {
    if (other.words.length !== line.words.length) continue;
    const same = line.words.filter((word, i) => word.toLowerCase() === other.words[i].toLowerCase()).length;
    const likely = line.words.filter((word, i) => masked(word) === masked(other.words[i])).length;
    const literal = line.words.filter(
      (word, i) => word === other.words[i] && !isChanging(word) && /\p{L}/u.test(word),
    ).length;
    if (literal === 0 || likely * 2 < line.words.length) continue;
    if (likely + same / 100 > most) {
      most = likely + same / 100;
      best = other;
    }
  }
  return best;
}

/** An amount with its unit says nothing without the label that stands far to the left of it. */
function isAmount(text: string): boolean {
  const unit = unitBeside(text);
  return looksNumeric((isUnit(unit) ? withoutUnit(text, unit) : undefined) ?? text);
}

const pageNumber = /(?:^|[\s,(])(?:page|seite|pagina|página|sida|strona|side|str\.?|p\.)\s*\d+/i;

/** Stretches of words that are not the same in all, with what is of one date with them. */
function varyingIn(line: Line, alike: readonly Line[], alone: boolean): Stretch[] {
  const varies = line.words.map((word, i) =>
    alone ? isChanging(word) : alike.some((other) => other.words[i] !== word),
  );
  if (!varies.some(Boolean)) return [];
  const stretches: Stretch[] = [];
  for (let i = 0; i < line.words.length; i++) {
    if (!varies[i]) continue;
    let [from, to] = [i, i];
    while (from > (stretches.at(-1)?.to ?? -1) + 1 && isChanging(line.words[from - 1]) && isChanging(line.words[i]))
      from--;
    while (
      to + 1 < line.words.length &&
      !/[,;]$/.test(line.words[to]) &&
      (varies[to + 1] || (isChanging(line.words[to + 1]) && isChanging(line.words[i])))
    )
      to++;
    stretches.push({ from, to });
    i = to;
  }
  return stretches;
}

const isYear = (word: string) => /^(?:19|20)\d\d[.,]?$/.test(word);
const periodOf = (words: readonly string[]): string | undefined => periodSaid(words.join(' ').replace(/[.,;]$/, ''));
const saysOneTime = (words: readonly string[]): boolean =>
  periodOf(words) !== undefined || isWholeDate(words.join(' ').replace(/[.,;]$/, ''));
/** So many words at most say a period: "week 23 of 2025". */
const longestPeriod = 4;

/**
 * The parts with the year that stands in the line, though it is the same in these reports: next year it is another. A day, week, month
 * or quarter beside it is one date or period with it, in the line of each report.
 */
function withYears(line: Line, stretches: readonly Stretch[], alike: readonly Line[]): Stretch[] {
  if (stretches.length === 0) return [];
  const years = line.words.flatMap((word, i) => (isYear(word) ? [i] : []));
  const found = years.map((to): Stretch => {
    const starts = Array.from({ length: longestPeriod - 1 }, (_, n) => to - longestPeriod + 1 + n).filter(
      (from) => from >= 0,
    );
    // A word of the line stays, by which it is known.
    const from = starts.find(
      (start) =>
        to - start + 1 < line.words.length &&
        [line, ...alike].every(({ words }) => saysOneTime(words.slice(start, to + 1))),
    );
    // Where the year alone changes there is nothing to put beside it.
    return from !== undefined && stretches.some((stretch) => stretch.from >= from && stretch.from < to)
      ? { from, to }
      : { from: to, to };
  });
  const crosses = (a: Stretch, b: Stretch) => a.from <= b.to && b.from <= a.to;
  const isWithin = (a: Stretch, b: Stretch) => a.from >= b.from && a.to <= b.to;
  // What is part of a date is no period of its own.
  const added = found.filter((each) =>
    stretches.every((stretch) => !crosses(each, stretch) || isWithin(stretch, each)),
  );
  return [...added, ...stretches.filter((stretch) => !added.some((each) => crosses(each, stretch)))].sort(
    (a, b) => a.from - b.from,
  );
}

const isWeekday = (word: string): boolean => word.length > 2 && weekdaysNamed(word.replace(/[.,]+$/, '')).length > 0;

/** A date with the day of the week before it, though that is the same in these reports. */
const withWeekdays = (line: Line, stretches: readonly Stretch[]): Stretch[] =>
  stretches.map(({ from, to }, i) => ({
    from:
      from > (stretches[i - 1]?.to ?? -1) + 1 && isWeekday(line.words[from - 1]) && /\d/.test(line.words[from])
        ? from - 1
        : from,
    to,
  }));

/** A line with a part as a hole: the numbers and dates in it, or else the words that were pointed at. @returns undefined where nothing of the line would stay */
export function templateAround(
  text: string,
  pointed: string,
): { readonly template: string; readonly names: readonly string[] } | undefined {
  const line = lineOf(text);
  const at = line.words.indexOf(pointed);
  const varying = varyingIn(line, [], true).filter(({ from, to }) => at >= from && at <= to);
  const stretches = varying.length > 0 ? varying : at >= 0 ? [{ from: at, to: at }] : [];
  if (stretches.length === 0 || line.words.length === stretches[0].to - stretches[0].from + 1) return undefined;
  const holes = named(line, stretches);
  return { template: templateFor(line, holes), names: holes.map(({ name }) => name) };
}

interface Stretch {
  readonly from: number;
  readonly to: number;
}
interface Hole extends Stretch {
  readonly name: string;
}

/** Words without the marks around them; of several parts the last. */
const bare = (words: readonly string[]) =>
  words
    .join(' ')
    .replace(/^.*[,:;–]\s+(?=\S)/u, '')
    .replace(/[\s:.,;–-]+$/u, '')
    .replace(/^[\s:.,;–-]+/u, '');
const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);

const periodName = (period: string): string =>
  period.includes('W') ? 'Week' : period.includes('Q') ? 'Quarter' : period.includes('/') ? 'Half' : 'Month';

/** Names for the parts that vary: what they look like, what stands before them, or behind. */
function named(line: Line, stretches: readonly Stretch[]): Hole[] {
  const taken = new Set<string>();
  return stretches.map(({ from, to }, nth) => {
    const words = line.words.slice(from, to + 1);
    const before = line.words
      .slice(nth === 0 ? Math.max(0, from - 3) : Math.max(stretches[nth - 1].to + 1, from - 3), from)
      .filter((word) => /\p{L}/u.test(word));
    const after = line.words.slice(to + 1, stretches[nth + 1]?.from ?? to + 2).filter((word) => /\p{L}/u.test(word));
    const period = words.length > 1 ? periodOf(words) : undefined;
    const looks =
      words.length === 1 && isYear(words[0])
        ? 'Year'
        : period !== undefined
          ? periodName(period)
          : words.some(isMonth) && !words.some((word) => /^\d{1,2}[.,]?$/.test(word))
            ? 'Month'
            : isWeekday(words[0])
              ? 'Date'
              : undefined;
    const says = nth === 0 && looks === undefined && before.length > 0 ? bare(before) : undefined;
    const wanted =
      says ??
      looks ??
      (after.length > 0 && !after.some(isChanging)
        ? capital(bare(after.slice(0, 1)))
        : words.some(isMonth)
          ? 'Date'
          : before.length > 0
            ? capital(bare(before.slice(-1)))
            : 'Heading');
    let name = wanted;
    for (let n = 2; taken.has(name); n++) name = `${wanted} ${n}`;
    taken.add(name);
    return { from, to, name: name.replace(/[{}[\]\\:]/g, ' ').trim() || 'Heading' };
  });
}

function templateFor(line: Line, holes: readonly Hole[]): string {
  let written = '';
  for (let i = 0; i < line.words.length; i++) {
    const hole = holes.find(({ from }) => from === i);
    // A comma behind a value is not of it.
    const behind = hole ? (/[,;.:]$/.exec(line.words[hole.to])?.[0] ?? '') : '';
    written += `${i === 0 ? '' : ' '}${hole ? `{${hole.name}}${asTemplate(behind)}` : asTemplate(line.words[i])}`;
    if (hole) i = hole.to;
  }
  return written;
}

const valuesIn = (lines: readonly Line[], parts: ReturnType<typeof template>): Record<string, string> | undefined => {
  for (const { text } of lines) {
    const found = parts.within(text);
    if (found) return found.values;
  }
  return undefined;
};
