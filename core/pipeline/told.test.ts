import { describe, expect, it } from 'vitest';
import { sentence, type Problem } from '../sheet/problem';
import { toldProblems } from './told';

const misfit = (n: number, column = 'Boxes'): Problem => ({
  kind: 'misfit',
  report: '7',
  page: n,
  step: 'types',
  column,
  expected: 'a number',
  came: `“x${n}”`,
  remedy: 'Correct it.',
});

describe('problems that are told', () => {
  it('are the first of many alike, with how many more there are', () => {
    const told = toldProblems([...Array.from({ length: 9 }, (_, n) => misfit(n)), misfit(1, 'Value')]);
    expect(told.map(({ column, page, more }) => [column, page, more])).toEqual([
      ['Boxes', 0, undefined],
      ['Boxes', 1, undefined],
      ['Boxes', 2, 6],
      ['Value', 1, undefined],
    ]);
  });

  it('become sentences with the names that report and step have where they are shown', () => {
    expect(sentence({ ...misfit(2), more: 6 }, { report: () => 'week-24.pdf', step: () => 'Set types' })).toBe(
      'week-24.pdf, page 2, step “Set types”, column “Boxes”: expected a number, got “x2”. Correct it. 6 more like it are marked in the sheet.',
    );
    expect(sentence(misfit(2))).toMatch(/^7, page 2, step “types”, column “Boxes”/);
  });
});
