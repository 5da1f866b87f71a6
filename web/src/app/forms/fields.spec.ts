import { of, Subject, throwError } from 'rxjs';
import { describe, expect, it } from 'vitest';
import type { ColumnChoice } from '../../../../core/steps/column-choice';
import type { ValueCounts, ValuesSubject } from '../../../../server/contract/contract';
import { show } from '../../testing/shown';
import { ColumnsField } from './columns-field';
import { CutsField } from './cuts-field';
import { ValueList } from './value-list';

const counts = (...values: readonly [string, number][]): ValueCounts => ({ different: values.length, values: values.map(([text, count]) => ({ text, count })) }) as unknown as ValueCounts;
const subject = { column: 'Quay' } as unknown as ValuesSubject;

describe('values to be picked', () => {
  const quays = counts(['Saltby', 8], ['Tern Point', 5], ['Old Lantern', 1]);
  async function list(chosen: readonly string[], valuesOf = () => of(quays)) {
    const shown = await show(ValueList, { chosen, label: 'Quays', subject, valuesOf });
    const changed: string[][] = [];
    shown.of.changed.subscribe((values) => changed.push(values));
    const tick = async (nth: number) => {
      shown.root.querySelectorAll<HTMLInputElement>('input[type="checkbox"]')[nth].click();
      await shown.settle();
    };
    return { ...shown, changed, tick };
  }

  it('stand with how often each is there; those picked once that are gone stay in sight', async () => {
    const { texts } = await list(['Saltby', 'Fairlead']);
    expect(texts('li .text').map((text, i) => [text, texts('li .count')[i]])).toEqual([['Fairlead', 'not here'], ['Saltby', '8'], ['Tern Point', '5'], ['Old Lantern', '1']]);
    expect(texts('p')[0]).toMatch(/^2 picked of 3 values/);
  });

  it('are picked and let go of, each without touching the others', async () => {
    const { changed, tick, give } = await list(['Saltby']);
    await tick(1);
    await give({ chosen: changed[0] });
    await tick(0);
    expect(changed).toEqual([['Saltby', 'Tern Point'], ['Tern Point']]);
  });

  it('are looked for by a part of them, and one that is not there may be added', async () => {
    const { texts, write, press, changed } = await list(['Saltby']);
    await write('input[type="search"]', 'LANT');
    expect(texts('li .text')).toEqual(['Old Lantern']);
    await write('input[type="search"]', ' New Quay ');
    await press('Add “New Quay”');
    expect(changed).toEqual([['Saltby', 'New Quay']]);
    await write('input[type="search"]', 'Saltby');
    expect(texts('button').filter((text) => text.startsWith('Add'))).toEqual([]);
  });

  it('that are more than can be listed, or could not be had, are told so', async () => {
    expect((await list(['x'], () => of({ ...quays, different: 5000 } as ValueCounts))).texts('p')[0]).toContain('4,997 of them not listed');
    expect((await list([], () => throwError(() => new Error('The step above fails.')))).texts('li')).toEqual(['The step above fails.']);
    expect((await list([], () => new Subject<ValueCounts>())).texts('li')).toEqual(['Looking …']);
  });
});

describe('cuts in a text', () => {
  async function cuts(at: readonly number[]) {
    const shown = await show(CutsField, { cuts: at, subject, valuesOf: () => of(counts(['HK1Hake', 3], ['SL2Grey sole', 2], ['🐟x', 1])) });
    const changed: number[][] = [];
    shown.of.changed.subscribe((own) => changed.push(own));
    return { ...shown, changed };
  }

  it('are drawn in the longest sample, and cut the others at the same places', async () => {
    const { texts, root } = await cuts([3]);
    expect(root.querySelector('.letters')!.getAttribute('aria-label')).toBe('Cuts in SL2Grey sole');
    expect([...root.querySelectorAll('[aria-label="Parts"] tr')].map((row) => [...row.querySelectorAll('td')].map((cell) => cell.textContent))).toEqual([['HK1', 'Hake'], ['SL2', 'Grey sole'], expect.anything()]);
    expect(texts('.gap.cut')).toHaveLength(1);
  });

  it('are made and taken back by a press between two letters, also those counted from the end', async () => {
    const { press, changed, give } = await cuts([3]);
    await press('Cut after 1 letter');
    await press('Cut after 3 letters');
    await give({ cuts: [-4] });
    await press('Cut after 8 letters');
    expect(changed).toEqual([[1, 3], [], []]);
  });
});

describe('which columns a step means', () => {
  async function field(value: ColumnChoice, more: object = {}) {
    const shown = await show(ColumnsField, { fieldId: 'f', label: 'Columns', value, columns: ['Code', 'Boxes', 'Value'], ...more });
    const changed: ColumnChoice[] = [];
    shown.of.changed.subscribe((choice) => changed.push(choice));
    return { ...shown, changed };
  }

  it('are named, each taken out by a press; one that is not there is marked', async () => {
    const { root, press, changed } = await field({ by: 'names', names: ['Code', 'Weight'] });
    expect([...root.querySelectorAll('.chip')].map((each) => `${each.textContent!.trim()}${each.classList.contains('gone') ? ' gone' : ''}`)).toEqual(['Code', 'Weight gone']);
    await press('Take Weight out');
    expect(changed).toEqual([{ by: 'names', names: ['Code'] }]);
  });

  it('may be those selected in the sheet, as far as they are at this layer', async () => {
    const { press, changed, give, texts } = await field({ by: 'all but', names: [] }, { selected: ['Value', 'Gone'] });
    await press('Take Value selected in the sheet');
    expect(changed).toEqual([{ by: 'all but', names: ['Value'] }]);
    await give({ value: changed[0] });
    expect(texts('.offered')).toEqual([]);
    await give({ selected: ['Code', 'Boxes'] });
    expect(texts('.offered')).toEqual(['Take the 2 selected in the sheet']);
  });

  it('or those of a pattern, as it is written', async () => {
    const { write, changed } = await field({ by: 'names matching', pattern: '*' });
    await write('input[aria-label="Columns: pattern"]', '20*');
    expect(changed).toEqual([{ by: 'names matching', pattern: '20*' }]);
  });
});
