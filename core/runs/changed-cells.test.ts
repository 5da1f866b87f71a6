import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { changedCells, type ComparedRow, type RowChange } from './changed-cells';

const headings = ['Port', 'Boxes'];
const rows = (...texts: string[]): ComparedRow[] =>
  texts.map((text, i) => ({
    report: 1,
    page: 1 + Math.floor(i / 3),
    cells: text.split(',').map((cell) => (cell === '' ? null : cell)),
  }));
const inShort = (changes: readonly RowChange[]) =>
  changes.map(
    (change) =>
      `${change.row ?? '-'} ${change.kind === 'cell' ? `${change.heading}: ${change.before} → ${change.after}` : change.kind === 'row added' ? `+ ${change.after}` : `- ${change.before}`}`,
  );

describe('what another build makes otherwise', () => {
  it('is a cell with its old and its new value, and the page of its row', () => {
    const changes = changedCells(
      headings,
      rows('Saltby,1', 'Saltby,2', 'Marrow,3', 'Tern,4'),
      rows('Saltby,1', 'Saltby,2', 'Marrow,30', 'Tern,'),
    );
    expect(inShort(changes)).toEqual(['2 Boxes: 3 → 30', '3 Boxes: 4 → null']);
    expect(changes.map(({ page }) => page)).toEqual([1, 2]);
  });

  it('is a row that came or went, and those behind it are not called changed', () => {
    const before = rows('a,1', 'b,2', 'c,3', 'd,4', 'e,5');
    expect(inShort(changedCells(headings, before, rows('Port,Boxes', 'a,1', 'b,2', 'c,3', 'd,4', 'e,5')))).toEqual([
      '0 + Port | Boxes',
    ]);
    expect(inShort(changedCells(headings, before, rows('a,1', 'c,3', 'd,40', 'e,5')))).toEqual([
      '- - b | 2',
      '2 Boxes: 4 → 40',
    ]);
  });

  it('is nothing where all is the same, also where rows repeat', () => {
    const same = rows('a,1', 'a,1', 'b,2', 'a,1');
    expect(changedCells(headings, same, same)).toEqual([]);
    expect(inShort(changedCells(headings, same, rows('a,1', 'a,1', 'a,1', 'b,2', 'a,1')))).toEqual(['2 + a | 1']);
  });

  it('leads from the rows before to the rows after, whatever they are', () => {
    const row = fc
      .tuple(fc.constantFrom('a', 'b', 'c', ''), fc.constantFrom('1', '2', ''))
      .map((cells) => cells.join(','));
    fc.assert(
      fc.property(fc.array(row, { maxLength: 30 }), fc.array(row, { maxLength: 30 }), (was, is) => {
        const changes = changedCells(headings, rows(...was), rows(...is));
        // Every row after is one that was there, changed or not, or is said to have come; every row that is gone is said.
        const count = (kind: RowChange['kind']) => changes.filter((change) => change.kind === kind).length;
        expect(was.length - count('row removed') + count('row added')).toBe(is.length);
        const kept = was.filter(
          (text) =>
            text !== '' &&
            was.filter((each) => each === text).length === 1 &&
            is.filter((each) => each === text).length === 1,
        );
        if (kept.length === was.length && was.length === is.length && was.join() === is.join())
          expect(changes).toEqual([]);
        for (const change of changes) if (change.kind === 'cell') expect(change.before).not.toBe(change.after);
      }),
    );
  });
});
