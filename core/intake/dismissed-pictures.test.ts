import { describe, expect, it } from 'vitest';
import { parsePipeline } from '../pipeline/document';
import { isDismissed } from './dismissed-pictures';

const logo = [40, 30, 160, 70] as const;
const at = (box: readonly number[], report: string, page: number) => ({
  box: box as unknown as [number, number, number, number],
  report,
  page,
});

describe('a picture that holds no table', () => {
  it('is dismissed on its page alone, or at its place in every report', () => {
    const here = [{ box: [...logo], report: 'week-22.pdf', page: 1 }];
    expect(isDismissed(here, at(logo, 'week-22.pdf', 1))).toBe(true);
    expect(isDismissed(here, at(logo, 'week-22.pdf', 2))).toBe(false);
    expect(isDismissed(here, at(logo, 'week-23.pdf', 1))).toBe(false);
    expect(isDismissed([{ box: [...logo] }], at(logo, 'week-23.pdf', 7))).toBe(true);
  });

  it('is the same where it has moved a little, and another where it is larger', () => {
    const anywhere = [{ box: [...logo] }];
    expect(isDismissed(anywhere, at([42, 31, 161, 72], 'week-23.pdf', 1))).toBe(true);
    expect(isDismissed(anywhere, at([40, 30, 160, 300], 'week-23.pdf', 1))).toBe(false);
  });

  it('is kept in the document, and a place that is none is refused', () => {
    const document = (pictures: unknown) => ({
      format: 'able-sieve/pipeline',
      version: 1,
      name: 'x',
      take: [],
      eachTable: [],
      eachReport: [],
      allReports: [],
      reports: { pictures },
    });
    expect(parsePipeline(document([{ box: [...logo] }])).reports.pictures).toEqual([{ box: [...logo] }]);
    expect(() => parsePipeline(document([{ box: [1, 2] }]))).toThrow('left, top, right and bottom');
  });
});
