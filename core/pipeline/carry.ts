import { takenSheet } from '../intake/table-sheet';
import { takeTables, type ReportRead, type TakeMatch } from '../intake/take';
import { at, type Problem } from '../sheet/problem';
import type { Column, Sheet } from '../sheet/sheet';
import { kindOf, titleOf, type Step } from '../steps/kinds';
import type { HeldRows, Overwritten, Paper, Papers, StepResult, Zone } from '../steps/step';
import { append } from './append';
import { splitAllReports, type Pipeline } from './document';
import { paperOf } from './paper';

/** What left one step: the sheet below it, what it held, left out or overwrote, and its problems. */
export interface Layer {
  /** Id of the step, or `taken` for the tables as they were taken. */
  readonly id: string;
  readonly zone: Zone;
  readonly title: string;
  readonly rowsIn: number;
  readonly sheet: Sheet;
  readonly held: HeldRows;
  readonly leftOut: readonly Column[];
  readonly overwritten: readonly Overwritten[];
  readonly problems: readonly Problem[];
}

export interface CarriedReport {
  readonly matches: readonly TakeMatch[];
  readonly layers: readonly Layer[];
  /** The rows as they enter the dataset, their marks numbered by place. */
  readonly sheet: Sheet;
  readonly problems: readonly Problem[];
  readonly paper: Paper;
}

const emptySheet: Sheet = { columns: [], rows: [] };

/** Runs one step on the sheets of its zone (each table apart, or one sheet) and closes the layer over all of them. */
function runStep(sheets: readonly Sheet[], step: Step, zone: Zone, papers: Papers): { sheets: Sheet[]; layer: Layer } {
  const kind = kindOf(step);
  const title = titleOf(step);
  const results: StepResult[] = step.off ? sheets.map((sheet) => ({ sheet })) : sheets.map((sheet) => kind.run(sheet, step.settings, papers));
  const passed = results.map((result) => result.sheet);
  const heldParts = results.flatMap((result) => (result.held ? [result.held] : []));
  const together = append(passed);
  let below = 0;
  return {
    sheets: passed,
    layer: {
      id: step.id,
      zone,
      title,
      rowsIn: sheets.reduce((sum, sheet) => sum + sheet.rows.length, 0),
      sheet: together.sheet,
      held: mergedHeld(heldParts),
      leftOut: results.flatMap((result) => result.leftOut ?? []),
      overwritten: results.flatMap((result) => {
        const start = below;
        below += result.sheet.rows.length;
        return (result.overwritten ?? []).map((each) => ({ ...each, rows: each.rows.map((row) => row + start) }));
      }),
      problems: results.flatMap((result, i) => at({ step: title, ...(sheets[i].rows[0] ? { report: sheets[i].rows[0].report } : {}) }, result.problems ?? [])),
    },
  };
}

const noHeld: HeldRows = { rows: emptySheet, reasons: [] };

function mergedHeld(parts: readonly HeldRows[]): HeldRows {
  if (parts.length === 0) return noHeld;
  const kept = parts.find((part) => part.kept)?.kept;
  return { rows: append(parts.map((part) => part.rows)).sheet, reasons: parts.flatMap((part) => part.reasons), ...(kept ? { kept } : {}) };
}

const numbered = (of: Sheet): Sheet => ({ ...of, rows: of.rows.map((row, i) => ({ ...row, ordinals: [i] })) });

/** What came of a report's steps before, by the steps up to each: a change in one of them reruns from there. */
export class CarryCache {
  private generation = 0;
  private taken: { key: string; value: ReturnType<typeof takenFrom> } | undefined;
  private readonly steps = new Map<string, { value: { sheets: Sheet[]; layer: Layer }; used: number }>();

  /** What was taken, by everything that it depends on; with other takings all steps below are forgotten. */
  take(key: string, make: () => ReturnType<typeof takenFrom>): ReturnType<typeof takenFrom> {
    this.generation++;
    if (this.taken?.key !== key) {
      this.steps.clear();
      this.taken = { key, value: make() };
    }
    return this.taken.value;
  }

  step(key: string, make: () => { sheets: Sheet[]; layer: Layer }): { sheets: Sheet[]; layer: Layer } {
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

/** What the take rules take of a report, as sheets, and its paper, on which all origins stand. */
function takenFrom(pipeline: Pipeline, input: ReportRead) {
  const { taken, problems } = takeTables(pipeline.take, input);
  const paper = paperOf({ ...input, tables: [...input.tables, ...taken.flatMap((each) => ('table' in each ? [each.table] : []))] });
  const read = taken.map((each) => takenSheet(each, input.key, paper.origins));
  return { matches: taken.map(({ match }) => match), paper, sheets: read.map(({ sheet: own }) => own), problems: [...problems, ...read.flatMap((each) => each.problems)] };
}

/**
 * Carries one report through the pipeline: take, the steps of each table, append, the steps of each report, and those
 * steps of all reports that commute with the append.
 * @param until id of the step after which to stop, for a look at the sheet there; all steps if left out
 * @param cache what came of the same report before
 */
export function carryReport(pipeline: Pipeline, input: ReportRead, until?: string, cache = new CarryCache()): CarriedReport {
  let prefix = JSON.stringify([input.key, input.fileName, pipeline.take]);
  const { matches, paper, sheets: taken, problems: notTaken } = cache.take(prefix, () => takenFrom(pipeline, input));
  const papers: Papers = () => paper;
  const problems: Problem[] = [...notTaken];
  let sheets: readonly Sheet[] = taken;
  const rowsTaken = sheets.reduce((sum, sheet) => sum + sheet.rows.length, 0);
  const layers: Layer[] = [
    { id: 'taken', zone: 'eachTable', title: 'Taken', rowsIn: rowsTaken, sheet: sheets.length > 0 ? append(sheets).sheet : emptySheet, held: noHeld, leftOut: [], overwritten: [], problems: [...problems] },
  ];
  const done = () => {
    cache.end();
    return { matches, layers, sheet: numbered(layers.at(-1)!.sheet), problems, paper };
  };
  if (until === 'taken' || matches.length === 0) return done();

  const runAll = (steps: readonly Step[], zone: Zone): boolean => {
    for (const step of steps) {
      const { id, kind, settings, off } = step;
      prefix += `\n${zone} ${JSON.stringify([id, kind, titleOf(step), off ?? false, settings])}`;
      const above = sheets;
      const ran = cache.step(prefix, () => runStep(above, step, zone, papers));
      sheets = ran.sheets;
      layers.push(ran.layer);
      problems.push(...ran.layer.problems);
      if (step.id === until) return true;
    }
    return false;
  };
  if (runAll(pipeline.eachTable, 'eachTable')) return done();
  const together = append(sheets);
  problems.push(...at({ report: input.key }, together.problems));
  sheets = [together.sheet];
  if (runAll(pipeline.eachReport, 'eachReport')) return done();
  runAll(splitAllReports(pipeline).perReport, 'allReports');
  return done();
}

/**
 * Carries the appended reports through those steps of all reports that need the whole: the first that does not commute
 * with the append and all below it.
 */
export function carryWhole(pipeline: Pipeline, reports: readonly { sheet: Sheet; paper: Paper; key: string }[]): { layers: Layer[]; sheet: Sheet; problems: Problem[] } {
  const byKey = new Map(reports.map((report) => [report.key, report.paper]));
  const papers: Papers = (key) => byKey.get(key)!;
  const together = append(reports.map((report) => report.sheet));
  const problems = [...together.problems];
  const layers: Layer[] = [];
  let sheets = [together.sheet];
  for (const step of splitAllReports(pipeline).whole) {
    const ran = runStep(sheets, step, 'allReports', papers);
    sheets = ran.sheets;
    layers.push(ran.layer);
    problems.push(...ran.layer.problems);
  }
  return { layers, sheet: sheets[0], problems };
}
