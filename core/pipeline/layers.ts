import type { Step } from '../steps/kinds';
import { zones, type Zone } from '../steps/step';

/** The layers that are no steps: what was taken, and the two appends between the zones. */
export const builtIn = { taken: 'taken', joined: 'joined', appended: 'appended' } as const;
export type BuiltIn = (typeof builtIn)[keyof typeof builtIn];

export const builtInTitles: Readonly<Record<BuiltIn, string>> = {
  taken: 'Taken',
  joined: 'Tables appended',
  appended: 'Report appended',
};

export const isBuiltIn = (id: string): id is BuiltIn => Object.values<string>(builtIn).includes(id);

export type StepLists = Readonly<Record<Zone, readonly Step[]>>;

/** Where a step stands. */
export interface StepPlace {
  readonly zone: Zone;
  readonly at: number;
}

const idsOf = (steps: StepLists, zone: Zone) => steps[zone].map(({ id }) => id);

/** The ids of all layers from top to bottom: what was taken, the steps, and the appends between the zones. */
export const layerOrder = (steps: StepLists): string[] => [
  builtIn.taken,
  ...idsOf(steps, 'eachTable'),
  builtIn.joined,
  ...idsOf(steps, 'eachReport'),
  builtIn.appended,
  ...idsOf(steps, 'allReports'),
];

/** The layer above one; what was taken has none above it and stands for itself. */
export function layerAbove(steps: StepLists, id: string): string {
  const order = layerOrder(steps);
  return order[Math.max(0, order.indexOf(id) - 1)];
}

/** The step that a layer is, or the last step above an append; what was taken where there is none. */
export function stepAtOrAbove(steps: StepLists, id: string): string {
  const order = layerOrder(steps);
  return (
    order.slice(0, order.indexOf(id) + 1).findLast((each) => each === builtIn.taken || !isBuiltIn(each)) ??
    builtIn.taken
  );
}

/** The place of a step; undefined where no step has this id. */
export function placeOf(steps: StepLists, id: string | undefined): StepPlace | undefined {
  for (const zone of zones) {
    const at = steps[zone].findIndex((step) => step.id === id);
    if (at >= 0) return { zone, at };
  }
  return undefined;
}

/** Where a new step goes that is added at a layer: right below it. */
export function placeBelow(steps: StepLists, layer: string): StepPlace {
  if (layer === builtIn.joined) return { zone: 'eachReport', at: 0 };
  if (layer === builtIn.appended) return { zone: 'allReports', at: 0 };
  const place = placeOf(steps, layer);
  return place ? { zone: place.zone, at: place.at + 1 } : { zone: 'eachTable', at: 0 };
}
