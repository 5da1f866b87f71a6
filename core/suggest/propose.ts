// Steps proposed from what is printed in all reports: detectors one after the other, each on what those before leave.
import * as v from 'valibot';
import type { ReportRead } from '../intake/take';
import { CarryCache, carryReport, type CarriedReport } from '../pipeline/carry';
import type { Pipeline } from '../pipeline/document';
import { isError } from '../values/cell';
import type { Lists } from '../sheet/list';
import { kinds, kindOf, titleOf, type Step } from '../steps/kinds';
import type { Zone } from '../steps/step';
import type { LocaleName } from '../values/locale';
import { blankRows } from './blank-rows';
import { blocksAside } from './blocks-aside';
import { columnTypes } from './column-types';
import { continuedLines } from './continued-lines';
import { datesInParts } from './dates-in-parts';
import { fileNameParts } from './file-name-parts';
import { footnoteMarks } from './footnote-marks';
import { headerRows } from './header-rows';
import { labelledValues } from './labelled-values';
import { linesAsRecords } from './lines-as-records';
import { localeOf } from './locale-of';
import { noiseRows } from './noise-rows';
import { linesOutside, pageHeadings } from './page-headings';
import { periodsAcross } from './periods-across';
import { printedTotals } from './printed-totals';
import { respelledNames } from './respelled-names';
import { restRows } from './rest-rows';
import { rowTotals } from './row-totals';
import { sectionRows } from './section-rows';
import { sectionTotals } from './section-totals';
import { reportSheet } from './sheets-seen';
import type { Detector, SeenReport, Suggestion } from './suggestion';
import { tablesAside } from './tables-aside';
import { summaryRows } from './summary-rows';
import { tableTitles } from './table-titles';
import { tornColumns } from './torn-columns';
import { valuesBelow } from './values-below';

/** In the order in which their steps stand. */
const detectors: readonly Detector[] = [
  blankRows,
  noiseRows,
  linesAsRecords,
  headerRows,
  tornColumns,
  blocksAside,
  tablesAside,
  respelledNames,
  continuedLines,
  footnoteMarks,
  sectionRows,
  sectionTotals,
  printedTotals,
  summaryRows,
  restRows,
  valuesBelow,
  rowTotals,
  periodsAcross,
  pageHeadings,
  labelledValues,
  tableTitles,
  fileNameParts,
  datesInParts,
  columnTypes,
];

/** What a step does to the reports looked at. */
export interface Effect {
  readonly rowsIn: number;
  readonly rowsOut: number;
  readonly held: number;
  readonly overwritten: number;
  readonly columnsAdded: readonly string[];
  readonly columnsLeft: number;
  /** Cells that do not fit their type. */
  readonly misfits: number;
  /** Reports that it changes, and those in which it cannot be done. */
  readonly reports: number;
  readonly failing: readonly string[];
}

/** A step proposed without being asked for. */
export interface Proposal {
  /** The same for the same step: what was dismissed is known by it. */
  readonly id: string;
  readonly zone: Zone;
  readonly step: Step;
  readonly title: string;
  /** The step in one line. */
  readonly says: string;
  readonly reason: string;
  readonly effect: Effect;
}

interface ProposeOptions {
  readonly lists?: Lists | undefined;
  /** Ids of proposals that are not wanted: those below them are worked out without. */
  readonly dismissed?: readonly string[];
  readonly isStale?: () => boolean;
}

/**
 * The steps that fit what the reports print, below those that there are; taken all together they stand in this order.
 * Once they are taken nothing is proposed any more.
 */
export function proposeSteps(
  pipeline: Pipeline,
  reads: readonly ReportRead[],
  { lists, dismissed = [], isStale = () => false }: ProposeOptions = {},
): Proposal[] {
  const caches = reads.map(() => new CarryCache());
  const carry = (of: Pipeline): readonly CarriedReport[] =>
    reads.map((read, i) => carryReport(of, read, { cache: caches[i], lists, isStale }));
  let now = pipeline;
  let carried = carry(now);
  const proposals: Proposal[] = [];
  let beside: string[] | undefined;
  const textsBeside = (reports: readonly SeenReport[]) =>
    (beside ??= reports.flatMap((report) => linesOutside(report, 'taken tables').map(({ text }) => text)));
  for (const detect of detectors) {
    const reports = seenIn(reads, carried);
    // Each time anew: what is stamped on the rows tells more of it.
    let printedAs: LocaleName | undefined;
    const seen = {
      pipeline: now,
      reports,
      locale: () => (printedAs ??= localeOf(reports.map(reportSheet), textsBeside(reports))),
    };
    for (const suggestion of detect(seen)) {
      const step = stepOf(now, suggestion);
      const id = idOf(step, suggestion.zone);
      if (dismissed.includes(id) || isThere(now, step)) continue;
      const next: Pipeline = { ...now, [suggestion.zone]: [...now[suggestion.zone], step] };
      const after = carry(next);
      const effect = effectOf(step, reads, after);
      // It helps nobody, or fewer than it fails.
      if (effect.reports === 0 || effect.failing.length >= effect.reports) continue;
      proposals.push({
        id,
        zone: suggestion.zone,
        step,
        title: titleOf(step),
        says: kindOf(step).describe(step.settings),
        reason: suggestion.reason,
        effect,
      });
      [now, carried] = [next, after];
    }
  }
  return proposals;
}

/** Reports of which something was taken. */
const seenIn = (reads: readonly ReportRead[], carried: readonly CarriedReport[]): SeenReport[] =>
  reads.flatMap((read, i) => (carried[i].layers[0].sheet.rows.length > 0 ? [{ read, carried: carried[i] }] : []));

function stepOf(pipeline: Pipeline, { kind, settings, name }: Suggestion): Step {
  const taken = new Set([...pipeline.eachTable, ...pipeline.eachReport, ...pipeline.allReports].map(({ id }) => id));
  const wanted = kind.replace(/\s+/g, '-');
  let id = wanted;
  for (let n = 2; taken.has(id); n++) id = `${wanted}-${n}`;
  return {
    id,
    kind,
    ...(name === undefined ? {} : { name }),
    settings: v.parse(kinds.get(kind)!.settings, settings),
  };
}

const idOf = ({ kind, settings }: Step, zone: Zone): string => JSON.stringify([zone, kind, settings]);

/** Does a step of the same kind say the same already? */
const isThere = ({ eachTable, eachReport, allReports }: Pipeline, { kind, settings }: Step): boolean =>
  [...eachTable, ...eachReport, ...allReports].some(
    (step) => step.kind === kind && JSON.stringify(step.settings) === JSON.stringify(settings),
  );

/** What a step did in the reports, told by its layers. */
function effectOf(step: Step, reads: readonly ReportRead[], after: readonly CarriedReport[]): Effect {
  const total = { rowsIn: 0, rowsOut: 0, held: 0, overwritten: 0, columnsLeft: 0, misfits: 0, reports: 0 };
  const added = new Set<string>();
  const failing: string[] = [];
  after.forEach((report, i) => {
    const at = report.layers.findIndex(({ id }) => id === step.id);
    if (at < 0) return;
    const layer = report.layers[at];
    const above = report.layers[at - 1].sheet;
    const names = new Set(above.columns.map(({ name }) => name));
    const types = new Map(above.columns.map(({ name, type }) => [name, type]));
    const made = layer.sheet.columns.filter(({ name }) => !names.has(name)).map(({ name }) => name);
    const typed = layer.sheet.columns.some(({ name, type }) => types.has(name) && types.get(name) !== type);
    const overwritten = layer.overwritten.reduce((sum, { rows }) => sum + rows.length, 0);
    const shaped = layer.sheet.rows.length !== layer.rowsIn || layer.sheet.columns.length !== above.columns.length;
    const changed =
      layer.held.rows.rows.length + overwritten + made.length + layer.leftOut.columns.length > 0 || typed || shaped;
    for (const name of made) added.add(name);
    total.rowsIn += layer.rowsIn;
    total.rowsOut += layer.sheet.rows.length;
    total.held += layer.held.rows.rows.length;
    total.overwritten += overwritten;
    total.columnsLeft += layer.leftOut.columns.length;
    total.misfits += typed
      ? layer.sheet.columns.reduce(
          (sum, { cells }) => sum + cells.reduce<number>((count, cell) => count + Number(isError(cell)), 0),
          0,
        )
      : 0;
    if (changed) total.reports++;
    // A printed total that is off is no fault of the step.
    if (layer.problems.some(({ kind }) => kind === 'step')) failing.push(reads[i].path);
  });
  return { ...total, columnsAdded: [...added], failing };
}
