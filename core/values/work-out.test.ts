import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { readerOf, type Format } from './format';
import { locales, localeNames, type LocaleName } from './locale';
import { markNames, markStyles, type MarkName } from './marks';
import { workOut } from './work-out';

const told = (texts: (string | null)[], name = 'Column', locale: LocaleName = 'en-GB', titles: string[] = []) =>
  workOut({ name, texts, titles }, locales[locale]);
const many = (count: number, of: (n: number) => string) => Array.from({ length: count }, (_, n) => of(n));

describe('working out what a column is', () => {
  it.each<[string, string[], Partial<Format>]>([
    ['whole numbers', ['1,234', '56', '(7)', '–'], { type: 'integer', marks: 'as the locale' }],
    ['decimals', ['1,234.50', '56', '7.25'], { type: 'decimal' }],
    ['decimals by their comma', ['1.234,50', '56,10', '7,25'], { type: 'decimal', marks: '1.234,56' }],
    ['thin spaces', ['1\u202f234,5', '12,5'], { type: 'decimal', marks: '1 234,56' }],
    ['apostrophes', ["1'234.50", '12.5'], { type: 'decimal', marks: "1'234.56" }],
    ['lakhs', ['12,34,567.00', '1,00,000.00', '5,000.00'], { type: 'decimal', marks: '12,34,567.89' }],
    ['percentages', ['12.5 %', '3 %', '(0.5 %)'], { type: 'percent' }],
    ['amounts in a currency', ['€ 12.50', '€ 1,200.00', '€ 3.10'], { type: 'decimal', unit: '€' }],
    ['weights', ['12 kg', '7.5 kg', '1,200 kg'], { type: 'decimal', unit: 'kg' }],
    ['dates', ['14 June 2025', '3rd Sept 2025', '2025-06-01'], { type: 'date' }],
    ['American dates', ['03/04/2025', '06/14/2025', '12/31/2024'], { type: 'date', order: 'month day year' }],
    ['moments', ['2025-06-02 06:40', '2025-06-03 18:05'], { type: 'datetime' }],
    ['times', ['06:40', '18:05', '23:59'], { type: 'time' }],
    ['durations', ['31:45', '06:40', '102:10'], { type: 'duration' }],
    ['durations in words', ['1 h 30', '90 min', '2 h'], { type: 'duration' }],
    ['years', ['2019', '2020', '2024'], { type: 'period' }],
    ['quarters', ['Q1 2025', 'Q2 2025'], { type: 'period' }],
    ['yes and no', ['yes', 'no', 'no'], { type: 'boolean' }],
    ['vouchers with a letter that is also a unit', ['V1001', 'V1002', 'V1003'], { type: 'text' }],
    ['numbers of slips with a word that is also a unit', ['IN-101', 'IN-102', 'IN-103'], { type: 'text' }],
    ['weights behind their unit', ['kg 12', 'kg 7.5'], { type: 'decimal', unit: 'kg' }],
    ['words', ['Saltby', 'Tern Point', 'Fairlead'], { type: 'text' }],
    ['prices that could be times', ['6.31', '4.15', '1.62', '12.05'], { type: 'decimal' }],
    ['rates that could be months', ['1.2034', '1.1999'], { type: 'decimal' }],
  ])('%s', (_, texts, format) => expect(told(texts)).toMatchObject({ format, misfits: 0 }));

  it.each(['Duration', 'Liegedauer', 'Durée', 'Engine hours', 'Worked', 'Break'])(
    'under “%s” minutes behind a colon are of how long something took',
    (name) => {
      expect(told(['4:12', '2:19', '11:30'], name)).toMatchObject({
        format: { type: 'duration' },
        misfits: 0,
        values: [4.2, 2.31666666666667, 11.5],
      });
      expect(told(['4:12', '2:19', '11:30'], 'From').format.type).toBe('time');
      expect(told(['12', '30', '7'], name).format.type).toBe('integer');
    },
  );

  it.each<[string, string[], string, RegExp]>([
    ['leading zeros', ['00412', '00413', '12001'], 'Vessel', /“00412” begins with a zero/],
    ['more digits than a number keeps', ['1234567890123456', '1234567890123457'], 'Vessel', /more than 15 digits/],
    ['one fixed length', many(9, (n) => String(471_100 + n * 37)), 'Vessel', /all 9 values have 6 digits/],
    ['a heading that speaks of a code', many(6, (n) => String(411 + n * 37)), 'Berth no.', /the heading speaks of one/],
    ['zeros at the end that tell values apart', ['1.1', '1.10', '1.2'], 'Clause', /“1.1” and “1.10”/],
  ])('%s tell codes from numbers, with the reason', (_, texts, name, reason) => {
    const result = told(texts, name);
    expect(result.format.type).toBe('text');
    expect(result.reason).toMatch(reason);
  });

  it('keeps amounts of one length with fractions or marks as numbers', () => {
    expect(told(many(9, (n) => `${471 + n},100`)).format.type).toBe('integer');
    expect(told(many(9, (n) => `${4711 + n}.50`)).format.type).toBe('decimal');
    expect(told(['12.5', '12.50x', '7.25', '3.1', '4.2', '5.5', '8.25', '9.1', '1.2', '2.3', '6.7']).format.type).toBe(
      'decimal',
    );
  });

  it('counts what is printed for nothing, sign by sign', () => {
    expect(told([...many(9, (n) => `1,2${10 + n}`), '–', '–', 'n/a', '–']).reason).toBe(
      'All 9 values are read as whole number. Printed for nothing: 3 × “–”, 1 × “n/a”.',
    );
  });

  it('names misfits with their rows, and the runner-up', () => {
    const result = told([...many(30, (n) => `1,2${10 + n}`), 'n/k', '45.5.1']);
    expect(result.format.type).toBe('integer');
    expect(result.misfits).toBe(2);
    expect(result.firstMisfits).toEqual([
      { row: 30, text: 'n/k', expected: 'a whole number like 1,234' },
      { row: 31, text: '45.5.1', expected: 'a whole number like 1,234' },
    ]);
    expect(result.reason).toBe('30 of 32 values are read as whole number.');
    expect(result.values[0]).toBe(1210);
  });

  it('takes text where too many do not fit, and offers the number', () => {
    const result = told(['12', 'n/k', 'unknown', '14']);
    expect(result).toMatchObject({
      format: { type: 'text' },
      reason: 'Only 2 of 4 values are a whole number.',
      runnerUp: { says: 'whole number', misfits: 2 },
    });
  });

  it('says what is open, and what would settle it', () => {
    expect(told(['03/04/2025', '05/06/2025']).doubt).toMatch(
      /“03\/04\/2025” could have the day or the month first.*A day over 12 would settle it/,
    );
    expect(told(['03/04/2025', '25/06/2025']).doubt).toBeUndefined();
    expect(told([...many(20, () => '14/04/2025'), '04/14/2025']).doubt).toMatch(
      /those that do not fit the order of most are misfits/,
    );
    expect(told(['1,234', '5,678']).doubt).toMatch(
      /“1,234” could have its decimals or its thousands after the mark.*1,234\.5/,
    );
    expect(told(['1,234', '5,678.5']).doubt).toBeUndefined();
    expect(told(['1,234', '5,678'], 'Column', 'de-DE').format.type).toBe('decimal');
  });

  it('tells thousands by values without a mark, and decimals by a zero before it', () => {
    expect(told(['28.065', '7.184', '316'])).toMatchObject({
      format: { type: 'integer', marks: '1.234,56' },
      values: [28065, 7184, 316],
    });
    expect(told(['28.065', '7.184', '316']).doubt).toBeUndefined();
    expect(told(['28.065', '0.184'])).toMatchObject({ format: { type: 'decimal' }, values: [28.065, 0.184] });
    expect(told(['28.065', '0.184']).doubt).toBeUndefined();
    // A zero is none of the values that tell.
    expect(told(['28.065', '7.184', '0']).doubt).toMatch(/could have its decimals or its thousands/);
    // No thousand begins with a zero: it is told, not read.
    expect(readerOf({ ...told(['1.5']).format }, locales['en-GB'])('0,123')).toHaveProperty('expected');
  });

  it('finds the scale in the title and the unit in the heading, and shows them', () => {
    expect(told(['1,234.5', '12.0'], 'Handled (t)', 'en-GB', ['Cargo in thousands of tonnes'])).toMatchObject({
      format: { type: 'decimal', unit: 't', scale: 'thousands', scaleIs: 'kept beside' },
      reason: expect.stringMatching(/“in thousands” is printed in the title/),
    });
    expect(told(['12.5', '3.0'], 'Change %').format.type).toBe('percent');
  });

  it('takes another unit in between for a misfit', () => {
    const result = told([...many(19, (n) => `${n + 1} kg`), '3 t']);
    expect(result.format.unit).toBe('kg');
    expect(result.firstMisfits).toEqual([{ row: 19, text: '3 t', expected: 'a whole number like 1,234 in kg' }]);
  });

  it('has nothing to tell by in a blank column', () => {
    expect(told([null, '', null]).reason).toBe('Every cell is blank.');
    expect(told(['–', '..']).reason).toBe('Nothing but signs for nothing is printed.');
  });

  const amounts = fc.array(fc.integer({ min: -9e9, max: 9e9 }), { minLength: 3, maxLength: 60 });
  const styles = markNames.filter((name) => name !== 'as the locale') as (keyof typeof markStyles)[];
  const printed = (units: number, name: MarkName) => {
    const { decimal, groups, grouping } = markStyles[name as keyof typeof markStyles];
    const digits = String(Math.abs(units)).padStart(3, '0');
    let whole = digits.slice(-5, -2);
    for (let rest = digits.slice(0, -5); rest !== ''; rest = rest.slice(0, -grouping.at(-1)!))
      whole = `${rest.slice(-grouping.at(-1)!)}${groups[0]}${whole}`;
    return `${units < 0 ? '-' : ''}${whole}${decimal}${digits.slice(-2)}`;
  };

  it('reads every amount for what it is, whatever the marks, the locale and the order of rows', () => {
    fc.assert(
      fc.property(amounts, fc.constantFrom(...styles), fc.constantFrom(...localeNames), (units, style, locale) => {
        // One amount with both marks settles which is which.
        const all = [123_456_789, ...units];
        const texts = all.map((each) => printed(each, style));
        const result = told(texts, 'Amount', locale);
        expect(result.values).toEqual(all.map((each) => each / 100));
        const turned = told([...texts].reverse(), 'Amount', locale);
        expect(turned.format).toEqual(result.format);
        expect(turned.values).toEqual([...result.values].reverse());
      }),
    );
  });

  it('never lets one odd value change the others', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 100, max: 9e7 }), { minLength: 20, maxLength: 60 }),
        fc.constantFrom('n/k', '1.234,5', 'see note', '12/2025', '45%'),
        (units, odd) => {
          const texts = [...units, 123_456_789].map((each) => printed(each, '1,234.56'));
          const result = told([...texts, odd], 'Amount');
          expect(result.values.slice(0, -1)).toEqual([...units, 123_456_789].map((each) => each / 100));
          expect(result.misfits).toBe(1);
        },
      ),
    );
  });

  it('means one thing by one text: what is written into the settings reads the same', () => {
    fc.assert(
      fc.property(
        fc.array(fc.constantFrom('1,234', '12.5', '03/04/2025', '2025', 'yes', 'n/k', '12 kg', '–', '007', 'Q1 2025'), {
          minLength: 1,
          maxLength: 40,
        }),
        (texts) => {
          const result = told(texts);
          const read = readerOf(result.format, locales['en-GB']);
          texts.forEach((text, row) => {
            const parsed = read(text);
            expect(result.values[row]).toEqual('value' in parsed ? parsed.value : null);
          });
        },
      ),
    );
  });
});

describe('identifiers that look like periods', () => {
  it.each<[string, string[]]>([
    ['Sample', ['W26-0153', 'W26-0154', 'W26-0155']],
    ['Job', ['MAR-1204', 'MAR-1205', 'APR-1206']],
    ['Order', ['Q1-3300', 'Q1-3301', 'Q2-3302']],
    ['Lot', ['H2-0450', 'H2-0451', 'H1-0452']],
    ['Ticket', ['JAN/0007', 'JAN/0008', 'FEB/0009']],
    ['Probe', ['KW12-3401', 'KW12-3402', 'KW13-3403']],
    ['Ref.', ['W26-2001', 'W26-2002', 'W26-2003']],
    ['Label', ['MAR-1701', 'MAR-1850', 'APR-2044', 'MAY-1999']],
  ])('under “%s” are text: %j', (name, texts) => {
    for (const locale of ['en-GB', 'de-DE'] as const) expect(told(texts, name, locale).format.type).toBe('text');
  });

  it.each<[string, string[]]>([
    ['Quarter', ['Q1 2024', 'Q2 2024', 'Q3 2024']],
    ['Month', ['MAR-2024', 'APR-2024', 'MAY-2024']],
    ['Week', ['W26-2024', 'W27-2024', 'W26-2024']],
    ['Order month', ['Mar 2024', 'Mar 2024', 'Apr 2024', 'Apr 2024']],
  ])('are not those under “%s”: %j', (name, texts) => {
    expect(told(texts, name).format.type).toBe('period');
  });
});
