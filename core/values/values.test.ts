import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { formatOf, readerOf, unitOf, type Format } from './format';
import { locales, localeNames, type LocaleName } from './locale';
import { markNames, marksOf } from './marks';
import { daysOf } from './period';
import { decimalsOf, plainNumber } from './plain-number';
import { scaleIn, unitIn } from './unit';

const reading = (settings: Parameters<typeof formatOf>[0], locale: LocaleName = 'en-GB') =>
  readerOf(formatOf(settings), locales[locale]);
const number = (text: string, locale: LocaleName = 'en-GB', settings: Partial<Format> = {}) =>
  reading({ type: 'decimal', ...settings }, locale)(text);
const date = (text: string, locale: LocaleName = 'en-GB', settings: Partial<Format> = {}) =>
  reading({ type: 'date', ...settings }, locale)(text);
const period = (text: string, locale: LocaleName = 'en-GB', settings: Partial<Format> = {}) =>
  reading({ type: 'period', ...settings }, locale)(text);

describe('numbers as printed', () => {
  it.each([
    ['1,234.56', 1234.56],
    ['1 234.56', 1234.56],
    ['1\u202f234\u202f567', 1234567],
    ['(56.0)', -56],
    ['−12', -12],
    ['12-', -12],
    ['$ 1,000.50', 1000.5],
    ['-£5.20', -5.2],
    ['EUR 1,234.50', 1234.5],
    ['1,234.50 USD', 1234.5],
    ['48¹', 48],
    ['\u20091 234', 1234],
    ['7.80¹', 7.8],
    ['1,234*', 1234],
    ['0.05', 0.05],
    ['123456789012.345', 123456789012.345],
  ])('%s is %d', (text, value) => expect(number(text)).toEqual({ value }));

  it.each<[LocaleName, string, number]>([
    ['en-GB', '1,234,567.89', 1234567.89],
    ['en-US', '($1,234.50)', -1234.5],
    ['de-DE', '1.234.567,89', 1234567.89],
    ['de-DE', '1.234', 1234],
    ['de-DE', '-0,5 €', -0.5],
    ['de-CH', "1'234'567.89", 1234567.89],
    ['de-CH', 'Fr. 1’234.50', 1234.5],
    ['fr-FR', '1\u202f234\u202f567,89', 1234567.89],
    ['fr-FR', '12,5 €', 12.5],
    ['es-ES', '1.234.567,89', 1234567.89],
    ['it-IT', '1.234,5', 1234.5],
    ['nl-NL', '€ 1.234,50', 1234.5],
    ['sv-SE', '1\u00a0234\u00a0567,89', 1234567.89],
    ['sv-SE', '−1 234 kr', -1234],
    ['pl-PL', '1\u00a0234,50 zł', 1234.5],
    ['pt-BR', 'R$ 1.234,56', 1234.56],
    ['en-IN', '12,34,567.89', 1234567.89],
    ['en-IN', '₹1,00,000', 100000],
    ['ja-JP', '¥1,234,567', 1234567],
  ])('%s prints %s', (locale, text, value) => expect(number(text, locale)).toEqual({ value }));

  it.each(['n/k', '3.57.0', '12,34', '1,2345', '1.2.3', '12 kg', '1,234 567', '½', '1234567890123456', 'EUR'])(
    '%s is a misfit that says what was expected',
    (text) => {
      expect(number(text)).toEqual({ expected: expect.stringMatching(/^a number like 1,234\.5/) });
    },
  );

  it('takes a dash for blank or for zero, as set, and a blank for blank', () => {
    for (const text of ['–', '-', '--', '−', '$ –', '–€']) {
      expect(number(text)).toEqual({ value: null });
      expect(number(text, 'en-GB', { nil: 'zero' })).toEqual({ value: 0 });
      expect(number(text, 'en-GB', { absent: 'misfit' })).toEqual({ value: null });
    }
    expect(number('')).toEqual({ value: null });
    expect(number('keine', 'de-DE')).toEqual({ value: null });
  });

  it('never takes dots or a word for no value as zero because a dash is one: blank, zero or a misfit, as set', () => {
    for (const text of ['n/a', 'N/A', '..', '...', '·', 'nil']) {
      expect(number(text, 'en-GB', { nil: 'zero' })).toEqual({ value: null });
      expect(number(text, 'en-GB', { absent: 'zero' })).toEqual({ value: 0 });
      expect(number(text, 'en-GB', { absent: 'misfit' })).toHaveProperty('expected');
    }
  });

  it('takes no fraction for a whole number, and keeps the printed number of a percentage', () => {
    expect(number('12.5', 'en-GB', { type: 'integer' })).toHaveProperty('expected');
    expect(number('12.0', 'en-GB', { type: 'integer' })).toEqual({ value: 12 });
    expect(number('12.5 %', 'en-GB', { type: 'percent' })).toEqual({ value: 12.5 });
    expect(number('(4.5%)', 'en-GB', { type: 'percent' })).toEqual({ value: -4.5 });
    expect(number('5 ‰', 'en-GB', { type: 'percent' })).toEqual({ value: 0.5 });
  });

  it('takes the unit off that is set, and names another', () => {
    expect(number('1,234.5 kg', 'en-GB', { unit: 'kg' })).toEqual({ value: 1234.5 });
    expect(number('12kg.', 'en-GB', { unit: 'kg' })).toEqual({ value: 12 });
    expect(number('EUR -3.50', 'en-GB', { unit: 'EUR' })).toEqual({ value: -3.5 });
    expect(number('$ (1,234.50)', 'en-US', { unit: '$' })).toEqual({ value: -1234.5 });
    expect(number('$ (1,234.50)')).toEqual({ value: -1234.5 });
    expect(number('($ 1,234.50)', 'en-US', { unit: '$' })).toEqual({ value: -1234.5 });
    expect(number('$ ((1))')).toHaveProperty('expected');
    expect(number('12', 'en-GB', { unit: 'kg' })).toEqual({ value: 12 });
    expect(number('12 t', 'en-GB', { unit: 'kg' })).toEqual({ expected: 'a number like 1,234.5 in kg' });
  });

  it('multiplies a scale in exactly, or keeps it beside', () => {
    expect(number('1,234.567', 'en-GB', { scale: 'thousands' })).toEqual({ value: 1234567 });
    expect(number('0.29', 'en-GB', { scale: 'millions' })).toEqual({ value: 290000 });
    expect(number('1.005', 'en-GB', { scale: 'thousands', scaleIs: 'kept beside' })).toEqual({ value: 1.005 });
    expect(unitOf(formatOf({ type: 'decimal', unit: 't', scale: 'thousands', scaleIs: 'kept beside' }))).toBe(
      'thousands t',
    );
  });

  it('gives back what was printed, in every locale and mark style', () => {
    const cents = fc.integer({ min: -1e13, max: 1e13 });
    fc.assert(
      fc.property(
        cents,
        fc.constantFrom(...localeNames),
        fc.constantFrom(...markNames),
        fc.boolean(),
        (units, name, marks, brackets) => {
          const { decimal: point, groups, grouping } = marksOf(marks, locales[name]);
          const digits = String(Math.abs(units)).padStart(3, '0');
          let whole = digits.slice(-5, -2);
          for (let rest = digits.slice(0, -5); rest !== ''; rest = rest.slice(0, -grouping.at(-1)!))
            whole = `${rest.slice(-grouping.at(-1)!)}${groups[0]}${whole}`;
          const plain = `${whole}${point}${digits.slice(-2)}`;
          const text = units < 0 ? (brackets ? `(${plain})` : `-${plain}`) : plain;
          expect(number(text, name, { marks })).toEqual({ value: units / 100 });
        },
      ),
    );
  });

  it('add up to the cent over a million amounts', () => {
    const r = (n: number) => (Math.imul(n, 2654435761) >>> 0) % 99_999_999;
    let exact = 0n;
    let cents = 0;
    const read = reading({ type: 'decimal' });
    for (let n = 0; n < 100_000; n++) {
      const units = r(n) - 40_000_000;
      exact += BigInt(units);
      cents += Math.round((read((units / 100).toFixed(2)) as { value: number }).value * 100);
    }
    expect(BigInt(cents)).toBe(exact);
  });
});

describe('dates and periods as printed', () => {
  it.each([
    ['14 June 2025', '2025-06-14'],
    ['3rd Sept 2025', '2025-09-03'],
    ['Sat, 14 Jun 2025', '2025-06-14'],
    ['as at 3rd June 2025', '2025-06-03'],
    ['2025-06-14', '2025-06-14'],
    ['2025/06/14', '2025-06-14'],
    ['03/04/2025', '2025-04-03'],
    ['29 Feb 2024', '2024-02-29'],
    ['1 Jan 70', '1970-01-01'],
    ['1 Jan 69', '2069-01-01'],
    ['June 14, 2025', '2025-06-14'],
  ])('%s is %s', (text, value) => expect(date(text)).toEqual({ value }));

  it.each<[LocaleName, string, string]>([
    ['en-US', '03/04/2025', '2025-03-04'],
    ['en-US', 'Sep 3, 2025', '2025-09-03'],
    ['de-DE', '14. März 2025', '2025-03-14'],
    ['de-DE', '14.3.25', '2025-03-14'],
    ['de-CH', '14. Sept. 2025', '2025-09-14'],
    ['fr-FR', '1er août 2025', '2025-08-01'],
    ['fr-FR', '14 févr. 2025', '2025-02-14'],
    ['es-ES', '14 de junio de 2025', '2025-06-14'],
    ['it-IT', '14 giugno 2025', '2025-06-14'],
    ['nl-NL', '14 maart 2025', '2025-03-14'],
    ['nl-NL', '14-3-2025', '2025-03-14'],
    ['sv-SE', '2025-06-14', '2025-06-14'],
    ['sv-SE', '14 juni 2025', '2025-06-14'],
    ['pl-PL', '14 czerwca 2025 r.', '2025-06-14'],
    ['pt-BR', '14 de junho de 2025', '2025-06-14'],
    ['en-IN', '14/06/2025', '2025-06-14'],
    ['ja-JP', '2025年6月14日', '2025-06-14'],
  ])('%s prints %s', (locale, text, value) => expect(date(text, locale)).toEqual({ value }));

  it('follows the order and the pivot set', () => {
    expect(date('03/04/2025', 'en-GB', { order: 'month day year' })).toEqual({ value: '2025-03-04' });
    expect(date('25/06/14', 'en-GB', { order: 'year month day' })).toEqual({ value: '2025-06-14' });
    expect(date('1 Jan 70', 'en-GB', { pivot: 80 })).toEqual({ value: '2070-01-01' });
  });

  it.each(['n/k', '31 April 2025', '29 Feb 2025', '14/13/2025', '2025', '14 Brumaire 2025', '014/06/2025'])(
    '%s is a misfit',
    (text) => {
      expect(date(text)).toEqual({ expected: 'a date like 14 June 2025' });
    },
  );

  it.each([
    ['06:40', '06:40'],
    ['6.40 pm', '18:40'],
    ['12:05 am', '00:05'],
    ['23:59:07', '23:59:07'],
    ['7h05', '07:05'],
  ])('%s is the time %s', (text, value) => expect(reading({ type: 'time' })(text)).toEqual({ value }));
  it.each(['24:00', '6:72', '13:00 pm', 'noon'])('%s is no time', (text) =>
    expect(reading({ type: 'time' })(text)).toHaveProperty('expected'),
  );

  it.each([
    ['2025-06-02 06:40', '2025-06-02T06:40'],
    ['14 June 2025, 6.40 pm', '2025-06-14T18:40'],
    ['03/04/2025 at 10:00', '2025-04-03T10:00'],
  ])('%s is the moment %s', (text, value) => expect(reading({ type: 'datetime' })(text)).toEqual({ value }));

  it.each([
    ['1 h 30', 1.5],
    ['90 min', 1.5],
    ['2 d 4 h', 52],
    ['31:45', 31.75],
    ['1:30:36 h', 1.51],
  ])('%s lasts %d hours', (text, value) => expect(reading({ type: 'duration' })(text)).toEqual({ value }));
  it('measures durations in the unit set, and refuses what is none', () => {
    expect(reading({ type: 'duration', durationIn: 'minutes' })('1 h 30 min')).toEqual({ value: 90 });
    for (const text of ['30', '4 h 2 d', '1:75', 'long'])
      expect(reading({ type: 'duration' })(text)).toHaveProperty('expected');
  });

  it.each<[string, string, string, string, LocaleName]>([
    ['2025', '2025', '2025-01-01', '2025-12-31', 'en-GB'],
    ['June 2025', '2025-06', '2025-06-01', '2025-06-30', 'en-GB'],
    ['06/2025', '2025-06', '2025-06-01', '2025-06-30', 'en-GB'],
    ['Q2 2025', '2025-Q2', '2025-04-01', '2025-06-30', 'en-GB'],
    ['2. Quartal 2025', '2025-Q2', '2025-04-01', '2025-06-30', 'de-DE'],
    ['H2 2024', '2024-07/2024-12', '2024-07-01', '2024-12-31', 'en-GB'],
    ['FY 2024/25', '2024-04/2025-03', '2024-04-01', '2025-03-31', 'en-GB'],
    ['Week 24, 2025', '2025-W24', '2025-06-09', '2025-06-15', 'en-GB'],
    ['KW 1/2025', '2025-W01', '2024-12-30', '2025-01-05', 'de-DE'],
    ['2020-W53', '2020-W53', '2020-12-28', '2021-01-03', 'en-GB'],
    ['czerwiec 2025', '2025-06', '2025-06-01', '2025-06-30', 'pl-PL'],
    ['2025年6月', '2025-06', '2025-06-01', '2025-06-30', 'ja-JP'],
    ['junio de 2025', '2025-06', '2025-06-01', '2025-06-30', 'es-ES'],
    ['Feb 24', '2024-02', '2024-02-01', '2024-02-29', 'en-GB'],
  ])('%s is the period %s, from %s to %s', (text, value, first, last, locale) => {
    expect(period(text, locale)).toEqual({ value });
    expect(daysOf(value)).toEqual({ first, last });
  });

  it.each(['Week 53, 2025', '2025-13', 'Q5 2025', 'soon', '2024/26', '1.2034'])('%s is no period', (text) =>
    expect(period(text)).toHaveProperty('expected'),
  );

  it('tells yes from no in the words of the locale', () => {
    expect(['ja', 'Nein', '✓', '✗'].map((text) => reading({ type: 'boolean' }, 'de-DE')(text))).toEqual([
      { value: true },
      { value: false },
      { value: true },
      { value: false },
    ]);
    expect(reading({ type: 'boolean' })('perhaps')).toEqual({ expected: 'yes or no' });
  });

  it('gives back every date, in every locale', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 45_000 }), fc.constantFrom(...localeNames), (days, name) => {
        const iso = new Date(days * 86_400_000).toISOString().slice(0, 10);
        const [year, month, day] = iso.split('-').map(Number);
        const named =
          name === 'ja-JP' ? `${year}年${month}月${day}日` : `${day} ${locales[name].months[month - 1]} ${year}`;
        const numbers = locales[name].dateOrder
          .split(' ')
          .map((part) => (part === 'day' ? day : part === 'month' ? month : year))
          .join('/');
        for (const text of [iso, named, numbers]) expect(date(text, name)).toEqual({ value: iso });
      }),
    );
  });
});

describe('scales and units', () => {
  it.each<[string, number | undefined, LocaleName]>([
    ["Tonnes ('000)", 3, 'en-GB'],
    ['Revenue, £000s', 3, 'en-GB'],
    ['Cargo in thousands of tonnes', 3, 'en-GB'],
    ['Sales in millions', 6, 'en-GB'],
    ['Umsatz in Mio. €', 6, 'de-DE'],
    ['Umschlag in Tausend Tonnen', 3, 'de-DE'],
    ['Value $m', 6, 'en-GB'],
    ['2000 tonnes', undefined, 'en-GB'],
    ['Length m', undefined, 'en-GB'],
    ['1,000 vessels', undefined, 'en-GB'],
    ['Value (£ 1,000)', 3, 'en-GB'],
    ['Umschlag (1.000 t)', 3, 'de-DE'],
    ['Claims over £ 1,000', undefined, 'en-GB'],
    ['Old Mill School', undefined, 'es-ES'],
    ['Mill Road', undefined, 'es-ES'],
    ['Vehicle miles', undefined, 'es-ES'],
    ['Baltimore, MD', undefined, 'fr-FR'],
    ['Ventas (mill. €)', 6, 'es-ES'],
    ['Ventas en miles', 3, 'es-ES'],
    ['Miles de toneladas', 3, 'es-ES'],
    ['Vendas (R$ mil)', 3, 'pt-BR'],
    ['CA en Md €', 9, 'fr-FR'],
  ])('“%s” states 10^%s', (text, exponent, locale) => expect(scaleIn(text, locales[locale])?.exponent).toBe(exponent));

  it.each([
    ['Weight (kg)', 'kg'],
    ['Quota left (t)', 't'],
    ['Gross t', 't'],
    ['Share %', '%'],
    ['Amount [EUR]', 'EUR'],
    ['Species', ''],
    ['Cargo (dry)', ''],
    ['Price per kg', ''],
    ['0–30 days', ''],
    ['Over 60 days', ''],
    ['Paid in', ''],
    ['Length (in)', 'in'],
  ])('“%s” states the unit “%s”', (text, unit) => expect(unitIn(text)).toBe(unit));
});

describe('numbers for other programs', () => {
  it('have no exponent and mean the same', () => {
    expect([1e-7, 1.5e21, -2.5e-9, 0, 3339].map(plainNumber)).toEqual([
      '0.0000001',
      '1500000000000000000000',
      '-0.0000000025',
      '0',
      '3339',
    ]);
    fc.assert(
      fc.property(
        fc.double({ noNaN: true, noDefaultInfinity: true }),
        (n) => !/e/i.test(plainNumber(n)) && Number(plainNumber(n)) === n + 0,
      ),
    );
  });
});

describe('digits after the point', () => {
  it('are those of the number that has the most, whatever its size', () => {
    expect([
      decimalsOf([1, 2.5, 3.25]),
      decimalsOf([8589, null, 'x', true]),
      decimalsOf([1e-7]),
      decimalsOf([]),
      decimalsOf([{ text: 'n/k', expected: 'a number' }, 0.5]),
    ]).toEqual([2, 0, 7, 0, 1]);
  });
});
