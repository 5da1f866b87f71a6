import { middleX, middleY, type Box } from '../page/box';
import type { PageContent } from '../page/page';

export interface Anchor {
  readonly text: string;
  readonly box: Box;
}

/** How a drawing is laid on another page: made larger by `scale`, then moved. */
export interface Fit {
  readonly scale: number;
  readonly dx: number;
  readonly dy: number;
  /** Share of the anchors found in their places, 0 to 1. */
  readonly sure: number;
  readonly missing: readonly string[];
}

export const onPage = (fit: Fit) => ({
  x: (x: number) => fit.scale * x + fit.dx,
  y: (y: number) => fit.scale * y + fit.dy,
});

const normal = (text: string) => text.normalize('NFKC').toLowerCase();

/** An anchor stands in its place when it is this near, in font sizes. */
const near = 0.6;

/**
 * Finds how anchors lie on a page: the scale and move under which most of them meet a word of the same text. Every two
 * anchors propose one (as in the consensus methods of computer vision: Fischler and Bolles, 1981); a single anchor
 * proposes a move, scaled by the height of its type.
 * @param among the words in which to look
 * @returns undefined when no anchor is there
 */
export function fitOf(anchors: readonly Anchor[], page: PageContent, among: readonly number[]): Fit | undefined {
  const candidates = anchors.map(({ text }) =>
    among.filter((w) => normal(page.words[w].text) === normal(text)).map((w) => page.words[w]),
  );
  const centre = ({ box }: { box: Box }) => [middleX(box), middleY(box)] as const;
  const heightOf = ({ box }: { box: Box }) => box[3] - box[1];
  const judged = (scale: number, dx: number, dy: number): Fit => {
    const missing = anchors.filter((anchor, i) => {
      const [x, y] = centre(anchor);
      return !candidates[i].some((word) => {
        const [atX, atY] = centre(word);
        const reach = near * Math.max(word.fontSize, 4);
        return Math.abs(scale * x + dx - atX) < reach && Math.abs(scale * y + dy - atY) < 2 * reach;
      });
    });
    return { scale, dx, dy, sure: 1 - missing.length / anchors.length, missing: missing.map((anchor) => anchor.text) };
  };
  let best: Fit | undefined;
  const consider = (fit: Fit) => {
    if (
      !best ||
      fit.sure > best.sure + 1e-9 ||
      (Math.abs(fit.sure - best.sure) < 1e-9 && Math.abs(fit.scale - 1) < Math.abs(best.scale - 1) - 1e-9)
    )
      best = fit;
  };
  anchors.forEach((a, i) => {
    for (const word of candidates[i]) {
      const scale = heightOf(a) > 0 ? heightOf(word) / heightOf(a) : 1;
      const [x, y] = centre(a);
      const [atX, atY] = centre(word);
      consider(judged(scale, atX - scale * x, atY - scale * y));
      anchors.slice(i + 1).forEach((b, j) => {
        const [otherX] = centre(b);
        if (Math.abs(otherX - x) < 10) return;
        for (const other of candidates[i + 1 + j]) {
          const [otherAtX] = centre(other);
          const s = (otherAtX - atX) / (otherX - x);
          if (s > 0.3 && s < 3) consider(judged(s, atX - s * x, atY - s * y));
        }
      });
    }
  });
  return best && best.sure > 0 ? best : undefined;
}

/** A drawing fits well enough when at least this share of its anchors was found. */
export const enoughAnchors = 0.5;
