import * as v from 'valibot';
import { holdTotals } from '../steps/hold-totals';
import type { HeldRows } from '../steps/step';
import type { LocaleName } from '../values/locale';
import { cellText } from '../values/cell';
import { filledColumns, type Sheet } from '../sheet/sheet';
import { totalWords } from '../reading/roles';
import { aroundOf, mostCommon, plural, reportSheet } from './sheets-seen';
import type { Detector, Seen, Suggestion } from './suggestion';

/** Rows that add up others; how many of them do is part of the reason. */
export const printedTotals: Detector = (seen) => {
  const sheets = seen.reports.map(reportSheet);
  const labels = sheets.flatMap((sheet) =>
    sheet.rows
      .map((row) => row)
      .filter((row) => isTotal(sheet, row))
      .map((row) => labelOf(sheet, row)),
  );
  const locale = seen.locale();
  const heldUnder = trying(seen);
  if (labels.length === 0) return addingUp(sheets, heldUnder, locale);
  const wording = wordingOf(labels);
  // Words alone where they tell all of them: a row that reading does not mark is known by them too, and nothing else is.
  const byWords = wording && onlyTotals(sheets, wording);
  const said = byWords
    ? { wording: [wording], marked: false, ...localeIn(locale) }
    : { wording: [], marked: true, ...localeIn(locale) };
  // Where the words find more that add up than the marks do, they tell more.
  const worded = wording && !byWords ? { ...said, wording: [wording], marked: false } : undefined;
  const { settings, held, agree, compared } = withUnsaid(
    heldUnder,
    withLastRow(
      sheets,
      heldUnder,
      worded && tellsMore(holding(heldUnder(worded)), holding(heldUnder(said))) ? worded : said,
    ),
  );
  if (held === 0) return [];
  return [
    {
      zone: 'eachReport',
      kind: 'hold totals',
      settings,
      reason: `${plural(held, 'row is a printed total', 'rows are printed totals')}, such as “${labels[0]}”; ${compared === 0 ? 'none could be added up yet' : `${agree} of ${compared} add up to the rows above`}`,
    },
  ];
};

type Settings = { readonly wording: readonly string[] } & Record<string, unknown>;

/** What the step holds in each report under some settings; each are run once. */
type HeldUnder = (settings: Settings) => readonly (HeldRows | undefined)[];

function trying({ reports }: Seen): HeldUnder {
  const known = new Map<string, readonly (HeldRows | undefined)[]>();
  return (settings) => {
    const key = JSON.stringify(settings);
    const held =
      known.get(key) ??
      reports.map(
        (report) => holdTotals.run(reportSheet(report), v.parse(holdTotals.settings, settings), aroundOf(report)).held,
      );
    known.set(key, held);
    return held;
  };
}

const tellsMore = (own: Held, other: Held): boolean =>
  own.agree === own.compared && own.agree > other.agree && own.held - other.held === own.agree - other.agree;

/** Totals that do not add up may be of sums that no word marks: those are held too where that makes more add up, and no more be off. */
function withUnsaid(heldUnder: HeldUnder, settings: Settings): Held & { settings: Settings } {
  const said = { settings, ...holding(heldUnder(settings)) };
  if (said.agree === said.compared) return said;
  const all = { ...settings, arithmetic: true };
  const unsaid = { settings: all, ...holding(heldUnder(all)) };
  return unsaid.agree > said.agree && unsaid.compared - unsaid.agree < said.compared - said.agree ? unsaid : said;
}

/** The sum of all at the very end may be worded unlike the totals that are known: its text is added where it adds up in most reports, and says nothing else. */
function withLastRow(sheets: readonly Sheet[], heldUnder: HeldUnder, settings: Settings): Settings {
  const endsWith = (sheet: Sheet, held: HeldRows | undefined) =>
    held?.rows.rows.numbers.at(-1) === sheet.rows.numbers.at(-1);
  const known = heldUnder(settings);
  if (sheets.filter((sheet, i) => endsWith(sheet, known[i])).length * 2 >= sheets.length) return settings;
  const adding = heldUnder({ ...settings, arithmetic: true });
  const labels = sheets.flatMap((sheet, i) => {
    const more = adding[i];
    const isOneMore =
      more !== undefined && endsWith(sheet, more) && more.rows.rows.length === (known[i]?.rows.rows.length ?? 0) + 1;
    return isOneMore ? [ownLabel(more.rows, more.rows.rows.length - 1, sheet)] : [];
  });
  const label = mostCommon(labels);
  if (!label || labels.filter((each) => each === label).length * 2 <= sheets.length) return settings;
  const isElsewhere = sheets.some(({ columns, rows }) =>
    columns.some(({ cells }) => cells.some((cell, row) => row < rows.length - 1 && cellText(cell) === label)),
  );
  return isElsewhere ? settings : { ...settings, wording: [...settings.wording, label] };
}

/** Rows that no word marks, known by what they add up to: where the same texts head them in most reports, and nothing else. */
function addingUp(sheets: readonly Sheet[], heldUnder: HeldUnder, locale: LocaleName): readonly Suggestion[] {
  const arithmetic = { wording: [], marked: false, arithmetic: true, ...localeIn(locale) };
  const labels = heldUnder(arithmetic).flatMap((held, i) =>
    held ? held.rows.rows.map((row) => ownLabel(held.rows, row, sheets[i])) : [],
  );
  const [label] = labels;
  if (label === '' && labels.every((each) => each === '') && labels.length >= sheets.length)
    return [
      {
        zone: 'eachReport',
        kind: 'hold totals',
        settings: arithmetic,
        reason: `${plural(labels.length, 'row without a text adds', 'rows without a text add')} up the rows above`,
      },
    ];
  if (!label) return [];
  const wording = wordingOfSums(sheets, labels);
  if (wording.length === 0) return [];
  const settings = { wording, marked: false, ...localeIn(locale) };
  const { held, agree, compared } = holding(heldUnder(settings));
  return agree * 2 < compared
    ? []
    : [
        {
          zone: 'eachReport',
          kind: 'hold totals',
          settings,
          reason: `${plural(held, 'row', 'rows')} ${wording.length === 1 ? `“${wording[0]}”` : `such as “${wording[0]}”`}: ${agree} of ${compared} add up to the rows above`,
        },
      ];
}

/**
 * The texts that head rows that add up, and are the heads of nothing else: each in most reports, and adding up in most of its rows.
 * @param labels of the rows that add up, of all reports
 */
function wordingOfSums(sheets: readonly Sheet[], labels: readonly string[]): string[] {
  const adding = new Map<string, number>();
  for (const label of labels) if (label !== '') adding.set(label, (adding.get(label) ?? 0) + 1);
  /** How many cells of each page of a report say a text: where each page is a form, each has its sums. */
  const pages = sheets.map(({ columns, rows }) => {
    const counts = new Map<number, Map<string, number>>();
    for (let row = 0; row < rows.length; row++) {
      const own = counts.get(rows.page(row)) ?? new Map<string, number>();
      counts.set(rows.page(row), own);
      for (const { cells } of columns) {
        const text = cellText(cells[row]);
        own.set(text, (own.get(text) ?? 0) + 1);
      }
    }
    return [...counts.values()];
  });
  const telling = [...adding].flatMap(([label, count]) => {
    const said = pages.map((own) => own.map((counts) => counts.get(label) ?? 0));
    const total = said.flat().reduce((sum, each) => sum + each, 0);
    return count * 2 > total &&
      said.filter((own) => own.some((each) => each > 0)).length * 2 >= sheets.length &&
      said.flat().every((each) => each <= 1)
      ? [label]
      : [];
  });
  // “Net cash from operating”, “Net cash from investing”: what comes new next month is worded alike.
  const begins = telling.map((label) => label.split(' ').slice(0, 2).join(' '));
  const known = new Set(telling);
  const isTheirs = (begin: string) =>
    pages
      .flat()
      .every((counts) => [...counts.keys()].every((text) => !text.startsWith(`${begin} `) || known.has(text)));
  const shared = [...new Set(begins)].filter(
    (begin) => begins.filter((each) => each === begin).length > 1 && isTheirs(begin),
  );
  return [...shared.map((begin) => `${begin} *`), ...telling.filter((_, i) => !shared.includes(begins[i]))];
}

const localeIn = (locale: LocaleName) => (locale === 'en-GB' ? {} : { locale });

const isTotal = ({ rows }: Sheet, row: number) => rows.role(row) === 'total' || rows.role(row) === 'subtotal';

/** The text that says that it is one; else the first of its words. */
function labelOf(sheet: Sheet, row: number): string {
  const texts = filledColumns(sheet, row)
    .map((at) => cellText(sheet.columns[at].cells[row]))
    .filter((text) => /\p{L}/u.test(text));
  return (
    texts.find((text) => totalWords.test(text)) ??
    texts.find((text) => /total|summe|somme|suma\b/i.test(text)) ??
    texts[0] ??
    ''
  );
}

/** The text that says which row it is: the one that the fewest rows of the sheet have, as a section stands in many. */
function ownLabel(held: Sheet, row: number, { columns }: Sheet): string {
  const texts = filledColumns(held, row).flatMap((at) => {
    const text = cellText(held.columns[at].cells[row]);
    return /\p{L}/u.test(text)
      ? [{ text, rows: columns[at].cells.filter((cell) => cellText(cell) === text).length }]
      : [];
  });
  return texts.reduce((rarest, each) => (each.rows < rarest.rows ? each : rarest), texts[0] ?? { text: '', rows: 0 })
    .text;
}

/** What all labels begin with, in whole words; undefined where there is no such word. */
function wordingOf(labels: readonly string[]): string | undefined {
  const split = labels.map((label) => label.split(' '));
  let same = 0;
  while (split.every((words) => words.length > same && words[same].toLowerCase() === split[0][same].toLowerCase()))
    same++;
  if (same === 0) return undefined;
  const begins = split[0].slice(0, same).join(' ');
  return split.every((words) => words.length === same) ? begins : `${begins} *`;
}

/** Does the wording find the marked rows and no other? */
function onlyTotals(sheets: readonly Sheet[], wording: string): boolean {
  const begins = wording.replace(/ \*$/, '').toLowerCase();
  const says = (sheet: Sheet, row: number) =>
    sheet.columns.some(({ cells }) => {
      const text = cellText(cells[row]).toLowerCase();
      return wording.endsWith('*') ? text.startsWith(`${begins} `) : text === begins;
    });
  return sheets.every((sheet) => sheet.rows.map((row) => says(sheet, row) === isTotal(sheet, row)).every(Boolean));
}

/** How many rows are held as totals; with how many of them the rows above can be compared, and agree. */
interface Held {
  readonly held: number;
  readonly agree: number;
  readonly compared: number;
}

function holding(held: readonly (HeldRows | undefined)[]): Held {
  const covers = held.flatMap((each) => each?.covers ?? []);
  const compared = covers.filter(({ rows }) => rows.length > 0);
  return {
    held: covers.length,
    agree: compared.filter(({ differs }) => differs.length === 0).length,
    compared: compared.length,
  };
}
