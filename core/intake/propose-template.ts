import { baseName } from '../values/file-name';
import { monthNumber } from '../values/date';
import { locales } from '../values/locale';
import { asTemplate } from '../values/template';
import { nameFacts, type NameReading } from './file-names';
import { withoutRevision } from './revisions';

/** A template by which file names tell the period they report on. */
export interface ProposedTemplate {
  readonly template: string;
  /** How many of the names it fits, and how many different periods they tell then. */
  readonly fits: number;
  readonly periods: number;
  /** No year stands in the names: it must be said. */
  readonly needsYear: boolean;
  /** A word says what a part is: the month by its name, the number behind "week". */
  readonly said: boolean;
}

type Hole = 'year' | 'month' | 'day' | 'week' | 'quarter';

/** What a part of the names may stand for: the holes it fills, as they are written in the template. */
interface Meaning {
  readonly holes: readonly Hole[];
  readonly template: string;
  /** A word before it says so: "week", "Q". */
  readonly said: boolean;
}

/** So many names are looked at; more say nothing new. */
const mostNames = 300;
/** So many ways to read names of one form are tried, and so many forms. */
const mostWays = 400;
const mostForms = 4;
const mostProposed = 4;

const all = Object.values(locales);
const wordsFor = (own: readonly string[], list: 'week' | 'quarter') =>
  new Set([...own, ...all.flatMap((locale) => locale[list].map((word) => word.toLowerCase().replace(/\.$/, '')))]);
const weekWords = wordsFor(['w', 'wk', 'week', 'cw', 'kw', 'sem'], 'week');
/** Does a word say that the number behind it is a week of the year? */
export const isWeekWord = (word: string): boolean => weekWords.has(word.trim().toLowerCase().replace(/\.$/, ''));
const quarterWords = wordsFor(['q', 'qtr', 'quarter', 'quartal', 'trim'], 'quarter');
const monthWords = new Set(['m', 'month', 'monat', 'mois', 'mes', 'mese', 'maand', 'period', 'p']);

/** What a number behind them counts is no part of the calendar. */
const countingWords = new Set([
  'part',
  'teil',
  'deel',
  'partie',
  'parte',
  'część',
  'no',
  'nr',
  'num',
  'number',
  'nummer',
  'numero',
  'número',
  'sheet',
  'blatt',
  'page',
  'seite',
  'vol',
  'volume',
  'version',
  'lot',
  'batch',
  'run',
  'line',
  'linie',
  'lijn',
  'zone',
  'berth',
  'gate',
  'site',
  'team',
  'group',
  'gruppe',
  'groep',
  'unit',
  'shift',
  'area',
]);

/** Templates worked out from the names that are there, the best first; none where the names tell no period. */
export function proposedTemplates(paths: readonly string[], year?: number): ProposedTemplate[] {
  const step = Math.max(1, Math.ceil(paths.length / mostNames));
  const sample = paths.filter((_, i) => i % step === 0);
  const names = sample.map(baseName);
  const forms = new Map<string, string[][]>();
  for (const name of names) {
    const tokens = tokensOf(withoutRevision(name).name);
    const form = tokens.map((token) => (/^\d/.test(token) ? 'N' : /^\p{L}/u.test(token) ? 'L' : token)).join('\u0000');
    const alike = forms.get(form);
    if (alike) alike.push(tokens);
    else forms.set(form, [tokens]);
  }
  const tried = new Map<string, Omit<ProposedTemplate, 'said'> & { said: number; order: number }>();
  for (const alike of [...forms.values()].sort((a, b) => b.length - a.length).slice(0, mostForms))
    waysToRead(alike).forEach(({ template, said, holes }, order) => {
      if (tried.has(template)) return;
      const needsYear = !holes.includes('year');
      const reading = needsYear ? { year: year ?? 2000 } : {};
      const told = names.flatMap((name) => nameFacts(name, { template, ...reading }).period ?? []);
      tried.set(template, {
        template: withSeries(template, sample, reading) ?? template,
        fits: told.length,
        periods: new Set(told).size,
        needsYear,
        said,
        order,
      });
    });
  const ranked = [...tried.values()]
    .filter(({ fits }) => fits > 0)
    .sort(
      (a, b) =>
        b.fits - a.fits ||
        b.said - a.said ||
        b.periods - a.periods ||
        Number(a.needsYear) - Number(b.needsYear) ||
        a.order - b.order,
    );
  const dayFirst = ranked.find((each) => isDayFirst(ranked[0], each));
  return (dayFirst ? [dayFirst, ...ranked.filter((each) => each !== dayFirst)] : ranked)
    .slice(0, mostProposed)
    .map(({ template, fits, periods, needsYear, said }) => ({ template, fits, periods, needsYear, said: said > 0 }));
}

/** 03-05-2025 is the third of May in most of the world: of two readings that fit as well, the one with the day first. */
function isDayFirst(
  best: Pick<ProposedTemplate, 'template' | 'fits' | 'periods'> | undefined,
  other: Pick<ProposedTemplate, 'template' | 'fits' | 'periods'>,
): boolean {
  if (!best || !/\{month\}.*\{day\}/.test(best.template) || /\{year.*\{month\}/.test(best.template)) return false;
  const turned = best.template.replace(/\{(month|day)\}/g, (_, hole: string) => (hole === 'day' ? '{month}' : '{day}'));
  return other.template === turned && other.fits === best.fits && other.periods === best.periods;
}

/**
 * The template with what tells several series of reports apart, in the names or by the folder above: every period comes at
 * most once in each, and every series in several periods. Else two files for one period are two issues, of which one counts.
 */
function withSeries(
  template: string,
  paths: readonly string[],
  reading: Omit<NameReading, 'template'>,
): string | undefined {
  const own = template.includes('{part}')
    ? template.replace('{part}', '{series}')
    : paths.every((path) => path.includes('/'))
      ? `{series}/${template}`
      : undefined;
  if (own === undefined) return undefined;
  const told = paths
    .map((path) => nameFacts(path, { ...reading, template: own }))
    .filter(({ period }) => period !== undefined);
  const distinct = (texts: readonly string[]) => new Set(texts).size === texts.length;
  if (
    distinct(told.map(({ period, revision }) => JSON.stringify([period, revision.mark]))) ||
    !distinct(
      told.map(({ period, series, revision }) => JSON.stringify([period, series?.toLowerCase(), revision.mark])),
    )
  )
    return undefined;
  const periodsOf = new Map<string, Set<string>>();
  for (const { series = '', period } of told)
    periodsOf.set(series.toLowerCase(), (periodsOf.get(series.toLowerCase()) ?? new Set()).add(period!));
  return periodsOf.size > 1 && [...periodsOf.values()].every((periods) => periods.size > 1) ? own : undefined;
}

const tokensOf = (name: string): string[] => name.match(/\d+|\p{L}+|[^\p{L}\d]+/gu) ?? [];

/** Every way to read names of one form, with the holes of each, the likelier first. */
function waysToRead(alike: readonly (readonly string[])[]): { template: string; holes: Hole[]; said: number }[] {
  let ignored = 0;
  const parts = alike[0].map((token, at) => {
    const texts = alike.map((tokens) => tokens[at]);
    const constant = texts.every((text) => text.toLowerCase() === token.toLowerCase());
    const plain = constant ? asTemplate(token) : `{part${++ignored === 1 ? '' : ignored}}`;
    return {
      plain,
      meanings: meaningsOf(
        texts,
        alike.map((tokens) => wordBefore(tokens, at)),
      ),
    };
  });
  let ways: { template: string; holes: Hole[]; said: number }[] = [{ template: '', holes: [], said: 0 }];
  for (const { plain, meanings } of parts)
    ways = ways
      .flatMap((way) => [
        ...meanings
          .filter(
            ({ holes, template }) =>
              !holes.some((hole) => way.holes.includes(hole)) && canFollow(way.template, template),
          )
          .map(({ holes, template, said }) => ({
            template: way.template + template,
            holes: [...way.holes, ...holes],
            said: way.said + Number(said),
          })),
        // What differs beside what differs is one part.
        ...(canFollow(way.template, plain)
          ? [{ ...way, template: way.template + plain }]
          : isPart(plain) && /\{part\d*\}$/.test(way.template)
            ? [way]
            : []),
      ])
      .slice(0, mostWays);
  return ways.filter(({ holes }) => tellsPeriod(holes));
}

const isPart = (template: string) => /^\{part\d*\}$/.test(template);
/** Two holes of any length beside each other cannot be told apart. */
const canFollow = (before: string, next: string) => !(/\{[^{}:]+\}$/.test(before) && /^\{[^{}:]+\}/.test(next));

/** A year alone, or one of week, quarter and month; a day belongs to a month. */
function tellsPeriod(holes: readonly Hole[]): boolean {
  const parts = (['week', 'quarter', 'month'] as const).filter((hole) => holes.includes(hole));
  if (holes.includes('day')) return parts.length === 1 && parts[0] === 'month';
  return parts.length === 1 || (parts.length === 0 && holes.includes('year'));
}

/** The word before a part of a name, over a space or a dash. */
const wordBefore = (tokens: readonly string[], at: number): string => {
  const before = tokens[at - 1] ?? '';
  return (/^\p{L}/u.test(before) ? before : before.length <= 1 ? (tokens[at - 2] ?? '') : '').toLowerCase();
};

function meaningsOf(texts: readonly string[], before: readonly string[]): Meaning[] {
  if (texts.every((text) => /^\p{L}/u.test(text)))
    return texts.every((text) => monthNumber(text) > 0) ? [one('month', true)] : [];
  if (!texts.every((text) => /^\d/.test(text))) return [];
  const width = texts.every(({ length }) => length === texts[0].length) ? texts[0].length : 0;
  const between = (from: number, to: number, of: (text: string) => string = (text) => text) =>
    texts.every((text) => Number(of(text)) >= from && Number(of(text)) <= to);
  const isYear = (of: (text: string) => string) => between(1990, 2099, of);
  const part = (from: number, to: number) => (text: string) => text.slice(from, to);
  if (width === 8)
    return [
      ...(isYear(part(0, 4)) && between(1, 12, part(4, 6)) && between(1, 31, part(6, 8))
        ? [glued('{year:4}{month:2}{day:2}', 'year', 'month', 'day')]
        : []),
      ...(isYear(part(4, 8)) && between(1, 12, part(2, 4)) && between(1, 31, part(0, 2))
        ? [glued('{day:2}{month:2}{year:4}', 'day', 'month', 'year')]
        : []),
      ...(isYear(part(4, 8)) && between(1, 12, part(0, 2)) && between(1, 31, part(2, 4))
        ? [glued('{month:2}{day:2}{year:4}', 'month', 'day', 'year')]
        : []),
    ];
  if (width === 6)
    return [
      ...(isYear(part(0, 4)) && between(1, 12, part(4, 6)) ? [glued('{year:4}{month:2}', 'year', 'month')] : []),
      ...(isYear(part(0, 4)) && between(1, 53, part(4, 6)) ? [glued('{year:4}{week:2}', 'year', 'week')] : []),
      ...(isYear(part(2, 6)) && between(1, 12, part(0, 2)) ? [glued('{month:2}{year:4}', 'month', 'year')] : []),
      ...(between(1, 12, part(2, 4)) && between(1, 31, part(4, 6))
        ? [glued('{year:2}{month:2}{day:2}', 'year', 'month', 'day')]
        : []),
      ...(between(1, 12, part(2, 4)) && between(1, 31, part(0, 2))
        ? [glued('{day:2}{month:2}{year:2}', 'day', 'month', 'year')]
        : []),
    ];
  if (width === 4 && isYear((text) => text)) return [one('year')];
  if (texts.some(({ length }) => length > 2)) return [];
  const said = (words: ReadonlySet<string>) => before.every((word) => words.has(word));
  if (said(weekWords) && between(1, 53)) return [one('week', true)];
  if (said(quarterWords) && between(1, 4)) return [one('quarter', true)];
  if (said(monthWords) && between(1, 12)) return [one('month', true)];
  if (before.every((word) => countingWords.has(word))) return [];
  return [
    ...(between(1, 12) ? [one('month')] : []),
    ...(between(1, 31) ? [one('day')] : []),
    ...(between(13, 53) || (between(1, 53) && !between(1, 12)) ? [one('week')] : []),
    ...(width === 2 ? [one('year')] : []),
  ];
}

const one = (hole: Hole, said = false): Meaning => ({ holes: [hole], template: `{${hole}}`, said });
const glued = (template: string, ...holes: Hole[]): Meaning => ({ holes, template, said: false });
