import type { Correction } from '../../../../core/steps/correct-cells';
import type { Pipeline } from '../../../../core/pipeline/document';
import { placeOf, type StepPlace } from '../../../../core/pipeline/layers';
import * as v from 'valibot';
import { quotedName } from '../../../../core/formula/print';
import { followed, namesChanged, type Above } from '../../../../core/steps/follow-names';
import { formOf, initialSettings, type Field } from '../../../../core/steps/fields';
import { kinds, stepSchema, type Step } from '../../../../core/steps/kinds';
import { columnNames, zones, type Zone } from '../../../../core/steps/step';

/** A step with an id of its own. */
export const newStep = (kind: string, settings: Record<string, unknown>): Step => ({ id: crypto.randomUUID().slice(0, 8), kind, settings });

/** Settings in which the columns named fill what asks for columns first. */
function about(fields: readonly Field[], names: readonly string[]): Record<string, unknown> {
  for (const field of fields) {
    switch (field.widget) {
      case 'columns':
        return { [field.name]: { by: 'names', names: [...names] } };
      case 'column':
        return { [field.name]: names[0] };
      case 'conditions':
        return { [field.name]: [{ of: { is: 'column', name: names[0] }, test: 'is one of', value: '', values: [] }] };
      case 'formula':
        return { [field.name]: names.map(quotedName).join(' + ') };
      case 'pairs':
        if (field.of === columnNames) return { [field.name]: names.map((name) => ({ from: [name], to: name })) };
        break;
      case 'list':
        return { [field.name]: names.map((name) => ({ ...initialSettings(field.fields), ...about(field.fields, [name]) })) };
    }
  }
  return {};
}

/** A step of a kind as it begins: about some columns, and with every default filled in, as it is saved; what only the analyst can say may be missing yet. */
export function newStepOf(kind: string, columns: readonly string[] = [], more: Record<string, unknown> = {}): Step {
  const fields = formOf(kinds.get(kind)!);
  const settings = { ...initialSettings(fields), ...(columns.length > 0 ? about(fields, columns) : {}), ...more };
  const whole = v.safeParse(kinds.get(kind)!.settings, settings);
  return newStep(kind, whole.success ? whole.output : settings);
}

/** A step as text for the clipboard: its saved form. */
export const stepText = (step: Step): string => JSON.stringify(step, null, 2);

/** The step that a text holds, with an id of its own; undefined for any other text. */
export function stepFrom(text: string): Step | undefined {
  try {
    const result = v.safeParse(stepSchema, { ...(JSON.parse(text) as object), id: newStep('', {}).id });
    return result.success ? (result.output as unknown as Step) : undefined;
  } catch {
    return undefined;
  }
}

const withSteps = (document: Pipeline, zone: Zone, steps: readonly Step[]): Pipeline => ({ ...document, [zone]: steps });

/** The document with a step put at a place; steps from there on move down. */
export const inserted = (document: Pipeline, { zone, at }: StepPlace, step: Step): Pipeline => withSteps(document, zone, [...document[zone].slice(0, at), step, ...document[zone].slice(at)]);

/** The document with a correction by hand, in the step for them next to the one named; such a step is put there if there is none. */
export function withCorrection(document: Pipeline, correction: Correction, where: { above: string } | { below: string }): Pipeline {
  const next = placeOf(document, 'above' in where ? where.above : where.below) ?? { zone: 'eachTable' as const, at: -1 };
  const at = 'above' in where ? next.at : next.at + 1;
  const beside = [document[next.zone][at - 1], document[next.zone][at]].find((step) => step?.kind === 'correct cells');
  if (!beside) return inserted(document, { zone: next.zone, at }, newStep('correct cells', { corrections: [correction] }));
  const others = (beside.settings['corrections'] as Correction[]).filter((each) => each.report !== correction.report || each.page !== correction.page || each.word !== correction.word || each.column !== correction.column);
  return changed(document, beside.id, { settings: { corrections: [...others, correction] } });
}

export function removed(document: Pipeline, id: string): Pipeline {
  const place = placeOf(document, id);
  return place ? withSteps(document, place.zone, document[place.zone].filter((step) => step.id !== id)) : document;
}

export function changed(document: Pipeline, id: string, changes: Partial<Step>): Pipeline {
  const place = placeOf(document, id);
  if (!place) return document;
  return withSteps(
    document,
    place.zone,
    document[place.zone].map((step) => {
      if (step.id !== id) return step;
      const { off, ...rest } = { ...step, ...changes };
      return off ? { ...rest, off } : rest;
    }),
  );
}

/** The document with a step changed, and the steps below it calling the columns as they are called then. */
export function changedAndFollowed(document: Pipeline, id: string, changes: Partial<Step>, above: Above): Pipeline {
  const place = placeOf(document, id);
  const next = changed(document, id, changes);
  if (!place || above.names.length === 0) return next;
  const names = namesChanged(above, document[place.zone][place.at], next[place.zone][place.at]);
  const follows = (zone: Zone, at: number) => zones.indexOf(zone) > zones.indexOf(place.zone) || (zone === place.zone && at > place.at);
  const below = new Map(followed(zones.flatMap((zone) => next[zone].filter((_, at) => follows(zone, at))), names).map((step) => [step.id, step]));
  return zones.reduce((all, zone) => withSteps(all, zone, all[zone].map((step) => below.get(step.id) ?? step)), next);
}

/** The step moved by one place; over the end of its zone it goes into the next one. */
export function moved(document: Pipeline, id: string, by: -1 | 1): Pipeline {
  const place = placeOf(document, id);
  if (!place) return document;
  const step = document[place.zone][place.at];
  const without = removed(document, id);
  const to = place.at + by;
  if (to >= 0 && to <= without[place.zone].length) return inserted(without, { zone: place.zone, at: to }, step);
  const zone = zones[zones.indexOf(place.zone) + by];
  return zone ? inserted(without, { zone, at: by > 0 ? 0 : without[zone].length }, step) : document;
}

/** The step moved to a place, as counted before it was lifted out. */
export function movedTo(document: Pipeline, id: string, to: StepPlace): Pipeline {
  const from = placeOf(document, id);
  if (!from) return document;
  const at = from.zone === to.zone && from.at < to.at ? to.at - 1 : to.at;
  return inserted(removed(document, id), { zone: to.zone, at }, document[from.zone][from.at]);
}
