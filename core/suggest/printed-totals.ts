import * as v from 'valibot';
import { holdTotals } from '../steps/hold-totals';
import type { LocaleName } from '../values/locale';
import { cellText } from '../values/cell';
import { filledColumns, type Sheet } from '../sheet/sheet';
import { totalWords } from '../reading/roles';
import { aroundOf, plural, reportSheet } from './sheets-seen';
import type { Detector, Seen, Suggestion } from './suggestion';

/** Rows that add up others; how many of them do is part of the reason. */
export const printedTotals: Detector = (seen) => {
  const sheets = seen.reports.map(reportSheet);
  const labels = sheets.flatMap((sheet) => sheet.rows.map((row) => row).filter((row) => isTotal(sheet, row)).map((row) => labelOf(sheet, row)));
  const locale = seen.locale();
  if (labels.length === 0) return addingUp(seen, locale);
  const wording = wordingOf(labels);
  // Words alone where they tell all of them: a row that reading does not mark is known by them too, and nothing else is.
  const byWords = wording && onlyTotals(sheets, wording);
  const said = byWords ? { wording: [wording], marked: false, ...localeIn(locale) } : { wording: [], marked: true, ...localeIn(locale) };
  const { settings, held, agree, compared } = withUnsaid(seen, said);
  if (held === 0) return [];
  return [{ zone: 'eachReport', kind: 'hold totals', settings, reason: `${plural(held, 'row is a printed total', 'rows are printed totals')}, such as “${labels[0]}”; ${compared === 0 ? 'none could be added up yet' : `${agree} of ${compared} add up to the rows above`}` }];
};

/** Totals that do not add up may be of sums that no word marks: those are held too where that makes more add up, and no more be off. */
function withUnsaid(seen: Seen, settings: Record<string, unknown>): ReturnType<typeof holding> & { settings: Record<string, unknown> } {
  const said = { settings, ...holding(seen, settings) };
  if (said.agree === said.compared) return said;
  const all = { ...settings, arithmetic: true };
  const unsaid = { settings: all, ...holding(seen, all) };
  return unsaid.agree > said.agree && unsaid.compared - unsaid.agree < said.compared - said.agree ? unsaid : said;
}

/** Rows that no word marks, known by what they add up to: where the same text heads them in most reports, and nothing else. */
function addingUp(seen: Seen, locale: LocaleName): readonly Suggestion[] {
  const full = v.parse(holdTotals.settings, { wording: [], marked: false, arithmetic: true, ...localeIn(locale) });
  const sheets = seen.reports.map(reportSheet);
  const labels = seen.reports.flatMap((report, i) => {
    const held = holdTotals.run(sheets[i], full, aroundOf(report)).held;
    return held ? held.rows.rows.map((row) => labelOf(held.rows, row)) : [];
  });
  const [label] = labels;
  if (label === '' && labels.every((each) => each === '') && labels.length >= sheets.length)
    return [{ zone: 'eachReport', kind: 'hold totals', settings: { wording: [], marked: false, arithmetic: true, ...localeIn(locale) }, reason: `${plural(labels.length, 'row without a text adds', 'rows without a text add')} up the rows above` }];
  if (!label || labels.some((each) => each !== label) || labels.length * 2 < sheets.length) return [];
  const said = sheets.reduce((sum, sheet) => sum + sheet.rows.map((row) => sheet.columns.some(({ cells }) => cellText(cells[row]) === label)).filter(Boolean).length, 0);
  // The word stands elsewhere too: then it does not tell a total.
  if (said > sheets.length || said < labels.length) return [];
  return [{ zone: 'eachReport', kind: 'hold totals', settings: { wording: [label], marked: false, ...localeIn(locale) }, reason: `${plural(said, 'row', 'rows')} “${label}”: ${labels.length} of ${said} add up to the rows above` }];
}

const localeIn = (locale: LocaleName) => (locale === 'en-GB' ? {} : { locale });

const isTotal = ({ rows }: Sheet, row: number) => rows.role(row) === 'total' || rows.role(row) === 'subtotal';

/** The text that says that it is one; else the first of its words. */
function labelOf(sheet: Sheet, row: number): string {
  const texts = filledColumns(sheet, row).map((at) => cellText(sheet.columns[at].cells[row])).filter((text) => /\p{L}/u.test(text));
  return texts.find((text) => totalWords.test(text)) ?? texts[0] ?? '';
}

/** What all labels begin with, in whole words; undefined where there is no such word. */
function wordingOf(labels: readonly string[]): string | undefined {
  const split = labels.map((label) => label.split(' '));
  let same = 0;
  while (split.every((words) => words.length > same && words[same].toLowerCase() === split[0][same].toLowerCase())) same++;
  if (same === 0) return undefined;
  const begins = split[0].slice(0, same).join(' ');
  return split.every((words) => words.length === same) ? begins : `${begins} *`;
}

/** Does the wording find the marked rows and no other? */
function onlyTotals(sheets: readonly Sheet[], wording: string): boolean {
  const begins = wording.replace(/ \*$/, '').toLowerCase();
  const says = (sheet: Sheet, row: number) => sheet.columns.some(({ cells }) => {
    const text = cellText(cells[row]).toLowerCase();
    return wording.endsWith('*') ? text.startsWith(`${begins} `) : text === begins;
  });
  return sheets.every((sheet) => sheet.rows.map((row) => says(sheet, row) === isTotal(sheet, row)).every(Boolean));
}

function holding({ reports }: Seen, settings: Record<string, unknown>): { held: number; agree: number; compared: number } {
  const full = v.parse(holdTotals.settings, settings);
  const covers = reports.flatMap((report) => holdTotals.run(reportSheet(report), full, aroundOf(report)).held?.covers ?? []);
  const compared = covers.filter(({ rows }) => rows.length > 0);
  return { held: covers.length, agree: compared.filter(({ differs }) => differs.length === 0).length, compared: compared.length };
}
