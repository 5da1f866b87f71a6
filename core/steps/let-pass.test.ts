import { describe, expect, it } from 'vitest';
import { around, paper, textSheet } from '../testing/sheets';
import { lettingPass, rowSays } from './let-pass';
import { kinds } from './kinds';
import * as v from 'valibot';

const sheet = textSheet([
  ['Item', 'Boxes'],
  ['Total Fish  Oil', '12'],
  ['Total', '9'],
  ['Hake', '3'],
]);
const { papers } = around(paper('week-24.pdf'));

describe('letting held rows pass', () => {
  it('knows a row by its texts, as amounts are others in every report', () => {
    expect(rowSays(['Total Fish  Oil', '12', '', 'kg'])).toBe('Total Fish Oil · kg');
    expect(rowSays(['12', '', '9'])).toBe('12 · 9');
  });

  it('in every report, or in the one named', () => {
    expect(lettingPass([{ text: 'total fish oil' }], papers)(sheet, 0)).toBe(true);
    expect(lettingPass([{ text: 'Total Fish Oil', report: 'week-24.pdf' }], papers)(sheet, 0)).toBe(true);
    expect(lettingPass([{ text: 'Total Fish Oil', report: 'week-25.pdf' }], papers)(sheet, 0)).toBe(false);
    expect(lettingPass([{ text: 'Total Fish Oil' }], papers)(sheet, 1)).toBe(false);
  });

  it.each([
    ['hold totals', { wording: ['Total*'] }],
    ['sift rows', { conditions: [{ of: { is: 'column', name: 'Item' }, test: 'starts with', value: 'Total' }] }],
    ['trim rows', { top: 2 }],
    ['promote header rows', { rows: 2 }],
  ])('%s passes the row and holds the other', (kind, settings) => {
    const declaration = kinds.get(kind)!;
    const letPass = lettingPass([{ text: 'Total Fish Oil' }], papers);
    const result = declaration.run(sheet, v.parse(declaration.settings, settings), {
      ...around(),
      papers,
      letPass,
    });
    expect(result.sheet.columns[0].cells).toEqual(['Total Fish  Oil', 'Hake']);
    expect(result.held!.rows.columns[0].cells).toEqual(['Total']);
  });
});
