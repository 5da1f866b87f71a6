/** A rectangle on the upright page: [left, top, right, bottom] in points, origin top left, y downwards. */
export type Box = readonly [left: number, top: number, right: number, bottom: number];

export const width = (b: Box) => b[2] - b[0];
export const height = (b: Box) => b[3] - b[1];
export const middleX = (b: Box) => (b[0] + b[2]) / 2;
export const middleY = (b: Box) => (b[1] + b[3]) / 2;

/** Length of the stretch that two intervals share; negative: the gap between them. */
export const overlap = (a0: number, a1: number, b0: number, b1: number) => Math.min(a1, b1) - Math.max(a0, b0);
export const overlapX = (a: Box, b: Box) => overlap(a[0], a[2], b[0], b[2]);
export const overlapY = (a: Box, b: Box) => overlap(a[1], a[3], b[1], b[3]);

export const extend = (a: Box, b: Box): Box => [
  Math.min(a[0], b[0]),
  Math.min(a[1], b[1]),
  Math.max(a[2], b[2]),
  Math.max(a[3], b[3]),
];

/** The smallest box around all given ones; undefined for none. */
export const around = (boxes: Iterable<Box>): Box | undefined => {
  let all: Box | undefined;
  for (const box of boxes) all = all ? extend(all, box) : box;
  return all;
};

export const grow = (b: Box, by: number): Box => [b[0] - by, b[1] - by, b[2] + by, b[3] + by];

/** Does the centre of `inner` lie in `outer`? */
export const holdsCentre = (outer: Box, inner: Box) =>
  middleX(inner) >= outer[0] && middleX(inner) <= outer[2] && middleY(inner) >= outer[1] && middleY(inner) <= outer[3];

export const overlaps = (a: Box, b: Box) => overlapX(a, b) > 0 && overlapY(a, b) > 0;
