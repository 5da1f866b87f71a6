import * as v from 'valibot';
import * as all from './all';
import { exception, type Exception } from './let-pass';
import type { StepKind } from './step';

type All = (typeof all)[keyof typeof all];
export type Kind = All['kind'];

/** The declarations by kind, as found in `all.ts`. */
export const kinds: ReadonlyMap<string, StepKind> = new Map(
  Object.values(all).map((declaration) => [declaration.kind, declaration as unknown as StepKind]),
);

const entriesOf = (declaration: StepKind) =>
  v.object({
    /** Stays the same when the step moves or its settings change. */
    id: v.pipe(v.string(), v.regex(/^[\w-]{1,40}$/, 'A step id has 1 to 40 letters, digits, - or _.')),
    kind: v.literal(declaration.kind),
    /** Switched off: the rows fall through untouched. */
    off: v.optional(v.boolean()),
    name: v.optional(v.string()),
    note: v.optional(v.string()),
    /** Rows that pass though the step would hold them. */
    pass: v.optional(v.array(exception)),
    settings: declaration.settings,
  });

/** A saved step of any kind. */
export const stepSchema = v.variant('kind', [...kinds.values()].map(entriesOf) as [ReturnType<typeof entriesOf>]);
export interface Step {
  readonly id: string;
  readonly kind: string;
  readonly off?: boolean;
  readonly name?: string;
  readonly note?: string;
  readonly pass?: readonly Exception[];
  readonly settings: Record<string, unknown>;
}

/** The declaration of a step; the schema has made sure that there is one. */
export function kindOf(step: Step): StepKind {
  const declaration = kinds.get(step.kind);
  if (!declaration) throw new Error(`There is no step kind “${step.kind}”.`);
  return declaration;
}

/** Whether the step gives the same on each report and on all of them appended. */
export function commutes(step: Step): boolean {
  const { commutesWithAppend } = kindOf(step);
  return typeof commutesWithAppend === 'function' ? commutesWithAppend(step.settings) : commutesWithAppend;
}

/** What the step is called: its own name, or the title of its kind. */
export const titleOf = (step: Step): string => step.name || kindOf(step).title;
