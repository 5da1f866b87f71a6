import * as v from 'valibot';
import { check, isOverDataset } from '../checks/check';
import { answer, changing } from '../drift/answers';
import { keptFile } from '../dataset/file-options';
import { savedView } from '../dataset/summary';
import { expectedReport } from '../drift/expects';
import { dismissedPicture } from '../intake/dismissed-pictures';
import { periodStamp } from '../intake/stamped-period';
import { takeRule } from '../intake/take-rule';
import { spelling } from './append';
import { builtIn, isBuiltIn } from './layers';
import { upgraded } from './upgrade';
import { needsOf } from '../steps/formula-rows';
import { commutes, kindOf, stepSchema, type Step } from '../steps/kinds';
import type { Need } from '../steps/step';
import { zones } from '../steps/step';
import { templateText } from '../values/template';
import type { Stages } from './stages';

/** A printed total that was accepted though it does not tie out: the report by its path, the row as it was taken, the column and what is printed there. */
export const acceptedTotal = v.object({
  report: v.string(),
  table: v.string(),
  row: v.number(),
  column: v.string(),
  printed: v.number(),
  why: v.string(),
});
export type AcceptedTotal = v.InferOutput<typeof acceptedTotal>;

const steps = v.optional(v.array(stepSchema), []);

/** The saved form of a pipeline: `NAME.sieve.json`. */
export const pipelineSchema = v.pipe(
  v.object({
    format: v.literal('able-sieve/pipeline'),
    version: v.literal(1),
    name: v.pipe(
      v.string(),
      v.trim(),
      v.minLength(1, 'A pipeline needs a name.'),
      v.maxLength(120, 'A pipeline name has at most 120 characters.'),
    ),
    /** How file names tell period and revision, which part of the reports may leave the dataset at once unasked (`mayGo`), what on the paper tells the period where they do not, what was answered, by content (sha256), and the periods for which there is none (`none`). */
    reports: v.optional(
      v.object({
        template: v.optional(templateText),
        stamp: v.optional(periodStamp),
        mayGo: v.optional(v.pipe(v.number(), v.minValue(0), v.maxValue(1))),
        year: v.optional(v.pipe(v.number(), v.integer())),
        answers: v.optional(v.array(v.object({ among: v.array(v.string()), counts: v.array(v.string()) }))),
        aside: v.optional(v.array(v.string())),
        pictures: v.optional(v.array(dismissedPicture)),
        none: v.optional(v.array(v.string())),
      }),
      {},
    ),
    /** Path, below the folder, of the report on which the steps are designed. */
    guide: v.optional(v.string()),
    take: v.array(takeRule),
    /** Printed totals that do not add up on paper and were accepted as they are, each known by its place there and what is printed. */
    accepted: v.optional(v.array(acceptedTotal), []),
    /** What was decided about differences between reports. */
    answers: v.optional(v.array(answer), []),
    /** What its reports looked like when it was written to a file. */
    expects: v.optional(v.array(expectedReport)),
    /** Proposed steps that are not wanted, each known by what it does. */
    dismissed: v.optional(v.array(v.string())),
    /** Summaries of the dataset, each under a name. */
    views: v.optional(v.array(savedView)),
    /** Files that are written anew after each publication. */
    files: v.optional(v.array(keptFile)),
    /** What must hold in each report. */
    checks: v.optional(v.array(check), []),
    /** Spellings of column names that become one name where tables and reports are appended. */
    spellings: v.optional(v.array(spelling), []),
    eachTable: steps,
    eachReport: steps,
    allReports: steps,
  }),
  v.check((document) => {
    const ids = zones.flatMap((zone) => document[zone].map((step) => step.id));
    return new Set(ids).size === ids.length;
  }, 'Two steps have the same id. Give each step its own.'),
  v.check(
    ({ checks }) => new Set(checks.map(({ id }) => id)).size === checks.length,
    'Two checks have the same id. Give each its own.',
  ),
  v.check(
    (document) => !zones.some((zone) => document[zone].some((step) => isBuiltIn(step.id))),
    `A step has the id of a layer that is there anyway (${Object.values(builtIn).join(', ')}). Give it another.`,
  ),
  v.rawCheck(({ dataset, addIssue }) => {
    if (!dataset.typed) return;
    const names = dataset.value.take.map(({ name }) => name);
    const twice = names.find((name, i) => names.indexOf(name) < i);
    if (twice !== undefined)
      addIssue({
        message: `Two take rules have the name “${twice}”. Give each its own: matches and rows are known by it.`,
      });
  }),
);

export interface Pipeline extends Omit<
  v.InferOutput<typeof pipelineSchema>,
  'eachTable' | 'eachReport' | 'allReports'
> {
  readonly eachTable: readonly Step[];
  readonly eachReport: readonly Step[];
  readonly allReports: readonly Step[];
}

/** The text of a document's file: lists of numbers and of short texts stand in one line each. */
export const documentText = (document: unknown): string =>
  `${JSON.stringify(document, null, 2).replace(/\[\s+((?:(?:-?[\d.e+-]+|"[^"\\\n]{0,24}"|null),?\s+)+)\]/g, (_, inside: string) => `[${inside.trim().replace(/\s*\n\s*/g, ' ')}]`)}\n`;

/** Checks a parsed document, also one of an older program. @throws v.ValiError naming the path of what is wrong */
export const parsePipeline = (document: unknown): Pipeline => v.parse(pipelineSchema, upgraded(document));

/** Every fault of a document as `where: what`, for messages. */
export const faultsOf = (error: v.ValiError<v.GenericSchema | v.GenericSchemaAsync>): string =>
  error.issues.map((issue) => [v.getDotPath(issue), issue.message].filter(Boolean).join(': ')).join('; ');

const active = (steps: readonly Step[]) => steps.filter((step) => !step.off);

/** The steps of "all reports" that may run on each report by itself: those before the first that does not commute. */
export function splitAllReports(pipeline: Pipeline): { perReport: readonly Step[]; whole: readonly Step[] } {
  const at = pipeline.allReports.findIndex((step) => !step.off && !commutes(step));
  return at < 0
    ? { perReport: pipeline.allReports, whole: [] }
    : { perReport: pipeline.allReports.slice(0, at), whole: pipeline.allReports.slice(at) };
}

/** What a report's rows depend on beside the document: its file, and the program that makes them. */
export interface ResultFacts {
  readonly sha256: string;
  readonly stages: Stages;
  readonly path: string;
  readonly period?: string | null;
}

/** Everything beside the file's own content that a report's rows depend on, as text to be hashed. */
export function resultDependsOn(pipeline: Pipeline, facts: ResultFacts): string {
  const { perReport } = splitAllReports(pipeline);
  const steps = [...active(pipeline.eachTable), ...active(pipeline.eachReport), ...active(pipeline.allReports)];
  const needs = new Set<Need>([
    ...needsOf(pipeline.checks.flatMap((each) => (each.kind === 'formula' ? [each.formula] : []))),
    ...steps.flatMap((step) => [
      ...kindOf(step).needs(step.settings),
      ...(step.pass?.some((each) => each.report) ? ['file name' as const] : []),
    ]),
  ]);
  const zonesOf = [pipeline.eachTable, pipeline.eachReport, perReport].map((zone) =>
    active(zone).map(({ id, kind, settings, pass }) => ({ id, kind, settings, pass })),
  );
  return JSON.stringify([
    Object.entries(facts.stages).sort(),
    facts.sha256,
    pipeline.take,
    pipeline.spellings,
    pipeline.checks.filter((each) => !isOverDataset(each)).map(({ severity: _, why: __, ...of }) => of),
    pipeline.accepted.filter(({ report }) => report === facts.path),
    changing(pipeline.answers, { path: facts.path, period: facts.period ?? null }).map(
      ({ rule, column, decided, other }) => [rule, column, decided, other ?? null],
    ),
    zonesOf,
    needs.has('file name') || pipeline.take.some((rule) => rule.readingIn.length > 0) ? facts.path : null,
  ]);
}
