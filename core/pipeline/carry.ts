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

/**
 * Carries one report through the pipeline: take, the steps of each table, append, the steps of each report, and those
 * steps of all reports that commute with the append.
 * @param until id of the step after which to stop, for a look at the sheet there; all steps if left out
 */
export function carryReport(pipeline: Pipeline, input: ReportRead, until?: string): CarriedReport {
  const { taken, problems: notTaken } = takeTables(pipeline.take, input);
  const matches = taken.map(({ match }) => match);
  const paper = paperOf({ ...input, tables: [...input.tables, ...taken.flatMap((each) => ('table' in each ? [each.table] : []))] });
  const papers: Papers = () => paper;
  const problems: Problem[] = [...notTaken];
  let sheets = taken.map((each) => {
    const read = takenSheet(each, input.key, paper.origins);
    problems.push(...read.problems);
    return read.sheet;
  });
  const rowsTaken = sheets.reduce((sum, sheet) => sum + sheet.rows.length, 0);
  const layers: Layer[] = [
    { id: 'taken', zone: 'eachTable', title: 'Taken', rowsIn: rowsTaken, sheet: sheets.length > 0 ? append(sheets).sheet : emptySheet, held: noHeld, leftOut: [], overwritten: [], problems: [...problems] },
  ];
  const done = () => ({ matches, layers, sheet: numbered(layers.at(-1)!.sheet), problems, paper });
  if (until === 'taken' || matches.length === 0) return done();

  const runAll = (steps: readonly Step[], zone: Zone): boolean => {
    for (const step of steps) {
      const ran = runStep(sheets, step, zone, papers);
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
