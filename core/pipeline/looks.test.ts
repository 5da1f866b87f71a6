import { describe, expect, it } from 'vitest';
import { columnNamed } from '../sheet/column';
import { emptySheet, type Sheet } from '../sheet/sheet';
import { kinds } from '../steps/kinds';
import type { StepResult } from '../steps/step';
import { around, paper, plain, textSheet } from '../testing/sheets';
import * as v from 'valibot';
import type { Layer } from './carry';
import { heldBackBecause, isScanned } from './held-back';
import { overwrittenCells } from './overwritten-cells';
import { valueCounts } from './value-counts';
import { wordFate } from './word-fate';
import { page, words } from '../testing/print';

const run = (kind: string, settings: object, sheet: Sheet): StepResult =>
  kinds.get(kind)!.run(sheet, v.parse(kinds.get(kind)!.settings, settings), around());
const layer = (id: string, { sheet, held, leftOut = [], overwritten = [] }: StepResult, above: Sheet): Layer => ({
  id,
  zone: 'eachReport',
  title: `Step ${id}`,
  rowsIn: above.rows.length,
  sheet,
  held: held ?? { rows: emptySheet, reasons: [] },
  leftOut: leftOut.length > 0 ? { columns: leftOut, rows: above.rows } : emptySheet,
  overwritten,
  problems: [],
});
/** Layers from the top: what was taken, then a step after the other. */
function layersOf(taken: Sheet, ...steps: [kind: string, settings: object][]): Layer[] {
  const layers = [layer('taken', { sheet: taken }, taken)];
  steps.forEach(([kind, settings], i) =>
    layers.push(layer(String(i), run(kind, settings, layers.at(-1)!.sheet), layers.at(-1)!.sheet)),
  );
  return layers;
}

// Each cell comes from one word of page 1: its row times 100 plus its column.
const taken = textSheet(
  [
    ['Column 1', 'Column 2'],
    ['Item', 'Boxes'],
    ['Hake', '12'],
    ['Sole', '7'],
    ['Total', '19'],
  ],
  [{ role: 'heading' }],
);
const at = (word: number) => ({ report: 'r1', page: 1, word });

describe('what became of a word of the paper', () => {
  const layers = layersOf(
    taken,
    ['promote header rows', {}],
    ['hold totals', { wording: ['Total'] }],
    ['recode', { columns: { by: 'names', names: ['Item'] }, values: [{ from: ['Sole'], to: '' }] }],
    ['pick columns', { columns: { by: 'names', names: ['Item'] } }],
  );

  it('is the cell that it stands in', () =>
    expect(wordFate(layers, at(100))).toMatchObject({ cells: [{ row: 0, column: 'Item' }], held: [], taken: true }));
  it('is the name that it gives to a column, beside the row that became the names', () => {
    expect(wordFate(layers, at(0))).toMatchObject({
      cells: [],
      names: ['Item'],
      held: [{ step: '0', reason: 'became the column names' }],
    });
  });
  it('is the step that held it, with the reason', () =>
    expect(wordFate(layers, at(300)).held).toEqual([
      { step: '1', title: 'Step 1', row: 0, column: 'Item', reason: expect.stringContaining('total by wording') },
    ]));
  it('is the step that put another text in its place', () =>
    expect(wordFate(layers, at(200)).gone).toEqual({ step: '2', title: 'Step 2', how: 'overwritten' }));
  it('is the step that left its column out', () =>
    expect(wordFate(layers, at(101)).gone).toEqual({ step: '3', title: 'Step 3', how: 'left out' }));
  it('is nothing where no table holds it, or where it is the word of another report', () => {
    expect(wordFate(layers, at(999))).toEqual({ cells: [], names: [], held: [], taken: false });
    expect(wordFate(layers, { ...at(100), report: 'r2' }).taken).toBe(false);
    expect(wordFate([], at(100))).toEqual({ cells: [], names: [], held: [], taken: false });
  });
});

describe('overwritten cells as a sheet', () => {
  it('tell where each stands, what stood there, what stands there now, and why', () => {
    const sheet = textSheet([
      ['Item', 'Boxes'],
      ['hake', '1'],
      ['SOLE', null],
      ['Cod', '3'],
    ]);
    const result = run('tidy text', { columns: { by: 'all' }, letters: 'capitals' }, sheet);
    const cells = overwrittenCells({ sheet: result.sheet, overwritten: result.overwritten! });
    expect(plain(cells)).toEqual([
      ['Row', 'Column', 'Was', 'Is', 'Why'],
      [1, 'Item', 'hake', 'HAKE', 'tidied'],
      [3, 'Item', 'Cod', 'COD', 'tidied'],
    ]);
    expect(cells.rows.map(cells.rows.id)).toEqual([sheet.rows.id(0), sheet.rows.id(2)]);
  });
});

describe('the values of columns', () => {
  const sheet = textSheet(
    [
      ['Quay', 'Boxes'],
      ['Saltby', '1'],
      ['Tern', '2'],
      ['Saltby', null],
      [null, '2'],
    ],
    [{}, { table: 'p2t1', page: 2 }],
  );

  it('are counted, those that come most often first, blanks apart', () => {
    expect(valueCounts(sheet, paper(), { by: 'names', names: ['Quay'] })).toEqual({
      values: [
        { text: 'Saltby', count: 2 },
        { text: 'Tern', count: 1 },
      ],
      different: 2,
      blanks: 1,
      rows: 4,
    });
    expect(valueCounts(sheet, paper(), { by: 'all' }).values[0]).toEqual({ text: '2', count: 2 });
  });

  it('or what is printed elsewhere for the rows, each once', () => {
    const of = {
      ...paper('north/week-24.pdf', { 1: ['Landing sheet'], 2: ['Week ending 14 June'] }),
      title: (table: string) => (table === 'p1t1' ? { text: 'Landings', page: 1, words: [1] } : undefined),
    };
    const texts = (from: 'file name' | 'table title' | 'page text') =>
      valueCounts(sheet, of, { by: 'print', from }).values.map(({ text }) => text);
    expect([texts('file name'), texts('table title'), texts('page text')]).toEqual([
      ['week-24.pdf'],
      ['Landings'],
      ['Landing sheet', 'Week ending 14 June'],
    ]);
  });
});

describe('a report that may not go into the dataset', () => {
  const printed = page(words(['Landings']));
  const picture = { ...printed, words: [], pictures: [{ box: [0, 0, 500, 700] as const }] };
  const carried = (matches: number, problems = 0) =>
    ({
      matches: Array(matches).fill({}),
      problems: Array(problems).fill({ kind: 'not taken', expected: 'x', came: 'y', remedy: 'z' }),
      layers: [],
      sheet: emptySheet,
      paper: paper(),
    }) as never;

  it('says why: a scanned picture, a damaged page, nothing taken', () => {
    expect(isScanned([picture as never])).toBe(true);
    expect(heldBackBecause({ pages: [picture as never], problems: [] }, carried(1)).map(({ kind }) => kind)).toEqual([
      'scanned',
    ]);
    expect(
      heldBackBecause(
        { pages: [printed], problems: [{ kind: 'damaged', page: 2, expected: 'a', came: 'b', remedy: 'c' }] },
        carried(1),
      ).map(({ kind, page: of }) => [kind, of]),
    ).toEqual([['damaged', 2]]);
    expect(heldBackBecause({ pages: [printed], problems: [] }, carried(0, 1))).toHaveLength(1);
    expect(heldBackBecause({ pages: [printed], problems: [] }, carried(0))[0].remedy).toContain('Take a table');
  });

  it('is none that was carried, whatever needs a look in it', () =>
    expect(heldBackBecause({ pages: [printed], problems: [] }, carried(1, 3))).toEqual([]));
});

describe('columns by name', () => {
  it('are found however their names are spelled', () =>
    expect(columnNamed(textSheet([['No. of  boxes'], ['1']]), 'no. OF boxes')?.cells).toEqual(['1']));
});
