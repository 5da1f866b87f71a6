import { random } from '../../demo/random';
import { businessSheet } from './business';
import { officePaper } from './office';
import { randomSheet, sentence, type Random } from './random-sheet';
import type { Block, Paper } from './sheet';

const prose = (r: Random, sentences: number): Block => ({
  kind: 'prose',
  text: Array.from({ length: sentences }, () => sentence(r)).join(' '),
});

const chart = (r: Random): Block => {
  const labels = r.some(['North', 'South', 'Inner', 'Outer', 'Roads', 'Basin', '2030', '2031', '2032'], r.whole(3, 6));
  return { kind: 'chart', labels, heights: labels.map(() => r.whole(10, 90)) };
};

const address = (r: Random): Block => ({
  kind: 'address',
  lines: [
    `${r.one(['Attn.', 'Mr', 'Ms'])} ${r.one(['A. Merrow', 'K. Starling', 'B. Quill'])}`,
    `${r.whole(1, 200)} ${r.one(['Quay Road', 'Kiln Street', 'Hill Rise'])}`,
    r.one(['Northreach', 'Eastwick', 'Fairlead']),
  ],
});

/** One random paper: a page of sheets and what stands around them. */
export function randomPaper(seed: number, index: number): Paper {
  const r = random(Math.imul(seed, 7919) + Math.imul(index, 104729));
  for (let i = 0; i < 3; i++) r.next();
  const properties = new Set<string>();
  const blocks: Block[] = [];
  if (r.chance(0.6))
    blocks.push({
      kind: 'heading',
      text: r.one(['Report of the month', 'Statement', 'Harbour letter', 'Figures of the quarter']),
    });
  if (r.chance(0.2)) {
    properties.add('address');
    blocks.push(address(r));
  }
  const arranged = r.next();
  if (arranged < 0.06) {
    properties.add('no table');
    for (let i = 0; i < 3; i++)
      blocks.push(
        r.one([
          () => prose(r, 5),
          () => chart(r),
          (): Block => ({ kind: 'points', texts: Array.from({ length: 5 }, () => sentence(r)) }),
        ])(),
      );
  } else if (arranged > 0.9) blocks.push(...officePaper(r, properties));
  else if (arranged > 0.78) {
    if (r.chance(0.5)) blocks.push(r.chance(0.5) ? address(r) : prose(r, r.whole(1, 3)));
    blocks.push(businessSheet(r, properties));
    if (r.chance(0.4)) blocks.push(prose(r, r.whole(1, 3)));
  } else if (arranged < 0.14) {
    properties.add('side by side');
    blocks.push({
      kind: 'beside',
      left: [randomSheet(r, properties, 4, { rows: r.whole(3, 10) })],
      right: [randomSheet(r, properties, 4, { rows: r.whole(3, 10) })],
    });
    if (r.chance(0.5)) blocks.push(prose(r, 4));
  } else if (arranged < 0.24) {
    properties.add('beside prose');
    const text: Block[] = [prose(r, 6), { kind: 'heading', text: 'Outlook' }, prose(r, 7)];
    const sheet: Block[] = [
      randomSheet(r, properties, 4, { rows: r.whole(3, 10) }),
      ...(r.chance(0.4) ? [chart(r)] : []),
    ];
    blocks.push(
      r.chance(0.5) ? { kind: 'beside', left: text, right: sheet } : { kind: 'beside', left: sheet, right: text },
    );
  } else if (arranged < 0.34) {
    properties.add('under one another');
    for (let i = r.whole(2, 3); i > 0; i--) {
      blocks.push(randomSheet(r, properties, 8, { rows: r.whole(2, 8) }));
      if (r.chance(0.4)) blocks.push(prose(r, r.whole(1, 3)));
    }
  } else {
    if (r.chance(0.5)) blocks.push(prose(r, r.whole(2, 6)));
    blocks.push(randomSheet(r, properties));
    if (r.chance(0.4)) blocks.push(prose(r, r.whole(2, 5)));
    if (r.chance(0.15)) {
      properties.add('with a chart');
      blocks.push(chart(r));
    }
  }
  return {
    name: `random-${seed}-${index}`,
    blocks,
    ...(r.chance(0.4) ? { runningHead: 'Northreach Harbour Board' } : {}),
    numbered: r.chance(0.5),
    properties: [...properties].sort(),
  };
}
