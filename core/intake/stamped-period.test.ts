import { describe, expect, it } from 'vitest';
import { page, words } from '../testing/print';
import { stampedPeriod } from './stamped-period';

const pages = [
  page(words(['Northreach Harbour Board', 'Landings']), { number: 1 }),
  page(words(['Week ending 14 June 2025', 'Quay  Boxes']), { number: 2 }),
];

describe('the period that the paper says', () => {
  it.each<[string, string[], string, 'en-GB' | 'de-DE', string | undefined]>([
    ['a date as its day', ['Week ending 14 June 2025'], 'Week ending {period}', 'en-GB', '2025-06-14'],
    ['a date in the order of the place', ['Stand: 07.06.2025'], 'Stand: {date}', 'de-DE', '2025-06-07'],
    ['a quarter', ['Throughput for Q2 2025'], 'Throughput for {period}', 'en-GB', '2025-Q2'],
    ['a month', ['Statement of June 2025'], 'Statement of {month}', 'en-GB', '2025-06'],
    ['nothing where the text is no period', ['Week ending soon'], 'Week ending {period}', 'en-GB', undefined],
    ['nothing where no line fits', ['Landings'], 'Week ending {period}', 'en-GB', undefined],
  ])('%s', (_, lines, template, locale, period) =>
    expect(stampedPeriod([page(words(lines))], { template, locale })).toBe(period),
  );

  it('is the first that is printed, on whatever page', () =>
    expect(stampedPeriod(pages, { template: 'Week ending {period}', locale: 'en-GB' })).toBe('2025-06-14'));
});
