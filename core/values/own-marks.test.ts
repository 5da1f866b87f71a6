import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { formatOf } from './format';
import { locales } from './locale';
import { markStyles } from './marks';
import { ownMarks, printedDifferently } from './own-marks';

const format = formatOf({ type: 'decimal', marks: 'as each report prints them' });
const own = (...texts: (string | null)[]) => ownMarks(texts, format, locales['en-GB']);
const read = (text: string, ...others: string[]) => {
  const parsed = own(text, ...others).read(text);
  return 'value' in parsed ? parsed.value : 'misfit';
};

describe('the marks with which the numbers of a report are printed', () => {
  it.each<[string, string[], number]>([
    ['1,234', ['12.5'], 1234],
    ['1,234', ['12,5'], 1.234],
    ['1.234', ['7,25'], 1234],
    ['1.234', ['7.25'], 1.234],
    ['1.234', ['1.234.567'], 1234],
    ['1 234', ['0,5'], 1234],
    ["1'234", ["2'345.60"], 1234],
    ['(1,234)', ['1,234.50'], -1234],
    ['12', [], 12],
    ['-', ['1,5'], null as never],
  ])('“%s” beside %j is %d', (text, others, value) => expect(read(text, ...others)).toBe(value));

  it('are no guess: where no number tells, one that could be either is a misfit', () => {
    expect(read('1,234')).toBe('misfit');
    expect(read('1,234', '5', '77')).toBe('misfit');
    const parsed = own('1,234', '12').read('1,234');
    expect('expected' in parsed && parsed.expected).toMatch(/could have its decimals or its thousands after the mark/);
    expect(own('1,234', '12').read('12')).toEqual({ value: 12 });
  });

  it('are those of most, and what does not fit them is a misfit', () => {
    expect(read('1.234,5', '1,234.5', '2,345.5')).toBe('misfit');
  });

  it('are different where none holds for all', () => {
    expect(printedDifferently([own('1,234.5'), own('12,5')])).toBe(true);
    expect(printedDifferently([own('1,234.5'), own('12')])).toBe(false);
    // Both may have the decimals after a mark, or 1,234 thousands in front of a point.
    expect(printedDifferently([own('1,234'), own('1.234')])).toBe(false);
    expect(printedDifferently([])).toBe(false);
  });

  it('never read a number as another than was printed, in any of the ways of printing', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...Object.values(markStyles)),
        fc.array(
          fc.record({
            whole: fc.integer({ min: 0, max: 9_999_999 }),
            tenths: fc.option(fc.integer({ min: 0, max: 9 })),
          }),
          { minLength: 1, maxLength: 12 },
        ),
        ({ decimal, groups, grouping }, numbers) => {
          const grouped = (whole: number) => {
            const digits = String(whole);
            const [first, rest = first] = grouping;
            if (digits.length <= first) return digits;
            const head = digits.slice(0, -first);
            return `${head.replace(new RegExp(`\\B(?=(\\d{${rest}})+$)`, 'g'), groups[0])}${groups[0]}${digits.slice(-first)}`;
          };
          const texts = numbers.map(
            ({ whole, tenths }) => `${grouped(whole)}${tenths === null ? '' : `${decimal}${tenths}`}`,
          );
          const marks = own(...texts);
          texts.forEach((text, i) => {
            const parsed = marks.read(text);
            if ('value' in parsed)
              expect(parsed.value, text).toBe(Number(`${numbers[i].whole}.${numbers[i].tenths ?? 0}`));
          });
          // One number that cannot be taken otherwise settles all.
          if (numbers.some(({ whole, tenths }) => tenths !== null && whole > 999))
            for (const text of texts) expect('value' in marks.read(text), text).toBe(true);
        },
      ),
    );
  });
});
