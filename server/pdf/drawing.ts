import { around, height, width, type Box } from '../../core/page/box';
import type { Fill, Picture, Rule } from '../../core/page/page';
import { pdfjs } from './parser';

const { OPS } = pdfjs;
type Matrix = [number, number, number, number, number, number];
type Point = [number, number];

const strokes = new Set([
  OPS.stroke,
  OPS.closeStroke,
  OPS.fillStroke,
  OPS.eoFillStroke,
  OPS.closeFillStroke,
  OPS.closeEOFillStroke,
]);
const fills = new Set([
  OPS.fill,
  OPS.eoFill,
  OPS.fillStroke,
  OPS.eoFillStroke,
  OPS.closeFillStroke,
  OPS.closeEOFillStroke,
]);
const closing = new Set([OPS.closeStroke, OPS.closeFillStroke, OPS.closeEOFillStroke]);

/** Codes inside the parser's path stream, with how many numbers follow each. */
const path = { moveTo: 0, close: 4 } as const;
const numbersAfter = [2, 2, 6, 4, 0];

/** A filled bar thinner than this many points is a drawn rule. */
const thinnest = 3;
const straight = 0.5;

interface Outline {
  points: Point[];
  closed: boolean;
  curved: boolean;
}

function outlinesOf(stream: ArrayLike<number>, m: Matrix): Outline[] {
  const outlines: Outline[] = [];
  let open: Outline | undefined;
  for (let i = 0; i < stream.length;) {
    const code = stream[i++];
    const count = numbersAfter[code] ?? 0;
    if (code === path.close) {
      if (open) open.closed = true;
      continue;
    }
    const x = stream[i + count - 2];
    const y = stream[i + count - 1];
    i += count;
    const point: Point = [m[0] * x + m[2] * y + m[4], m[1] * x + m[3] * y + m[5]];
    if (code === path.moveTo) outlines.push((open = { points: [point], closed: false, curved: false }));
    else if (open) {
      open.points.push(point);
      if (count > 2) open.curved = true;
    }
  }
  return outlines;
}

const boxOf = (points: readonly Point[]): Box => around(points.map(([x, y]): Box => [x, y, x, y]))!;

const isRectangle = ({ points }: Outline, b: Box) =>
  points.length >= 4 &&
  points.length <= 5 &&
  points.every(
    ([x, y]) =>
      Math.min(Math.abs(x - b[0]), Math.abs(x - b[2])) < straight &&
      Math.min(Math.abs(y - b[1]), Math.abs(y - b[3])) < straight,
  );

/** Collects the straight marks of a page: strokes and thin fills become rules, other filled rectangles shading. */
export class Drawing {
  lineWidth = 1;
  strokeColour = '#000000';
  fillColour = '#000000';
  /** What is drawn shows only in here; the whole page to begin with. */
  clip: Box;
  private clipNext = false;
  private readonly rules: Rule[] = [];
  private readonly fills: Fill[] = [];
  private readonly pictures: Picture[] = [];

  constructor(pageWidth: number, pageHeight: number) {
    this.clip = [0, 0, pageWidth, pageHeight];
  }

  state() {
    const { lineWidth, strokeColour, fillColour, clip } = this;
    return { lineWidth, strokeColour, fillColour, clip };
  }

  restore(state: ReturnType<Drawing['state']>) {
    Object.assign(this, state);
  }

  picture(m: Matrix) {
    const corners: Point[] = [
      [0, 0],
      [1, 0],
      [0, 1],
      [1, 1],
    ];
    const box = this.clipped(
      boxOf(corners.map(([x, y]): Point => [m[0] * x + m[2] * y + m[4], m[1] * x + m[3] * y + m[5]])),
    );
    if (box) this.pictures.push({ box });
  }

  /** The next path clips what is drawn after it. */
  clipByNextPath() {
    this.clipNext = true;
  }

  path(paint: number, stream: ArrayLike<number> | null | undefined, m: Matrix) {
    if (!stream) return;
    const outlines = outlinesOf(stream, m);
    if (paint !== OPS.endPath) this.painted(paint, outlines, m);
    if (!this.clipNext) return;
    this.clipNext = false;
    const box = boxOf(outlines.flatMap(({ points }) => points));
    if (box) this.clip = this.clipped(box) ?? [0, 0, 0, 0];
  }

  /** The part of a box that shows; undefined where none does. */
  private clipped(box: Box): Box | undefined {
    const [x0, y0, x1, y1] = [
      Math.max(box[0], this.clip[0]),
      Math.max(box[1], this.clip[1]),
      Math.min(box[2], this.clip[2]),
      Math.min(box[3], this.clip[3]),
    ];
    return x0 <= x1 && y0 <= y1 ? [x0, y0, x1, y1] : undefined;
  }

  private painted(paint: number, outlines: readonly Outline[], m: Matrix) {
    for (const outline of outlines) {
      if (outline.curved) continue;
      const box = boxOf(outline.points);
      if (fills.has(paint)) this.filled(outline, box);
      if (strokes.has(paint)) this.stroked(outline, closing.has(paint), m);
    }
  }

  private filled(outline: Outline, whole: Box) {
    if (!isRectangle(outline, whole)) return;
    if (/^#f{6}$/i.test(this.fillColour)) return;
    const box = this.clipped(whole);
    if (!box) return;
    if (height(box) <= thinnest && width(box) > thinnest)
      this.across(box[0], box[2], (box[1] + box[3]) / 2, height(box));
    else if (width(box) <= thinnest && height(box) > thinnest)
      this.down(box[1], box[3], (box[0] + box[2]) / 2, width(box));
    else if (width(box) > thinnest) this.fills.push({ box, colour: this.fillColour });
  }

  private stroked(outline: Outline, closed: boolean, m: Matrix) {
    if (/^#f{6}$/i.test(this.strokeColour)) return;
    const thickness = Math.max(this.lineWidth * Math.sqrt(Math.abs(m[0] * m[3] - m[1] * m[2])), 0.1);
    const points = closed || outline.closed ? [...outline.points, outline.points[0]] : outline.points;
    for (let i = 1; i < points.length; i++) {
      const [x0, y0] = points[i - 1];
      const [x1, y1] = points[i];
      if (Math.abs(y0 - y1) < straight) this.across(Math.min(x0, x1), Math.max(x0, x1), (y0 + y1) / 2, thickness);
      else if (Math.abs(x0 - x1) < straight) this.down(Math.min(y0, y1), Math.max(y0, y1), (x0 + x1) / 2, thickness);
    }
  }

  private across(from: number, to: number, at: number, thickness: number) {
    const box = this.clipped([from, at, to, at]);
    if (box && width(box) > straight) this.rules.push({ direction: 'across', at, from: box[0], to: box[2], thickness });
  }

  private down(from: number, to: number, at: number, thickness: number) {
    const box = this.clipped([at, from, at, to]);
    if (box && height(box) > straight) this.rules.push({ direction: 'down', at, from: box[1], to: box[3], thickness });
  }

  marks() {
    return { rules: this.rules, fills: this.fills, pictures: this.pictures };
  }
}
