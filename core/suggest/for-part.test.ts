import { describe, expect, it } from 'vitest';
import { around, textSheet } from '../testing/sheets';
import { offersForEdge } from './for-edge';
import { offersForPart } from './for-part';

const of = textSheet([
  ['Code', 'Species', 'Where', 'Boxes'],
  ['HK1024', 'Lantern hake, small', 'Saltby - north - 1', '12'],
  ['HK1031', 'Lantern hake', 'Saltby - south - 2', null],
  ['SL2001', 'Grey sole, small', 'Fairlead - north - 3', null],
]);
/** What is offered for a part of a text of the first row. */
const offered = (column: number, part: string) => {
  const text = String(of.columns[column].cells[0]);
  return offersForPart(
    of,
    { row: 0, column, from: text.indexOf(part), to: text.indexOf(part) + part.length },
    around(),
  );
};
const says = (column: number, part: string) => offered(column, part).map((each) => each.says);

describe('what is offered for a part of a text', () => {
  it('at its end: the column is cut at what parts it, rows that end so are held, or it goes from all texts', () => {
    expect(says(1, 'small')).toEqual([
      'cut 2 texts at the last “, ”',
      'hold 2 rows that end with “small”',
      'keep only 2 rows that end with it',
      'take “, small” out of 2 texts',
    ]);
    expect(offered(1, 'small').at(-1)!.changed).toEqual([
      [0, 1, 'Lantern hake'],
      [2, 1, 'Grey sole'],
    ]);
    expect(offered(1, 'small')[0].made).toEqual([
      { name: 'Species 1', texts: ['Lantern hake', 'Grey sole'] },
      { name: 'Species 2', texts: ['small'] },
    ]);
  });

  it('at its start: it is cut behind it', () => {
    expect(says(2, 'Saltby').slice(0, 2)).toEqual([
      'cut 3 texts at the first “ - ”',
      'hold 2 rows that begin with “Saltby”',
    ]);
  });

  it('of a mark: it is cut there, at the one selected', () => {
    const text = String(of.columns[2].cells[0]);
    const last = text.lastIndexOf(' - ');
    const [cut] = offersForPart(of, { row: 0, column: 2, from: last, to: last + 3 }, around());
    expect([cut.says, cut.made.map(({ texts }) => texts)]).toEqual([
      'cut 3 texts at “ - ” number 2 from the left',
      [
        ['Saltby - north', 'Saltby - south', 'Fairlead - north'],
        ['1', '2', '3'],
      ],
    ]);
  });

  it('that nothing parts from the rest: it is cut by its place', () => {
    expect(says(0, 'HK')[0]).toBe('cut 3 texts after 2 letters');
    expect(offered(0, '24')[0]).toMatchObject({
      says: 'cut 3 texts before the last 2 letters',
      settings: { where: 'at cuts', cuts: [-2] },
    });
    expect(offered(0, '10')[0].made.map(({ texts }) => texts)).toEqual([
      ['HK', 'SL'],
      ['10', '20'],
      ['24', '31', '01'],
    ]);
  });

  it('of the whole text cuts and takes nothing out', () => {
    expect(says(3, '12')).toEqual(['hold 1 row that begins with “12”', 'keep only 1 row that begins with it']);
    expect(offersForPart(of, { row: 1, column: 3, from: 0, to: 4 }, around())).toEqual([]);
  });
});

describe('what is offered for the edge right of a column', () => {
  const edge = (left: number) => offersForEdge(of, left, around()).map((each) => each.says);

  it('the two become one, blocks go under one another where they fit, or one side stays', () => {
    expect(edge(1)).toEqual([
      'join “Species” and “Where” into one column',
      'put blocks of 2 columns under one another: 6 rows',
      'keep only the 2 columns left of it',
      'keep only the 2 columns right of it',
    ]);
    expect(edge(2)).toEqual([
      'join “Where” and “Boxes” into one column',
      'keep only the 3 columns left of it',
      'keep only the 1 column right of it',
    ]);
    expect(edge(3)).toEqual([]);
  });

  it('values that slipped over it go back, where nothing stands in their way', () => {
    const slipped = textSheet([
      ['Code', 'Boxes', 'Crates'],
      ['a', '12', null],
      ['b', null, '7'],
    ]);
    const [first] = offersForEdge(slipped, 1, around());
    expect([first.says, first.changed]).toEqual([
      'move 2 cells over the edge to “Boxes”',
      [
        [1, 1, '7'],
        [1, 2, null],
      ],
    ]);
  });
});
