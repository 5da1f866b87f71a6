import { proposedTemplates, type ProposedTemplate } from '../intake/propose-template';
import { baseName } from '../values/file-name';
import type { Column } from '../sheet/column';
import { cellText } from '../values/cell';
import { monthNumber } from '../values/date';
import { isWholeDate } from '../values/date-texts';
import { locales, type Locale } from '../values/locale';
import { periodReader } from '../values/period';
import { template } from '../values/template';
import { reportSheet } from './sheets-seen';
import type { Detector, SeenReport, Suggestion } from './suggestion';

/** What file names tell that no column says yet: the period, mostly. */
export const fileNameParts: Detector = ({ reports, locale }) => {
  if (reports.length < 2) return [];
  const names = reports.map(({ read }) => baseName(read.path));
  const [best, ...others] = proposedTemplates(reports.map(({ read }) => read.path));
  if (!best) return [];
  const turned = others.find(
    (each) =>
      each.fits === best.fits &&
      each.periods === best.periods &&
      /\{month\}.*\{day\}.*\{year/.test(each.template) &&
      /\{day\}.*\{month\}.*\{year/.test(best.template),
  );
  // Which of two numbers is the day: as the paper prints its dates.
  const proposed = turned && locales[locale()].dateOrder === 'month day year' ? turned : best;
  const plain = (
    isBare(proposed, names) ? proposed.template.replace(/\{(?:year|month|week|day)\}/, '{number}') : proposed.template
  )
    .replace(/^.*\//, '')
    .replace(
      /\{(\w)(\w*)(:\d+)?\}/g,
      (_, first: string, rest: string, width = '') => `{${first.toUpperCase()}${rest}${width}}`,
    );
  // What some names have at their end, such as a number of the issue.
  const written = [plain, ...['-', '_', ' ', '.'].map((mark) => plain.replace(/(\.\w+)$/, `[${mark}{Issue}]$1`))].find(
    (each) => names.every((name) => isPeriod(template(each).whole(name))),
  );
  if (!written) return [];
  const parts = template(written);
  const values = names.map((name) => parts.whole(name)!);
  if (isSaid(reports, values)) return [];
  const stamped = withWholePeriods(written, names, locales[locale()]);
  const holes = template(stamped).holes.filter((hole) => hole !== 'Issue');
  const stamp: Suggestion = {
    zone: 'eachReport',
    kind: 'stamp',
    settings: { from: 'file name', template: stamped },
    name: 'Stamp from the file name',
    reason: `File names tell ${holes.map((hole) => hole.toLowerCase()).join(' and ')}, such as “${names[0]}”`,
  };
  return !parts.holes.includes('Issue')
    ? [stamp]
    : [
        stamp,
        {
          zone: 'eachReport',
          kind: 'pick columns',
          settings: { columns: { by: 'all but', names: ['Issue'] } },
          name: 'Leave the issue out',
          reason: 'Which issue of a report it is, is no value of its rows',
        },
      ];
};

/** 2025-06-07 is one date, read the same everywhere, and so is a month beside its year as it is read; else the parts stand apart, each as it is. */
function withWholePeriods(written: string, names: readonly string[], locale: Locale): string {
  const isDate = (text: string | undefined) => text !== undefined && isWholeDate(text);
  const named = written.replace(/\{Day\}([-_. ])\{Month\}\1\{Year(?::4)?\}/, '{Date}');
  if (named !== written && names.every((name) => isDate(template(named).whole(name)?.['Date']))) return named;
  const dated = written.replace(/\{Year(?::4)?\}-\{Month(?::2)?\}-\{Day(?::2)?\}/, '{Date}');
  if (/\{(?:Date|Day|Week)\b/.test(dated)) return dated;
  const whole = dated.replace(/\{Year(?::4)?\}-\{Month(?::2)?\}|\{Month\}[- ]\{Year(?::4)?\}/, '{Month}');
  const read = periodReader({ fiscalStart: 1 }, locale);
  const isMonth = (text: string) => {
    const parsed = read(text);
    return 'value' in parsed && /^\d{4}-\d\d$/.test(String(parsed.value));
  };
  return names.every((name) => isMonth(template(whole).whole(name)?.['Month'] ?? '')) ? whole : dated;
}

/** A short number beside which nothing says what it is may be that of the report as well as a month or a year. */
function isBare({ template: written, said }: ProposedTemplate, names: readonly string[]): boolean {
  const { holes, whole } = template(written.replace(/^.*\//, ''));
  return !said && holes.length === 1 && names.every((name) => /^\d{1,2}$/.test(whole(name)?.[holes[0]] ?? ''));
}

/** Does a column that is the same in all rows of a report say the same year and month, or the very texts, or a column for each part that is called so? */
function isSaid(reports: readonly SeenReport[], values: readonly Record<string, string>[]): boolean {
  const columns = reports.map(columnsOf);
  const saidBy = (key: string, holes: readonly string[]) =>
    columns.every((own, i) => {
      const words = cellText(own.get(key)?.cells[0] ?? null).split(/[\s,./-]+/);
      return holes.every((hole) => saysPart(words, hole, values[i][hole]));
    });
  const holes = Object.keys(values[0]).filter((hole) => hole !== 'Issue');
  const known = [...columns[0]];
  return (
    known.some(([key]) => saidBy(key, holes)) ||
    (holes.length > 0 &&
      holes.every((hole) =>
        known.some(([key, { name }]) => name.toLowerCase() === hole.toLowerCase() && saidBy(key, [hole])),
      ))
  );
}

/** The columns of a report and those that a step made others of, by the step and their name. */
const columnsOf = (report: SeenReport): Map<string, Column> =>
  new Map(
    [
      ['', reportSheet(report).columns] as const,
      ...report.carried.layers.map(({ id, leftOut }) => [id, leftOut.columns] as const),
    ].flatMap(([id, columns]) => columns.map((column) => [`${id} ${column.name}`, column])),
  );

function saysPart(words: readonly string[], hole: string, value: string): boolean {
  const isSame = (word: string) =>
    word === value || (/^\d+$/.test(value) && /^\d+$/.test(word) && Number(word) === Number(value));
  return words.some(
    (word) => isSame(word) || (hole === 'Month' && monthNumber(word) === (Number(value) || monthNumber(value))),
  );
}

/** Are the parts of a period numbers, or the name of a month? */
const isPeriod = (values: Record<string, string> | undefined): boolean =>
  values !== undefined &&
  Object.entries(values).every(
    ([hole, value]) =>
      !['Year', 'Month', 'Day', 'Week', 'Quarter'].includes(hole) ||
      /^\d+$/.test(value) ||
      (hole === 'Month' && monthNumber(value) > 0),
  );
