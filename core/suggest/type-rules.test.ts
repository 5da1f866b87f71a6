import { describe, expect, it } from 'vitest';
import type { TypeRule } from '../steps/set-types';
import { formatOf } from '../values/format';
import { rulesByColumn, withFormat, withWorkedOut } from './type-rules';

const rule = (names: string[], type: 'integer' | 'decimal'): TypeRule => ({
  columns: { by: 'names', names },
  ...formatOf({ type }),
  reason: '',
  byHand: false,
  settled: '',
});

describe('rules of types by column', () => {
  it('are the last that choose a column', () => {
    const types: TypeRule[] = [
      { ...rule([], 'decimal'), columns: { by: 'all but', names: ['Name'] } },
      rule(['Boxes'], 'integer'),
    ];
    const found = rulesByColumn(types, ['Name', 'Boxes', 'Value']);
    expect([found.get('Name'), found.get('Boxes')!.type, found.get('Value')!.type]).toEqual([
      undefined,
      'integer',
      'decimal',
    ]);
  });

  it('are changed for one column without touching its fellows', () => {
    const types = withFormat([rule(['Boxes', 'Value'], 'decimal')], 'Boxes', { type: 'integer' });
    expect(types.map(({ columns, type }) => [columns, type])).toEqual([
      [{ by: 'names', names: ['Value'] }, 'decimal'],
      [{ by: 'names', names: ['Boxes'] }, 'integer'],
    ]);
    expect(withFormat(types, 'Boxes', { unit: 'pcs' })[1]).toMatchObject({ type: 'integer', unit: 'pcs' });
  });

  it('take what was worked out, but for columns of words', () => {
    const proposed = [
      {
        name: 'Boxes',
        everywhere: true,
        format: formatOf({ type: 'integer' }),
        reason: 'All 3 values are read as whole number.',
      },
      { name: 'Species', everywhere: true, format: formatOf({ type: 'text' }), reason: 'The values are words.' },
      {
        name: 'Reg. no.',
        everywhere: false,
        format: formatOf({ type: 'text' }),
        reason: 'A code: “007” begins with a zero that a number would lose.',
      },
    ];
    const types = withWorkedOut([rule(['Boxes', 'Value'], 'decimal')], proposed);
    expect(types.map(({ columns, type }) => [columns, type])).toEqual([
      [{ by: 'names', names: ['Value'] }, 'decimal'],
      [{ by: 'names', names: ['Boxes'] }, 'integer'],
      // Not every report has it.
      [{ by: 'names matching', pattern: 'Reg. no.' }, 'text'],
    ]);
    expect(withFormat(types, 'Reg. no.', { type: 'integer' })).toHaveLength(3);
  });

  it('stay as they were set by hand when types are worked out again', () => {
    const byHand = withFormat([], 'Boxes', { type: 'text', byHand: true });
    const worked = ['Boxes', 'Value'].map((name) => ({
      name,
      everywhere: true,
      format: formatOf({ type: 'integer' }),
      reason: 'All 3 values are read as whole number.',
    }));
    expect(withWorkedOut(byHand, worked).map(({ columns, type }) => [columns, type])).toEqual([
      [{ by: 'names', names: ['Boxes'] }, 'text'],
      [{ by: 'names', names: ['Value'] }, 'integer'],
    ]);
  });
});
