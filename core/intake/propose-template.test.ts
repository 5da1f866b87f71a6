import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { monthOf, quarterOf, weekOf } from '../values/period';
import { nameFacts } from './file-names';
import { proposedTemplates } from './propose-template';

const periods = (names: readonly string[], year?: number) => {
  const [best] = proposedTemplates(names, year);
  return (
    best && {
      template: best.template,
      periods: names.map((name) => nameFacts(name, { template: best.template, ...(year ? { year } : {}) }).period),
    }
  );
};

describe('a template proposed from the names that are there', () => {
  it.each<[string, string[], string, string[]]>([
    [
      'week numbers after a word',
      ['week-22.pdf', 'week-23-r2.pdf', 'week-24.pdf'],
      'week-{week}.pdf',
      ['2025-W22', '2025-W23', '2025-W24'],
    ],
    [
      'ISO months',
      ['Statement 2025-01.pdf', 'Statement 2025-11 amended.pdf'],
      'Statement {year}-{month}.pdf',
      ['2025-01', '2025-11'],
    ],
    [
      'month names, long and short, in several languages',
      ['Dues June 2025.pdf', 'Dues Mai 2025.pdf', 'Dues oct 2024.pdf'],
      'Dues {month} {year}.pdf',
      ['2025-06', '2025-05', '2024-10'],
    ],
    [
      'quarters',
      ['throughput_Q1_2025.pdf', 'throughput_Q4_2024 (2).pdf'],
      'throughput_Q{quarter}_{year}.pdf',
      ['2025-Q1', '2024-Q4'],
    ],
    [
      'weeks of the year in German',
      ['Liste_KW09_2025.pdf', 'Liste_KW10_2025.pdf'],
      'Liste_KW{week}_{year}.pdf',
      ['2025-W09', '2025-W10'],
    ],
    ['years', ['register-2023.pdf', 'register-2024 final.pdf'], 'register-{year}.pdf', ['2023', '2024']],
    [
      'days without a mark between their parts',
      ['tides20250607.pdf', 'tides20250614.pdf'],
      'tides{year:4}{month:2}{day:2}.pdf',
      ['2025-06-07', '2025-06-14'],
    ],
    [
      'days, the day first',
      ['log 14-06-2025.pdf', 'log 05-07-2025.pdf'],
      'log {day}-{month}-{year}.pdf',
      ['2025-06-14', '2025-07-05'],
    ],
    [
      'days that could be read either way, the day first',
      ['gates 03-05-2025.pdf', 'gates 04-05-2025.pdf'],
      'gates {day}-{month}-{year}.pdf',
      ['2025-05-03', '2025-05-04'],
    ],
    [
      'days, the month first where no other reading fits',
      ['log 06-14-2025.pdf', 'log 07-05-2025.pdf'],
      'log {month}-{day}-{year}.pdf',
      ['2025-06-14', '2025-07-05'],
    ],
    ['years of two digits', ['calls 06 25.pdf', 'calls 11 24.pdf'], 'calls {month} {year}.pdf', ['2025-06', '2024-11']],
    [
      'words that differ from file to file',
      ['saltby week 22.pdf', 'tern week 23.pdf'],
      '{part} week {week}.pdf',
      ['2025-W22', '2025-W23'],
    ],
  ])('%s', (_, names, template, told) =>
    expect(periods(names, template.includes('year') ? undefined : 2025)).toEqual({ template, periods: told }),
  );

  it('tells series of reports apart, in the names or by their folders, where each goes on over several periods', () => {
    const [named] = proposedTemplates(
      ['saltby week 22.pdf', 'tern week 22.pdf', 'saltby week 23.pdf', 'tern week 23.pdf', 'tern week 23-r2.pdf'],
      2025,
    );
    expect(named.template).toBe('{series} week {week}.pdf');
    const [folders] = proposedTemplates([
      'north/calls-2024.pdf',
      'west/calls-2024.pdf',
      'north/calls-2025.pdf',
      'west/calls-2025.pdf',
    ]);
    expect(folders.template).toBe('{series}/calls-{year}.pdf');
  });

  it('takes letters and digits that run into each other for one part', () => {
    expect(periods(['a1b week 22.pdf', 'c2d week 23.pdf'], 2025)).toEqual({
      template: '{part} week {week}.pdf',
      periods: ['2025-W22', '2025-W23'],
    });
    expect(proposedTemplates(['x7k2025q.pdf', 'y8m2025r.pdf']).every(({ template }) => !/\}\{/.test(template))).toBe(
      true,
    );
  });

  it('takes no mark that is another in each file for a series: those may be issues of one report', () => {
    expect(
      proposedTemplates(['8fa week 22.pdf', '77c week 22.pdf', 'b0d week 23.pdf'], 2025)[0].template,
    ).not.toContain('{series}');
    // Each period comes once anyway.
    expect(proposedTemplates(['north/calls-2024.pdf', 'west/calls-2025.pdf'])[0].template).toBe('calls-{year}.pdf');
    // One series has the same period twice: that is a question.
    expect(
      proposedTemplates([
        'a/calls-2024.pdf',
        'a/b/calls-2024.pdf',
        'a/calls-2025.pdf',
        'b/calls-2025.pdf',
        'b/calls-2024.pdf',
      ])[0].template,
    ).toBe('calls-{year}.pdf');
  });

  it('takes no number that counts something else for a month or a day', () => {
    expect(
      proposedTemplates(['omzet 2025 deel 1.pdf', 'omzet 2025 deel 2.pdf']).map(({ template }) => template),
    ).toEqual(['omzet {year} deel {part}.pdf']);
    expect(proposedTemplates(['berth 4 notes.pdf', 'berth 5 notes.pdf'])).toEqual([]);
  });

  it('is none where the names tell nothing', () => {
    expect(proposedTemplates(['berth notes.pdf', 'final.pdf'])).toEqual([]);
    expect(proposedTemplates([])).toEqual([]);
  });

  it('never fails, whatever the files are called', () => {
    const part = fc.constantFrom(
      'a',
      'b7',
      '2025',
      '06',
      'week',
      '24',
      '-',
      ' ',
      '_',
      '(2)',
      '{x}',
      '[y]',
      '/',
      '.',
      'Q3',
      '20250614',
      'ä',
    );
    fc.assert(
      fc.property(
        fc.array(
          fc.array(part, { minLength: 1, maxLength: 8 }).map((parts) => `${parts.join('')}.pdf`),
          { maxLength: 8 },
        ),
        (names) => {
          for (const { template, fits } of proposedTemplates(names))
            expect(
              names.filter((name) => nameFacts(name, { template, year: 2000 }).period !== undefined).length,
              template,
            ).toBeGreaterThanOrEqual(Math.min(1, fits));
        },
      ),
      { numRuns: 300 },
    );
  });

  it('says how many names it fits', () => {
    expect(proposedTemplates(['week-22.pdf', 'week-23.pdf', 'notes.txt'], 2025)[0]).toEqual({
      template: 'week-{week}.pdf',
      fits: 2,
      periods: 2,
      needsYear: true,
      said: true,
    });
  });

  it('finds the periods again that names were made of', () => {
    const two = (n: number) => String(n).padStart(2, '0');
    const year = fc.integer({ min: 2001, max: 2030 });
    const makers = fc.constantFrom<(y: number, n: number) => [string, string]>(
      (y, n) => [`port sheet ${y}-${two(1 + (n % 12))}.pdf`, monthOf(y, 1 + (n % 12))!],
      (y, n) => [`q${1 + (n % 4)}-${y} traffic.pdf`, quarterOf(y, 1 + (n % 4))!],
      (y, n) => [`wk${two(1 + (n % 52))}_${y}.pdf`, weekOf(y, 1 + (n % 52))!],
      (y, n) => [`${y}${two(1 + (n % 12))}${two(1 + (n % 28))}.pdf`, `${y}-${two(1 + (n % 12))}-${two(1 + (n % 28))}`],
    );
    fc.assert(
      fc.property(
        makers,
        fc.uniqueArray(fc.tuple(year, fc.nat(600)), { minLength: 14, maxLength: 30 }),
        (make, moments) => {
          const made = moments.map(([y, n]) => make(y, n));
          expect(periods(made.map(([name]) => name)).periods).toEqual(made.map(([, period]) => period));
        },
      ),
    );
  });
});
