import { describe, expect, it } from 'vitest';
import { landingSheet } from './landings';
import { headings, longDate, printed, printedRows } from './sheet-rows';

const amount = (text: string) =>
  text === '' || text === '–'
    ? 0
    : Math.round(Number(text.replace(/[(,)]|\^1$/g, '')) * 100) * (text.startsWith('(') ? -1 : 1);
const weeks = Array.from({ length: 16 }, (_, i) => 22 + i);

/** By how much, in hundredths, each printed total of a week differs from the lines above it. */
function differences(week: number): number[] {
  const off: number[] = [];
  let own = 0;
  let all = 0;
  for (const { kind, cells } of printedRows(landingSheet(week))) {
    const value = amount(cells[6]);
    if (kind === 'line') {
      own += value;
      all += value;
    } else if (kind === 'total') {
      off.push(value - own);
      own = 0;
    } else if (kind === 'grand total') off.push(value - all);
  }
  return off;
}

describe('the made-up landing sheets', () => {
  it('add up, but for the one planted misprint', () => {
    const wrong = weeks.flatMap((week) =>
      differences(week)
        .filter((off) => off !== 0)
        .map((off) => [week, off]),
    );
    expect(wrong).toEqual([[29, 4000]]);
  });

  it('are the same every time, and differ from week to week', () => {
    expect(landingSheet(24)).toEqual(landingSheet(24));
    expect(printedRows(landingSheet(24))).not.toEqual(printedRows(landingSheet(25)));
  });

  it('have one more column from week 28, and one odd spelling in week 30', () => {
    expect(weeks.filter((week) => headings(landingSheet(week))[0].length === 8)).toEqual(
      weeks.filter((week) => week >= 28),
    );
    expect(weeks.filter((week) => headings(landingSheet(week))[0][2] !== 'Boxes')).toEqual([30]);
  });

  it('print as people do', () => {
    expect([printed(1301440, 2), printed(-560, 1), printed(5, 2), printed(2587, 0)]).toEqual([
      '13,014.40',
      '(56.0)',
      '0.05',
      '2,587',
    ]);
    expect([landingSheet(24).ending, longDate('2025-06-14')]).toEqual(['2025-06-14', '14 June 2025']);
  });
});
