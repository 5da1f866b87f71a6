// One file, though long: the four ways of taking share how a match is told and what counts as trouble.
import { around, type Box } from '../page/box';
import { linesOf, textOf } from '../page/lines';
import type { PageContent } from '../page/page';
import { plainRows, type FoundTable, type Piece, type Reading } from '../reading/found-table';
import { readingsOf, wholePage } from '../reading/page-tables';
import { restOf, type Rest } from './rest';
import { readDrawn } from '../reading/readings/drawn';
import type { Problem } from '../sheet/problem';
import { enoughAnchors, fitOf, onPage, type Fit } from './anchors';
import { labelledOn, labelledValue, type LabelledValue } from './labels';
import { likeness } from './likeness';
import { monthNumber } from '../values/date';
import { cutApart, joined, wordsIn, wordsOf } from './outlines';
import type { Drawing, ReadingChoice, TakeRule } from './take-rule';

/** What rules take from: a report as it was read. */
export interface ReportRead {
  readonly key: string;
  /** Path below the folder. */
  readonly path: string;
  /** ISO text; null: none is known. */
  readonly period?: string | null;
  readonly pages: readonly PageContent[];
  readonly tables: readonly FoundTable[];
}

/** Where something taken stands, for the paper: its box, how it is read, the edges between its columns. */
export interface TakenPiece {
  readonly page: number;
  readonly box: Box;
  readonly reading: string;
  readonly separators: readonly number[];
}

export interface TakeMatch {
  readonly rule: string;
  /** Id of what is taken. */
  readonly table: string;
  /** Ids of the found tables that it is made of. */
  readonly found: readonly string[];
  readonly pages: readonly number[];
  /** 0 to 1. */
  readonly sure: number;
  /** Another table as much alike: the two cannot be told apart. */
  readonly rival?: string;
  /** Another found table that nothing takes, in which this one most likely goes on. */
  readonly rest?: Rest;
  /** What a drawing or a label looks for and does not find here. */
  readonly lacks: readonly string[];
  readonly pieces: readonly TakenPiece[];
}

/** What a rule took: a table with the one reading chosen for each of its pieces, or the values of its labels. */
export type Taken =
  | { readonly match: TakeMatch; readonly table: FoundTable }
  | {
      readonly match: TakeMatch;
      readonly values: readonly { readonly name: string; readonly value: LabelledValue | undefined }[];
    };

/** Two tables this close in likeness cannot be told apart. */
const tooClose = 0.05;

/** The reading asked for, or the piece's best where it has none of that name. */
export const readingNamed = (readings: readonly Reading[], name: ReadingChoice): Reading =>
  readings.find((reading) => reading.name === name) ?? readings[0];

/** The text of a table's heading rows. */
export function headingText(table: FoundTable, reading: ReadingChoice = 'best'): string {
  const first = readingNamed(table.pieces[0].readings, reading);
  return plainRows(first).slice(0, Math.max(1, first.headingRows)).flat().join(' ');
}

const roundedTo2 = (n: number) => Math.round(n * 100) / 100;

/** A text with what is another in each report, dates and numbers, alike, or left out. */
const changing = (text: string, as: string): string =>
  text.replace(/\p{L}{3,}/gu, (word) => (monthNumber(word) > 0 ? as : word)).replace(/\d+/g, as);

/** A table whose heading is another in its dates and numbers is so much less sure. */
const changed = 0.9;

/** How alike two headings are but for dates and numbers: by all of their words, and by those that stay, as many tables have days across. */
function likenessOfChanging(a: string, b: string): number {
  const [stays, other] = [changing(a, ' '), changing(b, ' ')];
  return stays.trim() === ''
    ? 0
    : changed * Math.min(likeness(changing(a, '0'), changing(b, '0')), likeness(stays, other));
}

/** How alike a table is; where dates and numbers of the heading may be others, somewhat less. */
function sureness(rule: TakeRule, table: FoundTable, ofChanging = false): number {
  const [wanted, printed] = [rule.heading.join(' '), headingText(table, rule.reading)];
  const byHeading =
    rule.heading.length === 0
      ? undefined
      : ofChanging
        ? likenessOfChanging(wanted, printed)
        : likeness(wanted, printed);
  const byTitle = rule.title ? likeness(rule.title, table.title ?? '') : undefined;
  if (byHeading !== undefined && byTitle !== undefined) return roundedTo2(0.65 * byHeading + 0.35 * byTitle);
  return roundedTo2(byHeading ?? byTitle ?? (rule.columns !== undefined || rule.pages !== undefined ? 1 : 0));
}

/** What each rule takes from one report, and what needs a look: nothing found, two too close to tell, a mark that is not there. */
export function takeTables(rules: readonly TakeRule[], report: ReportRead): { taken: Taken[]; problems: Problem[] } {
  const taken: Taken[] = [];
  const problems: Problem[] = [];
  const trouble = (problem: Omit<Problem, 'kind' | 'report'> & { kind?: Problem['kind'] }) =>
    problems.push({ kind: 'not taken', report: report.key, ...problem });
  rules.forEach((rule, n) => {
    if (rule.of === 'labels') taken.push(...byLabels(rule, n, report, trouble));
    else if (rule.of === 'area') taken.push(...byArea(rule, n, report, trouble));
    else if (rule.of === 'whole page') taken.push(...wholePages(rule, n, report, trouble));
    else taken.push(...byLikeness(rule, report, trouble));
  });
  return { taken: withRests(rules, taken, report, trouble), problems };
}

/** How much less sure a match is whose table goes on in another found table that nothing takes. */
const partly = 0.7;

/** Tells of what was taken where it goes on in a found table that no rule takes: half a table must not pass for the whole. */
function withRests(rules: readonly TakeRule[], taken: readonly Taken[], report: ReportRead, trouble: Trouble): Taken[] {
  const found = new Set(taken.flatMap(({ match }) => match.found));
  const free = report.tables.filter((table) => !found.has(table.id));
  return taken.map((each) => {
    const rule = rules.find(({ name }) => name === each.match.rule);
    const rest =
      'table' in each && rule?.of === 'found table' && !rule.cut && !rule.pages ? restOf(each.table, free) : undefined;
    if (!rest) return each;
    trouble({
      kind: 'drift',
      page: rest.page,
      expected: `all rows of “${each.match.rule}” in what is taken`,
      came: `another found table of the same columns ${rest.place} it, on page ${rest.page}, that no rule takes`,
      remedy: 'Join it, or leave it where it is no part of this table.',
    });
    return { ...each, match: { ...each.match, sure: roundedTo2(partly * each.match.sure), rest } };
  });
}

type Trouble = (problem: Omit<Problem, 'kind' | 'report'> & { kind?: Problem['kind'] }) => void;

const choiceFor = (rule: TakeRule, { path }: ReportRead): ReadingChoice =>
  rule.readingIn.find((each) => each.report === path)?.reading ?? rule.reading;

const onPages = ({ pages }: TakeRule, page: number) => !pages || (page >= pages.from && page <= pages.to);

const pageIn = (report: ReportRead) => (number: number) => report.pages.find((page) => page.number === number)!;

function byLikeness(rule: TakeRule, report: ReportRead, trouble: Trouble): Taken[] {
  const tables = report.tables
    .map((table) => ({ ...table, pieces: table.pieces.filter((piece) => onPages(rule, piece.page)) }))
    .filter((table) => table.pieces.length > 0 && (rule.columns === undefined || columnsOf(table) === rule.columns));
  const rank = (ofChanging: boolean) =>
    tables.map((table) => ({ table, sure: sureness(rule, table, ofChanging) })).sort((a, b) => b.sure - a.sure);
  const ranked = rank(false);
  const exact = ranked.filter(({ sure }) => sure >= rule.least);
  // Headings of days or months are others in the next report.
  const good = exact.length > 0 ? exact : rank(true).filter(({ sure }) => sure >= rule.least);
  if (good.length === 0) {
    trouble({
      expected: `a table like “${rule.name}”`,
      came: ranked[0]
        ? `at best “${ranked[0].table.title ?? `the table on page ${ranked[0].table.pieces[0].page}`}” (likeness ${ranked[0].sure})`
        : 'no table at all',
      remedy: 'Take a table of this report by hand, or let the report be left out.',
    });
    return [];
  }
  const rival =
    rule.which === 'the likest' && good.length > 1 && good[0].sure - good[1].sure < tooClose
      ? good[1].table.id
      : undefined;
  if (rival)
    trouble({
      page: good[1].table.pieces[0].page,
      expected: `one table like “${rule.name}”`,
      came: `two (${good[0].table.id} and ${good[1].table.id}); the first was taken`,
      remedy: 'Tell them apart by a title or more heading words, or take all alike.',
    });
  const alike =
    rule.which === 'all alike'
      ? good.filter(({ table }) => columnsOf(table) === columnsOf(good[0].table))
      : good.slice(0, 1);
  const others =
    rule.which === 'all alike' ? good.filter(({ table }) => columnsOf(table) !== columnsOf(good[0].table)) : [];
  if (others.length > 0)
    trouble({
      page: others[0].table.pieces[0].page,
      expected: `tables of ${columnsOf(good[0].table)} columns like “${rule.name}”`,
      came: `also ${others.map(({ table }) => `one of ${columnsOf(table)} columns on page ${table.pieces[0].page}`).join(', ')}; ${others.length === 1 ? 'it was' : 'they were'} kept apart`,
      remedy: 'Take those by a rule of their own.',
    });
  return alike.flatMap(({ table, sure }) => {
    const outlined = outlinedBy(rule, table, report, trouble);
    return outlined
      ? [asRead(rule, outlined.table, { sure, found: outlined.found, ...(rival ? { rival } : {}) }, report, trouble)]
      : [];
  });
}

const columnsOf = (table: FoundTable) => Math.max(...table.pieces.map((piece) => piece.readings[0].columns.length));

/** The table joined with others, or cut, as the rule has it. */
function outlinedBy(
  rule: TakeRule,
  table: FoundTable,
  report: ReportRead,
  trouble: Trouble,
): { table: FoundTable; found: string[] } | undefined {
  const pageOf = pageIn(report);
  let outlined = { table, found: [table.id] };
  if (rule.join) {
    const { table: whole, others } = joined(table, report.tables, pageOf, rule.join);
    outlined = { table: whole, found: [table.id, ...others] };
  }
  if (!rule.cut) return outlined;
  const part = cutApart(outlined.table, pageOf, rule.cut);
  if (part) return { ...outlined, table: { ...part, id: rule.cut.part === 'before' ? part.id : `${part.id}b` } };
  if (rule.cut.part === 'before') return outlined;
  trouble({
    page: table.pieces[0].page,
    expected: `a ${rule.cut.by} “${rule.cut.text}” at which “${rule.name}” is cut off`,
    came: `none in the table on page ${table.pieces[0].page}`,
    remedy: 'Cut this table at another text, or let the rule be left out for this report.',
  });
  return undefined;
}

/** The table with the one reading chosen for each of its pieces. */
function asRead(
  rule: TakeRule,
  table: FoundTable,
  facts: Pick<TakeMatch, 'sure' | 'found' | 'rival'>,
  report: ReportRead,
  trouble: Trouble,
): Taken {
  const choice = choiceFor(rule, report);
  const pageOf = pageIn(report);
  const drawing = choice === 'drawn' ? rule.drawing : undefined;
  const lacks = new Set<string>();
  let fit: Fit | undefined;
  const pieces = table.pieces.map((piece, n): Piece => {
    if (!drawing) return { ...piece, readings: [readingNamed(piece.readings, choice)] };
    const page = pageOf(piece.page);
    const words = wordsOf(piece);
    const own = fitOf(drawing.anchors, page, words);
    // A piece that goes on without its heading keeps the places of the one before.
    if (own && (own.sure >= enoughAnchors || !fit)) {
      fit = own;
      if (n === 0) own.missing.forEach((text) => lacks.add(text));
    } else if (n === 0) drawing.anchors.forEach(({ text }) => lacks.add(text));
    const reading = readAsDrawn(page, words, piece.box, drawing, fit ?? unmoved, piece.readings[0]);
    return reading ? { ...piece, readings: [reading] } : piece;
  });
  if (lacks.size > 0) trouble(notAnchored(rule, [...lacks], table.pieces[0].page, fit !== undefined));
  const read = { ...table, pieces };
  return { match: matchOf(rule, read, { ...facts, lacks: [...lacks] }), table: read };
}

const unmoved: Fit = { scale: 1, dx: 0, dy: 0, sure: 0, missing: [] };

const readAsDrawn = (
  page: PageContent,
  words: readonly number[],
  box: Box,
  { columns, rows, cuts }: Drawing,
  fit: Fit,
  base: Reading | undefined,
) => {
  const { x, y } = onPage(fit);
  return readDrawn(
    page,
    words,
    box,
    { columns: columns.map(({ at, keep }) => ({ at: x(at), keep })), rows, cuts: cuts.map(y) },
    base,
  );
};

const quoted = (texts: readonly string[]) => texts.map((text) => `“${text}”`).join(', ');

const notAnchored = (rule: TakeRule, lacks: readonly string[], page: number, found: boolean) => ({
  kind: 'drift' as const,
  page,
  expected: `the words ${quoted(lacks)} by which the separators of “${rule.name}” find their place`,
  came: found
    ? 'a heading without them; the others were used'
    : 'none of them; the separators stand where they were drawn',
  remedy: 'Look at this page: draw its separators anew, or choose another reading for this report.',
});

const matchOf = (
  rule: TakeRule,
  table: FoundTable,
  facts: Pick<TakeMatch, 'sure' | 'found' | 'rival' | 'lacks'>,
): TakeMatch => ({
  rule: rule.name,
  table: table.id,
  pages: table.pieces.map((piece) => piece.page),
  ...facts,
  pieces: table.pieces.map(({ page, box, readings: [reading] }) => ({
    page,
    box,
    reading: reading.name,
    separators: reading.columns
      .slice(1)
      .map(([left], i) => (reading.name === 'drawn' ? left : (left + reading.columns[i][1]) / 2)),
  })),
});

/** A piece of paper that was not found as a table, read by its drawing or as white space has it. */
function byArea(rule: TakeRule, n: number, report: ReportRead, trouble: Trouble): Taken[] {
  const drawing = rule.drawing!;
  const fits = report.pages
    .filter((page) => onPages(rule, page.number))
    .flatMap((page) => {
      const fit = fitOf(
        drawing.anchors,
        page,
        page.words.map((_, i) => i),
      );
      return fit && fit.sure >= Math.max(rule.least, enoughAnchors) ? [{ page, fit }] : [];
    });
  const best = Math.max(...fits.map(({ fit }) => fit.sure));
  const chosen = rule.which === 'all alike' ? fits : fits.filter(({ fit }) => fit.sure === best).slice(0, 1);
  const lacks = new Set<string>();
  const pieces = chosen.flatMap(({ page, fit }): Piece[] => {
    fit.missing.forEach((text) => lacks.add(text));
    const box = areaOn(page, drawing, fit);
    const words = wordsIn(page, box);
    const base = words.length > 0 ? readingsOf(page, { box, words, by: 'space' }) : [];
    const drawn =
      drawing.columns.length > 0 || drawing.rows === 'drawn'
        ? readAsDrawn(page, words, box, drawing, fit, base[0])
        : undefined;
    const reading =
      choiceFor(rule, report) === 'drawn' ? (drawn ?? base[0]) : readingNamed(base, choiceFor(rule, report));
    return reading
      ? [{ id: `p${page.number}a${n}`, page: page.number, box, titleWords: [], continues: null, readings: [reading] }]
      : [];
  });
  if (pieces.length === 0) {
    trouble({
      expected: `the area of “${rule.name}”, known by the words ${quoted(drawing.anchors.map(({ text }) => text))}`,
      came: 'no page on which they stand like that',
      remedy: 'Draw the area of this report by hand, or let the report be left out.',
    });
    return [];
  }
  if (lacks.size > 0) trouble(notAnchored(rule, [...lacks], pieces[0].page, true));
  const table: FoundTable = { id: pieces[0].id, pieces };
  return [{ match: matchOf(rule, table, { sure: roundedTo2(best), found: [], lacks: [...lacks] }), table }];
}

/** Where the drawn area lies on a page: it ends above the line named, wherever that stands. */
function areaOn(page: PageContent, { box, below }: Drawing, fit: Fit): Box {
  const { x, y } = onPage(fit);
  const [left, top, right, bottom] = box!;
  const mapped: Box = [x(left), y(top), x(right), y(bottom)];
  if (!below) return mapped;
  const end = linesOf(page.words).find(
    (line) => line.box[1] > mapped[1] + line.fontSize && likeness(textOf(page.words, line.words), below) >= 0.75,
  );
  return end ? [mapped[0], mapped[1], mapped[2], end.box[1] - 0.5] : mapped;
}

/** Whole pages, each read by white space or line by line, one below the other. */
function wholePages(rule: TakeRule, n: number, report: ReportRead, trouble: Trouble): Taken[] {
  const pieces = report.pages
    .filter((page) => onPages(rule, page.number))
    .flatMap((page): Piece[] => {
      const piece = wholePage(page);
      if (!piece) return [];
      const words = page.words.flatMap((word, i) => (word.angle === 0 ? [i] : []));
      const drawn =
        rule.drawing && choiceFor(rule, report) === 'drawn'
          ? readAsDrawn(
              page,
              words,
              piece.box,
              rule.drawing,
              fitOf(rule.drawing.anchors, page, words) ?? unmoved,
              piece.readings[0],
            )
          : undefined;
      return [
        { ...piece, id: `${piece.id}${n}`, readings: [drawn ?? readingNamed(piece.readings, choiceFor(rule, report))] },
      ];
    });
  if (pieces.length === 0) {
    trouble({
      expected: `text on ${rule.pages ? `pages ${rule.pages.from} to ${rule.pages.to}` : 'its pages'} for “${rule.name}”`,
      came: 'none',
      remedy: 'Take other pages, or let the report be left out.',
    });
    return [];
  }
  const table: FoundTable = { id: pieces[0].id, pieces };
  return [{ match: matchOf(rule, table, { sure: 1, found: [], lacks: [] }), table }];
}

/** One row of the values that stand beside or under their labels. */
function byLabels(rule: TakeRule, n: number, report: ReportRead, trouble: Trouble): Taken[] {
  const pages = report.pages.filter((page) => onPages(rule, page.number));
  const values = rule.labels.map((label) => ({ name: label.name, value: labelledValue(pages, label) }));
  for (const [i, label] of rule.labels.entries()) {
    const first = values[i].value;
    const other = first && pages.flatMap((page) => labelledOn(page, label)).find(({ text }) => text !== first.text);
    if (other)
      trouble({
        kind: 'drift',
        page: other.page,
        expected: `one value of the label “${label.label}”`,
        came: `“${first.text}” on page ${first.page} and “${other.text}” on page ${other.page}; the first was taken`,
        remedy: 'Take the values of one page only, or let “Stamp” put each beside the rows of its table.',
      });
  }
  const lacks = rule.labels.flatMap((label, i) => (values[i].value ? [] : [label.label]));
  const there = values.flatMap(({ value }) => (value ? [value] : []));
  if (lacks.length > 0)
    trouble({
      ...(there.length > 0 ? { kind: 'drift' as const } : {}),
      expected: `${lacks.length === 1 ? 'the label' : 'the labels'} ${quoted(lacks)} with a value`,
      came: there.length > 0 ? `the other ${there.length} only; blank there` : 'none of them',
      remedy: 'Point at the value in this report, or let it be blank.',
    });
  if (there.length === 0) return [];
  const boxes = there.map((value) => ({
    page: value.page,
    box: around(value.words.map((w) => pageIn(report)(value.page).words[w].box))!,
  }));
  return [
    {
      match: {
        rule: rule.name,
        table: `l${n}`,
        found: [],
        pages: [...new Set(there.map((value) => value.page))],
        sure: roundedTo2(there.length / rule.labels.length),
        lacks,
        pieces: boxes.map(({ page, box }) => ({ page, box, reading: 'label', separators: [] })),
      },
      values,
    },
  ];
}
