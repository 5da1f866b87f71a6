import { placeBy } from './grid-keys';

const of = { rows: 100, columns: 8, page: 20, control: false };
const from = { row: 30, column: 3 };

describe('where a key leads from a place of a grid', () => {
  it.each([
    ['ArrowDown', { row: 31, column: 3 }],
    ['ArrowUp', { row: 29, column: 3 }],
    ['ArrowRight', { row: 30, column: 4 }],
    ['ArrowLeft', { row: 30, column: 2 }],
    ['PageDown', { row: 50, column: 3 }],
    ['PageUp', { row: 10, column: 3 }],
    ['Home', { row: 30, column: 0 }],
    ['End', { row: 30, column: 7 }],
  ])('%s', (key, place) => expect(placeBy(key, from, of)).toEqual(place));

  it('with control the ends lead to the corners', () => {
    expect(placeBy('Home', from, { ...of, control: true })).toEqual({ row: 0, column: 0 });
    expect(placeBy('End', from, { ...of, control: true })).toEqual({ row: 99, column: 7 });
  });

  it('a page up from the upper rows ends at the first, from where only an arrow leads to the headings', () => {
    expect(placeBy('PageUp', { row: 5, column: 3 }, of)).toEqual({ row: 0, column: 3 });
    expect(placeBy('ArrowUp', { row: 0, column: 3 }, of)).toEqual({ row: -1, column: 3 });
  });

  it('a letter leads nowhere', () => expect(placeBy('x', from, of)).toBeUndefined());
});
