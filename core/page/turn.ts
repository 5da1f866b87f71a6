import type { Box } from './box';
import type { PageContent, Rule } from './page';

/** Quarter turns counter-clockwise that set a page's sideways text upright: 0 to 3. */
export function turnsToUpright(page: PageContent): number {
  const letters = [0, 0, 0, 0];
  for (const word of page.words) letters[((Math.round(word.angle / 90) % 4) + 4) % 4] += word.text.length;
  const most = letters.indexOf(Math.max(...letters));
  return letters[most] > 0 ? most : 0;
}

const turnBox = ([x0, y0, x1, y1]: Box, pageWidth: number): Box => [y0, pageWidth - x1, y1, pageWidth - x0];

const turnRule = (rule: Rule, pageWidth: number): Rule =>
  rule.direction === 'down'
    ? { ...rule, direction: 'across', at: pageWidth - rule.at }
    : { ...rule, direction: 'down', from: pageWidth - rule.to, to: pageWidth - rule.from };

/** The page turned by a quarter counter-clockwise: what ran down the page runs to the right. */
export function quarterTurn(page: PageContent): PageContent {
  return {
    ...page,
    width: page.height,
    height: page.width,
    words: page.words.map((word) => {
      const box = turnBox(word.box, page.width);
      return { ...word, box, baseline: box[3], angle: (word.angle + 270) % 360 };
    }),
    rules: page.rules.map((rule) => turnRule(rule, page.width)),
    fills: page.fills.map((fill) => ({ ...fill, box: turnBox(fill.box, page.width) })),
    pictures: page.pictures.map((picture) => ({ box: turnBox(picture.box, page.width) })),
  };
}

/** A box of a page turned by `turns` quarters, brought back to where it stands on the page as printed. */
export function boxTurnedBack(box: Box, turns: number, printed: { width: number; height: number }): Box {
  let [x0, y0, x1, y1] = box;
  // The page of width W and height H, turned once, is H wide and W high; undo the turns from last to first.
  for (let turn = turns; turn > 0; turn--) {
    const widthBefore = turn % 2 === 1 ? printed.width : printed.height;
    [x0, y0, x1, y1] = [widthBefore - y1, x0, widthBefore - y0, x1];
  }
  return [x0, y0, x1, y1];
}
