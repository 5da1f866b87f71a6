import * as v from 'valibot';
import type { ListSource } from '../sheet/list';
import { kinds, type Step } from '../steps/kinds';
import { lookUp } from '../steps/all';
import { zones } from '../steps/step';
import type { Pipeline } from './document';

type LookUpSettings = v.InferOutput<typeof lookUp.settings>;

/** A step that looks values up, and where. */
export interface LookUpStep {
  readonly step: string;
  readonly from: ListSource;
  /** The columns of the list that it needs. */
  readonly columns: readonly string[];
}

const looksUp = (step: Step) => !step.off && step.kind === lookUp.kind;

/** The steps of a document that look values up. */
export const lookUpSteps = (document: Pick<Pipeline, (typeof zones)[number]>): LookUpStep[] =>
  zones.flatMap((zone) =>
    document[zone].filter(looksUp).map((step) => {
      const { from, keys, columns } = v.parse(kinds.get(step.kind)!.settings, step.settings) as LookUpSettings;
      return {
        step: step.id,
        from,
        columns: [...new Set([...keys.map(({ of }) => of), ...columns.map(({ name }) => name)])],
      };
    }),
  );

/** The document with the version of the list that each of its steps is to look into; a step without one finds no list. */
export function withLists(document: Pipeline, versions: ReadonlyMap<string, string>): Pipeline {
  const bound = (step: Step): Step =>
    looksUp(step) ? { ...step, settings: { ...step.settings, version: versions.get(step.id) ?? '' } } : step;
  return {
    ...document,
    ...Object.fromEntries(
      zones.map((zone) => [zone, document[zone].some(looksUp) ? document[zone].map(bound) : document[zone]]),
    ),
  };
}
