import { describe, expect, it } from 'vitest';
import * as v from 'valibot';
import { namesChanged, withNames } from './follow-names';
import { stepSchema, type Step } from './kinds';

const step = (kind: string, settings: object): Step => v.parse(stepSchema, { id: kind.replaceAll(' ', '-'), kind, settings }) as unknown as Step;
const rename = (to: string) => step('rename', { names: [{ from: ['Boxes'], to }] });

describe('a rename above is followed below', () => {
  it('by every setting that names a column, and by nothing else', () => {
    const names = namesChanged(['Item', 'Boxes'], rename('Crates'), rename('Cases'));
    expect([...names]).toEqual([['Crates', 'Cases']]);
    const followed = (kind: string, settings: object) => withNames(step(kind, settings), names).settings;
    expect(followed('pick columns', { columns: { by: 'all but', names: ['Crates', 'Item'] } })).toEqual({ columns: { by: 'all but', names: ['Cases', 'Item'] } });
    expect(followed('carry values', { columns: { by: 'all after', name: 'Crates' }, stopAt: 'Crates' })).toMatchObject({ columns: { name: 'Cases' }, stopAt: 'Cases' });
    expect(followed('sift rows', { conditions: [{ of: { is: 'column', name: 'Crates' }, test: 'is', value: 'Crates' }] })).toMatchObject({ conditions: [{ of: { name: 'Cases' }, value: 'Crates' }] });
    expect(followed('sort', { by: [{ column: 'Crates' }] })).toMatchObject({ by: [{ column: 'Cases' }] });
    expect(followed('set types', { types: [{ columns: { by: 'names', names: ['Crates'] }, type: 'integer' }] })).toMatchObject({ types: [{ columns: { names: ['Cases'] } }] });
    expect(followed('rename', { names: [{ from: ['Crates'], to: 'Crates' }] })).toMatchObject({ names: [{ from: ['Cases'], to: 'Crates' }] });
    expect(followed('recode', { columns: { by: 'all' }, values: [{ from: ['Crates'], to: 'x' }] })).toMatchObject({ values: [{ from: ['Crates'] }] });
  });

  it('also when the step is switched off, or names the columns that it makes otherwise', () => {
    expect([...namesChanged(['Boxes'], rename('Crates'), { ...rename('Crates'), off: true })]).toEqual([['Crates', 'Boxes']]);
    const lift = (into: string) => step('lift sections', { levels: [{ into }] });
    expect([...namesChanged(['Item'], lift('Quay'), lift('Landing place'))]).toEqual([['Quay', 'Landing place']]);
  });

  it('not when other columns come of it, or the name belongs to another now', () => {
    expect(namesChanged(['A', 'B'], step('pick columns', { columns: { by: 'names', names: ['A'] } }), step('pick columns', { columns: { by: 'all' } })).size).toBe(0);
    expect([...namesChanged(['A', 'B'], step('pick columns', { columns: { by: 'names', names: ['A', 'B'] } }), step('pick columns', { columns: { by: 'names', names: ['B', 'A'] } }))]).toEqual([]);
  });
});
