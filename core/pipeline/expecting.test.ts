import { describe, expect, it } from 'vitest';
import { parsePipeline } from './document';
import { expectingOf } from './expecting';

const step = (kind: string, settings: object, more: object = {}) => ({
  id: kind.replaceAll(' ', '-'),
  kind,
  settings,
  ...more,
});
const expecting = (eachReport: object[], more: object = {}) =>
  expectingOf(
    parsePipeline({ format: 'able-sieve/pipeline', version: 1, name: 'E', take: [{ name: 'T' }], eachReport, ...more }),
  );

describe('what a document expects', () => {
  it('are the columns that its steps and spellings name, and no other word of their settings', () => {
    const { knows, spelled } = expecting(
      [
        step('set types', { types: [{ columns: { by: 'names', names: ['Boxes'] }, type: 'date' }] }),
        step('rename', { names: [{ from: ['No. of boxes'], to: 'Crates' }] }),
        step('sort', { by: [{ column: 'Off' }] }, { off: true }),
      ],
      { spellings: [{ to: 'Weight', from: ['Wt'] }] },
    );
    expect(['Boxes', 'No. of boxes', 'Weight', 'Wt'].filter(knows)).toHaveLength(4);
    // A column called "date" or "names" is as new as any other.
    expect(['date', 'names', 'Crates', 'boxes', 'Off'].filter(knows)).toEqual([]);
    expect([spelled('wt'), spelled('Wide')]).toEqual(['Weight', 'Wide']);
  });

  it('are those that only some reports have too, once each is typed by its name', () => {
    const { knows } = expecting([
      step('set types', {
        types: [
          { columns: { by: 'names matching', pattern: 'Quota left (t)' }, type: 'decimal' },
          { columns: { by: 'names matching', pattern: 'Weight*' }, type: 'decimal' },
        ],
      }),
    ]);
    expect(['Quota left (t)', 'Weight*', 'Weight (kg)'].filter(knows)).toEqual(['Quota left (t)']);
  });

  it('is what columns that come or go by a rule, are left out by name, and how numbers are printed', () => {
    const none = expecting([]);
    expect([none.flows, none.leavesOut!('Grade'), none.ownMarks]).toEqual([false, false, false]);
    const all = expecting([
      step('unpivot', { columns: { by: 'all but', names: ['Code'] } }),
      step('pick columns', { columns: { by: 'names', names: ['Code'] } }),
      step('set types', {
        types: [{ columns: { by: 'names', names: ['Value'] }, type: 'decimal', marks: 'as each report prints them' }],
      }),
    ]);
    expect([all.flows, all.leavesOut!('Grade'), all.leavesOut!('code'), all.ownMarks]).toEqual([
      true,
      true,
      false,
      true,
    ]);
    expect(expecting([step('unpivot', { columns: { by: 'names', names: ['Jan'] } })]).flows).toBe(false);
  });
});
