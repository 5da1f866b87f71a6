import * as v from 'valibot';

/** What may be different about a report. */
export const differenceKinds = [
  'new column',
  'missing column',
  'swapped',
  'other contents',
  'other size',
  'other unit',
  'other scale',
  'other marks',
  'order',
  'heading rows',
  'tables',
  'rows',
  'sum',
  'blanks',
  'misfits',
] as const;
export type DifferenceKind = (typeof differenceKinds)[number];

/** What the analyst decides about a difference. */
export const decisions = ['same as', 'as it is', 'leave out', 'swap back', 'hold back'] as const;
export type Decision = (typeof decisions)[number];

const some = v.pipe(v.string(), v.minLength(1));

/** What was decided about a difference, and for which reports: those named by path, and those of a period from one on. */
export const answer = v.pipe(
  v.object({
    what: v.picklist(differenceKinds),
    /** The take rule; "" where it is about a column of the dataset. */
    rule: v.optional(v.string(), ''),
    /** The column as printed; "" where the difference is of the whole table. */
    column: v.optional(v.string(), ''),
    decided: v.picklist(decisions),
    /** The column that it is the same as, or that it is swapped with. */
    other: v.optional(some),
    /** Paths of the reports in which the difference was found when it was answered. */
    reports: v.optional(v.array(some), []),
    /** From this period on, also in reports that are yet to come; without one and without `only`: in all to come. */
    from: v.optional(some),
    /** In the reports named and in no others. */
    only: v.optional(v.boolean(), false),
    why: v.optional(v.string()),
  }),
  v.check(
    ({ decided, other }) => other !== undefined || (decided !== 'same as' && decided !== 'swap back'),
    'Say which column it is the same as, or is swapped with.',
  ),
);
export type Answer = v.InferOutput<typeof answer>;

/** A report as far as answers go. */
export interface Answered {
  readonly path: string;
  /** ISO text; null: none is known. */
  readonly period: string | null;
}

/** Does an answer speak for this report? */
export const covers = (
  { reports, from, only }: Pick<Answer, 'reports' | 'from' | 'only'>,
  { path, period }: Answered,
): boolean => reports.includes(path) || (!only && (from === undefined || (period !== null && period >= from)));

/** The answers that change what is made of a report. */
export const changing = (answers: readonly Answer[], report: Answered): Answer[] =>
  answers.filter((each) => ['same as', 'leave out', 'swap back'].includes(each.decided) && covers(each, report));

/** What becomes of a column of a report's table by the answers that speak for it: another name, or nothing where it is left out. */
export function answeredName(answers: readonly Answer[], rule: string, name: string): string | undefined {
  for (const { rule: own, decided, column, other } of answers) {
    if (own !== rule) continue;
    if (decided === 'leave out' && column === name) return undefined;
    if (decided === 'same as' && column === name) return other;
    if (decided === 'swap back' && column === name) return other;
    if (decided === 'swap back' && other === name) return column;
  }
  return name;
}
