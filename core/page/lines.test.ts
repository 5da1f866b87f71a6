import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { words } from '../testing/print';
import { inReadingOrder, linesOf, textOf, textWithStarts } from './lines';

const print = words(['Week ending 14 June', 'Saltby  3,136.0']);

describe('lines of print', () => {
  it('hold the words of one baseline, left to right, whatever the order of drawing', () => {
    fc.assert(
      fc.property(fc.shuffledSubarray(print, { minLength: print.length }), (shuffled) => {
        expect(linesOf(shuffled).map((line) => textOf(shuffled, line.words))).toEqual([
          'Week ending 14 June',
          'Saltby 3,136.0',
        ]);
      }),
    );
  });

  it('keep a raised mark on its line, and a wrapped neighbour on its own', () => {
    const raised = {
      ...print[0],
      text: '¹',
      box: [300, print[0].box[1] - 2, 303, print[0].box[1] + 4] as const,
      baseline: print[0].baseline - 4,
      fontSize: 6,
    };
    expect(linesOf([...print, raised]).map((line) => line.words.length)).toEqual([5, 2]);
  });

  it('tell where each word starts in the text, and join words that touch', () => {
    expect(textWithStarts(print, [0, 1, 2, 3])).toEqual({ text: 'Week ending 14 June', starts: [0, 5, 12, 15] });
    const touching = {
      ...print[1],
      box: [print[0].box[2] + 0.5, print[0].box[1], print[0].box[2] + 30, print[0].box[3]] as const,
    };
    expect(textOf([print[0], touching], [0, 1])).toBe('Weekending');
  });

  it('part words of lines that are set so close that their boxes meet', () => {
    const [first] = print;
    const under = {
      ...first,
      text: 'deck',
      baseline: first.baseline + 10,
      box: [first.box[0], first.box[3] - 0.4, first.box[0] + 20, first.box[3] + 10] as const,
    };
    expect(textOf([first, under], [0, 1])).toBe('Week deck');
  });

  it('put together what a line breaks at its hyphen, and no word that waits for another', () => {
    const textBroken = (...lines: string[]) => {
      const cell = words(lines);
      return textOf(
        cell,
        cell.map((_, i) => i),
      );
    };
    expect(textBroken('INV-', '4100')).toBe('INV-4100');
    expect(textBroken('flat-', 'bottomed boat')).toBe('flat-bottomed boat');
    expect(textBroken('Ein-', 'und Ausfuhr')).toBe('Ein- und Ausfuhr');
    expect(textBroken('Ein- und', 'Ausfuhr')).toBe('Ein- und Ausfuhr');
    expect(textBroken('-', '4100')).toBe('- 4100');
  });

  it('read the words of a cell line by line', () => {
    expect(textOf(print, inReadingOrder(print, [5, 3, 4, 0]))).toBe('Week June Saltby 3,136.0');
  });
});
