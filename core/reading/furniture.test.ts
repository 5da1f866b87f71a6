import { describe, expect, it } from 'vitest';
import { random } from '../../demo/random';
import { textOf } from '../page/lines';
import type { PageContent } from '../page/page';
import { page, words } from '../testing/print';
import { findTables } from './find-tables';
import { candidatesOf, furnitureAmong } from './furniture';

/** The lines that are furniture on each page of a report. */
function furnitureOf(pages: readonly PageContent[]): string[][] {
  const all = pages.map(candidatesOf);
  return pages.map((each, i) => {
    const out = furnitureAmong(all[i], all);
    return all[i]
      .filter(({ words: own }) => own.every((word) => out.has(word)))
      .map(({ words: own }) => textOf(each.words, own));
  });
}

const body = [
  'Quay          Boxes     Weight',
  'Saltby           12      340.5',
  'Tern Point        7      118.0',
  'Marrow           31      902.5',
];
const report = (...feet: readonly string[]) =>
  feet.map((foot, i) => page([...words(body, { top: 120 }), ...words([foot], { top: 800 })], { number: i + 1 }));

describe('furniture', () => {
  it.each([
    'Page 1',
    'page 1 of 1',
    'Page 1/1',
    '1 of 1',
    '1 / 1',
    '- 1 -',
    'Seite 1 von 1',
    'Página 1 de 1',
    'P. 1',
    '— page 1 —',
  ])('of a single page is what says that it is a page number: %s', (foot) => {
    expect(furnitureOf(report(foot))).toEqual([[foot]]);
  });

  it.each(['1', '12', 'I', 'IV', '12 31 7', 'i', '2025', '(4)', '12.5', 'X 4', 'Page total 4', 'Total 1 of 4'])(
    'of a single page is nothing that only looks like one: %s',
    (foot) => {
      expect(furnitureOf(report(foot))).toEqual([[]]);
    },
  );

  it('of several pages are numbers that count with them, in digits or Roman, or stay the same', () => {
    for (const feet of [
      ['1', '2', '3', '4'],
      ['i', 'ii', 'iii', 'iv'],
      ['XIV', 'XV', 'XVI'],
      ['7 of 9', '8 of 9', '9 of 9'],
      ['Issue 4, page 1', 'Issue 4, page 2', 'Issue 4, page 3'],
      ['2025', '2025', '2025'],
    ])
      expect(furnitureOf(report(...feet))).toEqual(feet.map((foot) => [foot]));
  });

  it('are never figures that only stand at the same height on every page', () => {
    for (const feet of [
      ['12', '340', '7'],
      ['Carried forward 1,204.50', 'Carried forward 3,117.00', 'Carried forward 8,020.75'],
      ['3', '2', '1'],
      ['4 12 31', '7 9 44', '1 2 3'],
    ])
      expect(furnitureOf(report(...feet))).toEqual(feet.map(() => []));
  });

  it('that starts again in a new chapter still is', () => {
    expect(furnitureOf(report('1', '2', '3', '4', '1', '2', '3', '4')).flat()).toEqual([
      '1',
      '2',
      '3',
      '4',
      '1',
      '2',
      '3',
      '4',
    ]);
  });

  it('whatever numbers a table of one page has near its edges, each of its rows is found', () => {
    const draw = random(5);
    for (let n = 0; n < 40; n++) {
      const cell = () =>
        draw
          .one([String(draw.whole(1, 40)), draw.one(['I', 'IV', 'X', 'VII']), String(draw.whole(1000, 9999))])
          .padEnd(10);
      const rows = Array.from({ length: draw.whole(4, 9) }, () => `${cell()}${cell()}${cell()}`);
      const found = findTables([page(words(rows, { top: draw.one([30, 60, 90, 700]) }))]);
      const read = found
        .flatMap(({ pieces }) => pieces)
        .map(({ readings }) => new Set(readings[0].cells.map(({ row }) => row)).size);
      expect(read.reduce((sum, count) => sum + count, 0)).toBe(rows.length);
    }
  });
});
