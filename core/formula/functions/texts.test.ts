// Against lists of the signs of a text: what a function of texts means is said by them in a line.
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { results } from '../../testing/formula-results';
import { quotedText } from '../print';

const texts = fc.string({ unit: fc.constantFrom(...'aAbBxé 鯖🐟-,0ß'), maxLength: 12 });
const count = fc.integer({ min: -14, max: 14 });
/** A formula for each text of a column at once, with a blank where nothing is left. */
const of = (formula: string, ...columns: (readonly string[])[]) =>
  results(formula, Object.fromEntries(columns.map((cells, i) => ['TSU'[i], ['text', ...cells]])));
const cell = (text: string) => (text === '' ? null : text);

describe('texts by their signs', () => {
  it('are cut from either end, so that both parts are the whole', () => {
    fc.assert(
      fc.property(texts, count, (text, n) => {
        const signs = [...text];
        const quoted = quotedText(text);
        expect(results(`left(${quoted}, ${n})`)).toEqual([cell(signs.slice(0, n).join(''))]);
        expect(results(`right(${quoted}, ${n})`)).toEqual([
          cell(n === 0 ? '' : n > 0 ? signs.slice(-n).join('') : signs.slice(-n).join('')),
        ]);
        if (n > 0)
          expect(results(`left(${quoted}, ${n}) || substring(${quoted}, ${n + 1}) = ${quoted}`)).toEqual([true]);
      }),
    );
  });

  it('are cut from a place on, also one before their beginning', () => {
    fc.assert(
      fc.property(texts, count, fc.integer({ min: 0, max: 14 }), (text, from, length) => {
        const own = [...text].filter((_, i) => i + 1 >= from && i + 1 < from + length).join('');
        expect(results(`substring(${quotedText(text)}, ${from}, ${length})`)).toEqual([cell(own)]);
        expect(results(`substr(${quotedText(text)}, ${from})`)).toEqual([
          cell([...text].filter((_, i) => i + 1 >= from).join('')),
        ]);
      }),
    );
    expect(results("substring('quay', 2, -1)")).toEqual(['? a text of a negative length']);
  });

  it('are filled up, or cut, to a length in signs', () => {
    fc.assert(
      fc.property(
        texts,
        fc.integer({ min: -2, max: 20 }),
        fc.string({ unit: fc.constantFrom('.', '🐟', 'ab'), minLength: 1, maxLength: 3 }),
        (text, to, fill) => {
          const signs = [...text];
          const pad = Array.from(
            { length: Math.max(0, to - signs.length) },
            (_, i) => [...fill][i % [...fill].length],
          ).join('');
          const kept = signs.slice(0, Math.max(0, to)).join('');
          expect(results(`lpad(${quotedText(text)}, ${to}, ${quotedText(fill)})`)).toEqual([cell(pad + kept)]);
          expect(results(`rpad(${quotedText(text)}, ${to}, ${quotedText(fill)})`)).toEqual([cell(kept + pad)]);
          expect(results(`length(rpad(${quotedText(text)}, ${to}, ${quotedText(fill)}))`)).toEqual([Math.max(0, to)]);
        },
      ),
    );
  });

  it('lose at their ends the signs that are given, and none inside', () => {
    fc.assert(
      fc.property(texts, fc.string({ unit: fc.constantFrom('a', ' ', '🐟', '-'), maxLength: 3 }), (text, gone) => {
        const signs = [...text];
        const begin = signs.findIndex((sign) => ![...gone].includes(sign));
        const end = signs.findLastIndex((sign) => ![...gone].includes(sign)) + 1;
        const [quoted, given] = [quotedText(text), quotedText(gone)];
        expect(results(`ltrim(${quoted}, ${given})`)).toEqual([cell(begin < 0 ? '' : signs.slice(begin).join(''))]);
        expect(results(`rtrim(${quoted}, ${given})`)).toEqual([cell(signs.slice(0, end).join(''))]);
        expect(results(`btrim(${quoted}, ${given}) = rtrim(ltrim(${quoted}, ${given}), ${given})`)).toEqual([true]);
        expect(results(`trim(both ${given} from ${quoted}) = btrim(${quoted}, ${given})`)).toEqual([true]);
      }),
    );
  });

  it('are parted at a mark, and put together again by it', () => {
    fc.assert(
      fc.property(
        fc.array(fc.string({ unit: fc.constantFrom('a', '🐟', ' '), maxLength: 3 }), { minLength: 1, maxLength: 5 }),
        (parts) => {
          const whole = quotedText(parts.join(';'));
          parts.forEach((part, i) => {
            expect(results(`split_part(${whole}, ';', ${i + 1})`)).toEqual([cell(part)]);
            expect(results(`split_part(${whole}, ';', ${i - parts.length})`)).toEqual([cell(part)]);
          });
          expect(results(`split_part(${whole}, ';', ${parts.length + 1})`)).toEqual([null]);
          expect(results(`concat_ws(';', ${parts.map(quotedText).join(', ')}) = ${whole}`)).toEqual([true]);
        },
      ),
    );
    expect(results("split_part('a;b', ';', 0)")).toEqual([expect.stringMatching(/^\? a part with the number 0/)]);
  });

  it('tell where another stands in them, and have it replaced wherever it does', () => {
    fc.assert(
      fc.property(
        texts,
        fc.string({ unit: fc.constantFrom('a', 'b', '🐟'), minLength: 1, maxLength: 2 }),
        texts,
        (text, sought, by) => {
          const [all, part, other] = [text, sought, by].map(quotedText);
          const at = text.indexOf(sought);
          expect(results(`position(${part} in ${all})`)).toEqual([at < 0 ? 0 : [...text.slice(0, at)].length + 1]);
          expect(results(`strpos(${all}, ${part}) > 0`)).toEqual([text.includes(sought)]);
          expect(results(`replace(${all}, ${part}, ${other})`)).toEqual([cell(text.replaceAll(sought, () => by))]);
          expect(results(`starts_with(${all}, ${part})`)).toEqual([text.startsWith(sought)]);
          expect(results(`replace(${all}, '', ${other}) = ${all}`)).toEqual([true]);
        },
      ),
    );
  });

  it('change letters one by one: none becomes two', () => {
    expect(results("upper('straße')")).toEqual(['STRAßE']);
    expect(results("initcap('tern-point quay''s 2nd éte')")).toEqual(["Tern-Point Quay'S 2nd Éte"]);
    fc.assert(
      fc.property(texts, (text) => {
        for (const way of ['upper', 'lower', 'initcap'])
          expect(results(`length(${way}(${quotedText(text)}))`)).toEqual([[...text].length]);
      }),
    );
  });

  it('of a column are blank where the cell is, and blanks are left out of what is put together', () => {
    expect(of('upper("T")', ['quay', '', 'n3'])).toEqual(['QUAY', null, 'N3']);
    expect(of('"T" || "S"', ['a', '', 'c'], ['x', 'y', ''])).toEqual(['ax', null, null]);
    expect(of('concat("T", "S")', ['a', '', 'c', ''], ['x', 'y', '', ''])).toEqual(['ax', 'y', 'c', null]);
    expect(of('concat_ws(\'/\', "T", "S", "U")', ['a', '', ''], ['x', 'y', ''], ['1', '2', '3'])).toEqual([
      'a/x/1',
      'y/2',
      '3',
    ]);
  });
});
