import { signal, type Type } from '@angular/core';
import { of, throwError } from 'rxjs';
import { describe, expect, it } from 'vitest';
import type { PublishedAnswer } from '../../../../server/contract/contract';
import { show } from '../../testing/shown';
import { Api } from '../api';
import { PipelineState } from '../pipeline/pipeline-state';
import { PublishedHeld } from './published-held';
import { PublishedProblems } from './published-problems';
import { ReconciledList } from './reconciled-list';

const showWith = <Of>(component: Type<Of>, inputs: Readonly<Record<string, unknown>>, api: object = {}) => show(component, inputs, [{ provide: Api, useValue: api }, { provide: PipelineState, useValue: { id: signal(1), version: signal(1) } }]);

describe('what was held of the published rows', () => {
  const layer = (title: string, held: number) => ({ id: title, title, held });
  const report = (id: number, ...layers: object[]) => ({ report: id, path: `week-${id}.pdf`, held: 3, version: 1, sha256: 'x', layers });
  const published = { reports: [report(1, layer('Drop noise', 2), layer('Set types', 0)), report(2, layer('Set types', 0)), report(3, layer('Drop noise', 1))], whole: { layers: [layer('Deduplicate', 4)] } } as unknown as PublishedAnswer;

  it('is listed by report and step, steps over all reports once, and nothing where nothing was held', async () => {
    const { texts } = await showWith(PublishedHeld, { of: published });
    expect(texts('h3')).toEqual(['week-1.pdf 3 rows', 'week-3.pdf 3 rows']);
    expect(texts('li')).toEqual(['Drop noise: 2 rows', 'Deduplicate: 4 rows', 'Drop noise: 1 row']);
    expect((await showWith(PublishedHeld, { of: { reports: [report(2)], whole: null } })).texts('.small')).toEqual(['No step held a row of what is published.']);
  });

  it('is fetched by a press, or says why it could not be, and leads back', async () => {
    const asked: object[] = [];
    const { texts, press } = await showWith(PublishedHeld, { of: published }, { publishedSheet: (...of_: unknown[]) => (asked.push(of_.slice(1)), throwError(() => new Error('The file is another now.'))) });
    await press('Drop noise: 1 row');
    expect(asked).toEqual([[3, { step: 'Drop noise', of: 'held', start: 0, count: 1 }]]);
    expect(texts('.head')[0]).toMatch(/All that was held ?week-3\.pdf, “Drop noise”: 1 row/);
    expect(texts('[role="alert"]').join()).toContain('The file is another now.');
    await press('All that was held');
    expect(texts('li')).toHaveLength(3);
  });
});

describe('problems of the published rows', () => {
  it('are told report by report, and that there are none only once it is known', async () => {
    const inputs = { reports: [{ path: 'week-1.pdf', state: 'held back', sentences: ['A column is missing.', 'A total is off.'] }], waiting: false, incomplete: false };
    expect((await showWith(PublishedProblems, inputs)).texts('h3, li')).toEqual(['week-1.pdf held back', 'A column is missing.', 'A total is off.']);
    for (const [waiting, incomplete, says] of [[false, false, 'Nothing needs a look.'], [true, false, 'Fetching the problems'], [false, true, '']] as const) {
        expect((await showWith(PublishedProblems, { reports: [], waiting, incomplete })).texts('.list').join()).toBe(says);
    }
  });
});

describe('what dataset and list do not agree in', () => {
  const answer = { unlike: [{ kind: 'differs', key: 'HK1', row: 4, column: 'Boxes', here: '12.3', there: '12', by: 0.3 }, { kind: 'differs', key: 'SL2', row: 5, column: 'Note', here: '', there: 'x' }, { kind: 'only here', key: '(blank)', row: 9 }, { kind: 'only there', key: 'LG4' }, { kind: 'twice there', key: 'CD3' }], more: 7 };

  it('is said of each, with the way to the row where there is one, and how many more there are', async () => {
    const looked: unknown[] = [];
    const { of: list, texts, press } = await showWith(ReconciledList, { check: 'c' }, { reconciled: () => of(answer) });
    list.look.subscribe((place) => looked.push(place));
    expect(texts('li')).toEqual(['HK1: “Boxes” is 12.3 here, 12 there (+0.3)', 'SL2: “Note” is blank here, x there', '(blank): only in the dataset', 'LG4: only in the list', 'CD3: more than once in the list', 'and 7 more']);
    expect(texts('li button')).toHaveLength(3);
    await press('HK1');
    await press('(blank)');
    expect(looked).toEqual([{ row: 4, column: 'Boxes' }, { row: 9, column: undefined }]);
  });

  it('says what cannot be compared, and why nothing came', async () => {
    expect((await showWith(ReconciledList, { check: 'c' }, { reconciled: () => of({ unlike: [], more: 0, because: 'the list has no column “cases”' }) })).texts('.small')).toEqual(['the list has no column “cases”']);
    expect((await showWith(ReconciledList, { check: 'c' }, { reconciled: () => throwError(() => new Error('There is no check c.')) })).texts('[role="alert"]').join()).toContain('There is no check c.');
  });
});
