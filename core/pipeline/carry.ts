import { changing } from '../drift/answers';
import { traitsOf, type ReportTraits } from '../drift/traits';
import { takenSheet } from '../intake/table-sheet';
import { takeTables, type ReportRead, type TakeMatch } from '../intake/take';
import { at, type Problem } from '../sheet/problem';
import { noLists, type Lists } from '../sheet/list';
import { RowBook, type NumberedCell } from '../sheet/row';
import { emptySheet, parted, sheet as makeSheet, type Sheet } from '../sheet/sheet';
import { kindOf, titleOf, type Step } from '../steps/kinds';
import { lettingPass } from '../steps/let-pass';
import type { HeldRows, Overwritten, Paper, Papers, Printed, StepResult, Zone } from '../steps/step';
import { withAnswers } from './answered-columns';
import { append, partialColumns, spelled } from './append';
import { splitAllReports, type Pipeline } from './document';
import { builtIn, builtInTitles, type BuiltIn } from './layers';
import { paperOf } from './paper';

/** What left one step: the sheet below it, what it held, left out or overwrote, and its problems. */
export interface Layer {
  /** Id of the step, or `taken` for the tables as they were taken, `joined` for them appended, `appended` for the report as it is appended to the others. */
  readonly id: string;
  readonly zone: Zone;
  readonly title: string;
  readonly rowsIn: number;
  readonly sheet: Sheet;
  readonly held: HeldRows;
  /** The columns that the step left out, with the rows above it. */
  readonly leftOut: Sheet;
  readonly overwritten: readonly Overwritten[];
  /** How many columns became rows. */
  readonly turned?: number;
  /** The rows at which a part of a split table begins, but for the first of each table. */
  readonly begins?: readonly number[];
  /** Each row is a record that several lines of print make up. */
  readonly records?: boolean;
  /** How long the step took, ms; told of steps over all reports. */
  readonly took?: number;
  readonly problems: readonly Problem[];
  /** Columns that not all of the appended parts have, and the parts that lack each. */
  readonly partial?: readonly PartialColumn[];
}

/** A column that some of the tables of a report lack. */
export interface PartialColumn {
  readonly name: string;
  readonly lackedBy: readonly { readonly table: string; readonly page: number }[];
}

/** Pages, from one to another with it. */
export type PageRange = readonly [from: number, to: number];

export interface CarriedReport {
  readonly matches: readonly TakeMatch[];
  readonly layers: readonly Layer[];
  /** The rows as they enter the dataset. */
  readonly sheet: Sheet;
  readonly problems: readonly Problem[];
  readonly paper: Paper;
  /** What the report looks like as it is printed, to be held against others. */
  traits(): ReportTraits;
}

/** What came of a step or of an append. */
interface Ran {
  readonly sheets: readonly Sheet[];
  /** What the sheets are called where a step has told it; else by the title of their table. */
  readonly titles: readonly (Printed | undefined)[];
  readonly layer: Layer;
}

/**
 * Runs one step on the sheets of its zone (each table apart, or one sheet) and closes the layer over all of them.
 * @param report whose sheets they are; left out: those of all reports
 */
function runStep(
  sheets: readonly Sheet[],
  step: Step,
  zone: Zone,
  {
    papers,
    lists,
    titles = [],
    report,
  }: { papers: Papers; lists: Lists; titles?: readonly (Printed | undefined)[]; report?: string },
): Ran {
  const kind = kindOf(step);
  const title = titleOf(step);
  const letPass = lettingPass(step.pass ?? [], papers);
  const results: StepResult[] = [];
  for (const [i, sheet] of sheets.entries())
    results.push(
      step.off
        ? { sheet }
        : kind.run(sheet, step.settings, {
            papers: calling(papers, titles[i]),
            lists,
            letPass,
            before: results.at(-1)?.sheet,
          }),
    );
  const passed = results.map((result) => result.sheet);
  const together = append(passed);
  const turned = results.reduce((most, result) => Math.max(most, result.turned ?? 0), 0);
  const starts = startsOf(passed);
  return {
    sheets: zone === 'eachTable' ? results.flatMap((result) => result.parts ?? [result.sheet]) : passed,
    titles:
      zone === 'eachTable'
        ? results.flatMap(({ parts, titles: own }, i) => parts?.map((_, n) => own?.[n] ?? titles[i]) ?? [titles[i]])
        : titles,
    layer: {
      id: step.id,
      zone,
      title,
      rowsIn: sheets.reduce((sum, sheet) => sum + sheet.rows.length, 0),
      sheet: together.sheet,
      held: mergedHeld(results),
      leftOut: append(
        results.flatMap(({ leftOut = [] }, i) => (leftOut.length > 0 ? [makeSheet(leftOut, sheets[i].rows)] : [])),
      ).sheet,
      overwritten: results.flatMap((result, i) =>
        (result.overwritten ?? []).map((each) => ({ ...each, rows: each.rows.map((row) => row + starts[i]) })),
      ),
      problems: results.flatMap((result) =>
        at({ step: step.id, ...(report === undefined ? {} : { report }) }, result.problems ?? []),
      ),
      ...(turned > 0 ? { turned } : {}),
      ...(results.some(({ parts }) => parts)
        ? {
            begins: results.flatMap(({ parts = [] }, i) =>
              startsOf(parts)
                .slice(1)
                .map((start) => starts[i] + start),
            ),
          }
        : {}),
      ...(results.some(({ records }) => records) ? { records: true } : {}),
    },
  };
}

/** The papers on which every table is called so. */
const calling = (papers: Papers, title: Printed | undefined): Papers =>
  title ? (report) => ({ ...papers(report), title: () => title }) : papers;

const noHeld: HeldRows = { rows: emptySheet, reasons: [] };

/** Where the rows of each sheet begin when they are appended. */
function startsOf(sheets: readonly Sheet[]): number[] {
  let start = 0;
  return sheets.map(({ rows }) => (start += rows.length) - rows.length);
}

function mergedHeld(results: readonly StepResult[]): HeldRows {
  if (results.length === 1) return results[0].held ?? noHeld;
  const parts = results.flatMap(({ held }) => held ?? []);
  if (parts.length === 0) return noHeld;
  const kept = parts.find((part) => part.kept)?.kept;
  const covers = parts.flatMap((part) => part.covers ?? []);
  return {
    rows: append(parts.map((part) => part.rows)).sheet,
    reasons: parts.flatMap((part) => part.reasons),
    ...(kept ? { kept } : {}),
    ...(covers.length > 0 ? { covers } : {}),
  };
}

/** What came of a report's steps before, by the steps up to each: a change in one of them reruns from there. */
export class CarryCache {
  private generation = 0;
  private taken: { key: string; value: ReturnType<typeof takenFrom> } | undefined;
  private readonly steps = new Map<string, { value: Ran; used: number }>();

  /** What was taken, by everything that it depends on; with other takings all steps below are forgotten. */
  take(key: string, make: () => ReturnType<typeof takenFrom>): ReturnType<typeof takenFrom> {
    this.generation++;
    if (this.taken?.key !== key) {
      this.steps.clear();
      this.taken = { key, value: make() };
    }
    return this.taken.value;
  }

  step(key: string, make: () => Ran): Ran {
    const known = this.steps.get(key);
    const value = known?.value ?? make();
    this.steps.set(key, { value, used: this.generation });
    return value;
  }

  /** Forgets what neither this run nor the one before it used. */
  end() {
    for (const [key, { used }] of this.steps) if (used < this.generation - 1) this.steps.delete(key);
  }
}

/** What the take rules take of a report, as sheets of one book, and its paper. */
function takenFrom(pipeline: Pipeline, input: ReportRead) {
  const { taken, problems } = takeTables(pipeline.take, input);
  const paper = paperOf({
    ...input,
    tables: [...input.tables, ...taken.flatMap((each) => ('table' in each ? [each.table] : []))],
  });
  const book = new RowBook();
  const read = taken.map((each) => takenSheet(each, input.key, book));
  return {
    matches: taken.map(({ match }) => match),
    paper,
    sheets: read.map(({ sheet: own }) => own),
    problems: [...problems, ...read.flatMap((each) => each.problems)],
  };
}

/** The rows of a few pages, with the heading rows at the top of the table: enough to design steps on. */
function onPages(of: Sheet, [from, to]: PageRange): Sheet {
  const body = of.rows.find((row) => of.rows.role(row) !== 'heading');
  return parted(
    of,
    (row) => (row < body && of.rows.page(body) <= to) || (of.rows.page(row) >= from && of.rows.page(row) <= to),
  ).passed;
}

interface CarryOptions {
  /** Id of the step after which to stop, for a look at the sheet there; all steps if left out. */
  readonly until?: string | undefined;
  /** Only the rows of these pages. */
  readonly pages?: PageRange | undefined;
  /** What came of the same report before. */
  readonly cache?: CarryCache;
  /** What steps look up in. */
  readonly lists?: Lists | undefined;
  /** Asked before every step: whether nobody waits for the result any more. */
  readonly isStale?: () => boolean;
}

/** Thrown between two steps when nobody waits for the result any more; what the steps before gave is kept in the cache. */
export class Stale extends Error {}

/**
 * Carries one report through the pipeline: take, the steps of each table, append, the steps of each report, and those
 * steps of all reports that commute with the append.
 */
export function carryReport(
  pipeline: Pipeline,
  input: ReportRead,
  { until, pages, cache = new CarryCache(), lists = noLists, isStale = () => false }: CarryOptions = {},
): CarriedReport {
  let prefix = JSON.stringify([input.key, input.path, pipeline.take, pages ?? null]);
  const {
    matches,
    paper,
    sheets: all,
    problems: notTaken,
  } = cache.take(prefix, () => {
    const taken = takenFrom(pipeline, input);
    return pages
      ? { ...taken, sheets: taken.sheets.map((each) => onPages(each, pages)).filter((each) => each.rows.length > 0) }
      : taken;
  });
  const papers: Papers = () => paper;
  const problems: Problem[] = [...notTaken];
  let sheets: readonly Sheet[] = all;
  let titles: Ran['titles'] = [];
  const rowsTaken = sheets.reduce((sum, sheet) => sum + sheet.rows.length, 0);
  const layers: Layer[] = [
    {
      ...emptyLayer,
      id: builtIn.taken,
      zone: 'eachTable',
      title: builtInTitles.taken,
      rowsIn: rowsTaken,
      sheet: sheets.length > 0 ? append(sheets).sheet : emptySheet,
      problems: [...problems],
    },
  ];
  const answers = changing(pipeline.answers, { path: input.path, period: input.period ?? null });
  /** The tables as print first named their columns. */
  let named: readonly Sheet[] | undefined;
  const done = () => {
    cache.end();
    const traits = () =>
      traitsOf({
        matches,
        sheets: named ?? all,
        taken: all,
        pages: input.pages,
        found: input.tables.length,
        last: layers.at(-1)!.sheet,
      });
    return { matches, layers, sheet: layers.at(-1)!.sheet, problems, paper, traits };
  };
  if (until === builtIn.taken || matches.length === 0) return done();

  const put = (key: string, make: () => Ran): boolean => {
    if (isStale()) throw new Stale();
    prefix += `\n${key}`;
    let ran = cache.step(prefix, make);
    if (!named && ran.sheets.some(({ columns }) => columns.some((column) => column.namedBy !== undefined))) {
      named = ran.sheets;
      prefix += `\nanswers ${JSON.stringify(answers)}`;
      ran = cache.step(prefix, () => ({ ...ran, ...withAnswers(ran.sheets, ran.layer, answers, matches) }));
    }
    ({ sheets, titles } = ran);
    layers.push(ran.layer);
    problems.push(...ran.layer.problems);
    return ran.layer.id === until;
  };
  const runAll = (steps: readonly Step[], zone: Zone): boolean =>
    steps.some((step) => {
      const { id, kind, settings, off, pass } = step;
      const [above, called] = [sheets, titles];
      return put(`${zone} ${JSON.stringify([id, kind, titleOf(step), off ?? false, settings, pass ?? []])}`, () =>
        runStep(above, step, zone, { papers, lists, titles: called, report: input.key }),
      );
    });
  const join = (id: BuiltIn, zone: Zone): boolean => {
    const above = sheets;
    return put(`${id} ${JSON.stringify(pipeline.spellings)}`, () =>
      joined(above, pipeline.spellings, { id, zone, title: builtInTitles[id], report: input.key }),
    );
  };
  // Each says whether it came to the step asked for.
  const stages = [
    () => runAll(pipeline.eachTable, 'eachTable'),
    () => join(builtIn.joined, 'eachTable'),
    () => runAll(pipeline.eachReport, 'eachReport'),
    () => join(builtIn.appended, 'eachReport'),
    () => runAll(splitAllReports(pipeline).perReport, 'allReports'),
  ];
  stages.some((stage) => stage());
  return done();
}

const emptyLayer = { held: noHeld, leftOut: emptySheet, overwritten: [] };

/** The sheets under one another, their columns named by the table of spellings. */
function joined(
  sheets: readonly Sheet[],
  spellings: Pipeline['spellings'],
  { report, ...about }: Pick<Layer, 'id' | 'zone' | 'title'> & { report: string },
): Ran {
  const problems: Problem[] = [];
  const parts = sheets.map((each) => spelled(each, spellings, problems));
  const together = append(parts);
  const partial = partialColumns(parts.map((each) => each.columns.map((column) => column.name))).map(
    ({ name, lacks }): PartialColumn => ({
      name,
      lackedBy: lacks.flatMap((i) =>
        parts[i].rows.length > 0 ? [{ table: parts[i].rows.table(0), page: parts[i].rows.page(0) }] : [],
      ),
    }),
  );
  return {
    sheets: [together.sheet],
    titles: [],
    layer: {
      ...emptyLayer,
      ...about,
      rowsIn: together.sheet.rows.length,
      sheet: together.sheet,
      problems: at({ report, step: about.id }, [...problems, ...together.problems]),
      ...(partial.length > 0 ? { partial } : {}),
    },
  };
}

export interface CarriedWhole {
  readonly layers: readonly Layer[];
  readonly sheet: Sheet;
  readonly problems: readonly Problem[];
  /** Where a cell of a report, by its key, is in the rows of all. */
  placed(report: string, cell: NumberedCell): NumberedCell;
}

/**
 * Carries the appended reports through those steps of all reports that need the whole: the first that does not commute
 * with the append and all below it.
 * @param options.now a clock, ms
 */
export function carryWhole(
  pipeline: Pipeline,
  reports: readonly { sheet: Sheet; paper: Paper; key: string }[],
  {
    lists = noLists,
    isStale = () => false,
    now = () => 0,
  }: Pick<CarryOptions, 'lists' | 'isStale'> & { now?: () => number } = {},
): CarriedWhole {
  const byKey = new Map(reports.map((report) => [report.key, report.paper]));
  const papers: Papers = (key) => byKey.get(key)!;
  const together = append(reports.map((report) => report.sheet));
  const problems = [...together.problems];
  const layers: Layer[] = [];
  let sheets: readonly Sheet[] = [together.sheet];
  for (const step of splitAllReports(pipeline).whole) {
    if (isStale()) throw new Stale();
    const began = now();
    const ran = runStep(sheets, step, 'allReports', { papers, lists });
    sheets = ran.sheets;
    layers.push(step.off ? ran.layer : { ...ran.layer, took: now() - began });
    problems.push(...ran.layer.problems);
  }
  const books = new Map(reports.map(({ key, sheet }) => [key, sheet.rows.book]));
  return { layers, sheet: sheets[0], problems, placed: (report, cell) => together.moved(books.get(report)!, cell) };
}
