import { describe, expect, it } from 'vitest';
import type { LabelSetting, TakeRule } from '../../../../core/intake/take-rule';
import { findTables } from '../../../../core/reading/find-tables';
import type { Piece } from '../../../../core/reading/found-table';
import { page, words } from '../../../../core/testing/print';
import type { TableFacts } from '../../../../server/contract/contract';
import { show } from '../../testing/shown';
import { LabelsPanel } from './labels-panel';
import { ReadingsPanel } from './readings-panel';
import { TakeMany } from './take-many';

describe('many found tables taken at once', () => {
  const table = (id: string, on: number, columns: number, headingCells: readonly string[], title: string | null = null): TableFacts => ({ id, title, heading: headingCells.join(' '), headingCells, rows: 4, columns, pieces: [{ id: `${id}p`, page: on, box: [0, 0, 1, 1], readings: [] }] });
  const tables = [table('a', 1, 4, ['Code', 'Boxes'], 'Saltby'), table('b', 2, 4, ['Code', 'Boxes'], 'Tern'), table('c', 2, 7, ['Day', 'Flow']), table('d', 3, 4, [])];
  async function many(names: readonly string[] = []) {
    const shown = await show(TakeMany, { tables, page: 2, pageCount: 3, names });
    const taken: TakeRule[][] = [];
    shown.of.take.subscribe((rules) => taken.push([...rules]));
    return { ...shown, taken };
  }

  it('are those of one heading, or of one shape, where there are several', async () => {
    const { texts, press, taken } = await many();
    expect(texts('button')).toEqual(['All 2 with this heading', 'All 3 of 4 columns', 'Take all there']);
    await press('All 2 with this heading');
    await press('All 3 of 4 columns');
    expect(taken.flat()).toMatchObject([{ name: 'Saltby', heading: ['Code', 'Boxes'], which: 'all alike' }, { name: 'Tables of 4 columns', columns: 4, which: 'all alike' }]);
  });

  it('on some pages have a rule for each shape that is there, however the pages are written', async () => {
    const { press, write, taken } = await many();
    await press('Take all there');
    await write('#many-from', '9');
    await write('#many-to', '2');
    await press('Take all there');
    expect(taken.map((rules) => rules.map(({ name, pages }) => [name, pages]))).toEqual([
      [['Tables of 4 columns on page 2', { from: 2, to: 2 }], ['Tables of 7 columns on page 2', { from: 2, to: 2 }]],
      [['Tables of 4 columns on pages 2 to 3', { from: 2, to: 3 }], ['Tables of 7 columns on pages 2 to 3', { from: 2, to: 3 }]],
    ]);
  });

  it('get names that no rule bears', async () => {
    const { press, taken } = await many(['Saltby', 'Saltby (2)']);
    await press('All 2 with this heading');
    expect(taken[0][0].name).toBe('Saltby (3)');
  });
});

describe('a value with its label', () => {
  const content = page(words(['Note no:   BN-1041', '', 'Berth', 'N3']));
  const at = (text: string) => content.words.findIndex((word) => word.text === text);
  async function panel(word: string | undefined, labels: readonly LabelSetting[] = []) {
    const shown = await show(LabelsPanel, { page: content, word: word === undefined ? undefined : at(word), labels });
    const [taken, stamped, left]: LabelSetting[][] = [[], [], []];
    shown.of.take.subscribe((label) => taken.push(label));
    shown.of.stamp.subscribe((label) => stamped.push(label));
    shown.of.leave.subscribe((label) => left.push(label));
    return { ...shown, taken, stamped, left };
  }

  it('is proposed by what stands beside it or above it', async () => {
    const { texts, press, taken, give } = await panel('BN-1041');
    expect(texts('.card p:first-child')[0]).toBe('BN-1041 stands beside Note no:');
    await press('Take as a value of the report');
    expect(taken).toEqual([{ name: 'Note no', label: 'Note no:', side: 'right' }]);
    await give({ word: at('N3') });
    expect(texts('.card p:first-child')).toEqual(['N3 stands under Berth']);
  });

  it('may be called otherwise, until another is pointed at', async () => {
    const { press, write, stamped, give } = await panel('BN-1041');
    await write('input', 'Note');
    await press('Stamp it on every row');
    await give({ word: at('N3') });
    await press('Stamp it on every row');
    expect(stamped.map(({ name, label }) => `${name} of ${label}`)).toEqual(['Note of Note no:', 'Berth of Berth']);
  });

  it('is not there where none stands, and those taken can be left out', async () => {
    const label: LabelSetting = { name: 'Note', label: 'Note no:', side: 'right' };
    const { texts, press, left, give } = await panel(undefined, [label]);
    expect(texts('p')[0]).toMatch(/^Point at a value/);
    await give({ word: at('Note') });
    expect(texts('p')[0]).toMatch(/^No label stands beside or above/);
    await press('Leave out Note');
    expect(left).toEqual([label]);
  });
});

describe('readings beside one another', () => {
  const [table] = findTables([page(words(['Code   Species              Boxes     Value', 'HK1    Lantern hake           112 13,014.40', 'SL2    Grey sole               48  7,862.40', 'CR4    Rock crab               61  4,318.80']))]);
  const [piece] = table.pieces;
  const [first] = piece.readings;
  const other = { ...first, name: 'other' as never, reason: 'by another way', cells: first.cells.map((cell) => (cell.text === 'Rock crab' ? { ...cell, text: 'Rock' } : cell)) };

  it('mark the cells in which they differ, alone where that is wanted', async () => {
    const { texts, press } = await show(ReadingsPanel, { piece: { ...piece, readings: [first, other] } satisfies Piece, chosen: first.name });
    expect(texts('.counts b')).toEqual(['1 cell differs']);
    expect(texts('td.differs')).toEqual(['Rock crab', 'Rock']);
    expect(texts('section:first-child tr')).toHaveLength(4);
    await press('Show differing rows only');
    expect(texts('section:first-child tr')).toEqual(['CR4Rock crab614,318.80'].map((text) => expect.stringMatching(new RegExp(text.replace(/(?=Rock|61|4,)/g, '\\s*')))));
  });

  it('are chosen for all reports or for one, but for the one that is used already', async () => {
    const { of, press, root } = await show(ReadingsPanel, { piece: { ...piece, readings: [first, other] }, chosen: first.name });
    const used: unknown[] = [];
    of.use.subscribe((choice) => used.push(choice));
    await press('Use other for all reports');
    await press('Only here', 0);
    expect(used).toEqual([{ reading: 'other', of: 'all' }, { reading: first.name, of: 'this' }]);
    expect([...root.querySelectorAll('button')].find((each) => each.textContent!.includes(`Use ${first.name}`))!.disabled).toBe(true);
  });

  it('are not compared where there is one', async () => {
    expect((await show(ReadingsPanel, { piece: { ...piece, readings: [first] }, chosen: first.name })).texts('p')[0]).toMatch(/^There is one reading of this table only\./);
  });
});
