import { provideZonelessChangeDetection, signal, type Type } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { of, throwError } from 'rxjs';
import { describe, expect, it } from 'vitest';
import type { PublishedAnswer } from '../../../../server/contract/contract';
import { Api } from '../api';
import { PipelineState } from '../pipeline/pipeline-state';
import { PublishedHeld } from './published-held';
import { PublishedProblems } from './published-problems';
import { ReconciledList } from './reconciled-list';

async function show<Of>(component: Type<Of>, inputs: Readonly<Record<string, unknown>>, api: object = {}) {
  TestBed.configureTestingModule({ providers: [provideZonelessChangeDetection(), { provide: Api, useValue: api }, { provide: PipelineState, useValue: { id: signal(1), version: signal(1) } }] });
  const fixture = TestBed.createComponent(component);
  for (const [name, value] of Object.entries(inputs)) fixture.componentRef.setInput(name, value);
  const settle = async () => {
    fixture.detectChanges();
    await fixture.whenStable();
    fixture.detectChanges();
  };
  await settle();
  const root = fixture.nativeElement as HTMLElement;
  const texts = (css: string) => [...root.querySelectorAll(css)].map((each) => each.textContent!.replace(/\s+/g, ' ').trim());
  const press = async (says: string) => {
    ([...root.querySelectorAll('button')].find((each) => each.textContent!.includes(says)) as HTMLElement).click();
    await settle();
  };
  return { fixture, root, texts, press, settle };
}

describe('what was held of the published rows', () => {
  const layer = (title: string, held: number) => ({ id: title, title, held });
  const report = (id: number, ...layers: object[]) => ({ report: id, path: `week-${id}.pdf`, held: 3, version: 1, sha256: 'x', layers });
  const published = { reports: [report(1, layer('Drop noise', 2), layer('Set types', 0)), report(2, layer('Set types', 0)), report(3, layer('Drop noise', 1))], whole: { layers: [layer('Deduplicate', 4)] } } as unknown as PublishedAnswer;

  it('is listed by report and step, steps over all reports once, and nothing where nothing was held', async () => {
    const { texts } = await show(PublishedHeld, { of: published });
    expect(texts('h3')).toEqual(['week-1.pdf 3 rows', 'week-3.pdf 3 rows']);
    expect(texts('li')).toEqual(['Drop noise: 2 rows', 'Deduplicate: 4 rows', 'Drop noise: 1 row']);
    TestBed.resetTestingModule();
    expect((await show(PublishedHeld, { of: { reports: [report(2)], whole: null } })).texts('.small')).toEqual(['No step held a row of what is published.']);
  });

  it('is fetched by a press, or says why it could not be, and leads back', async () => {
    const asked: object[] = [];
    const { texts, press } = await show(PublishedHeld, { of: published }, { publishedSheet: (...of_: unknown[]) => (asked.push(of_.slice(1)), throwError(() => new Error('The file is another now.'))) });
    await press('Drop noise: 1 row');
    expect(asked).toEqual([[3, { step: 'Drop noise', of: 'held', start: 0, count: 1 }]]);
    expect(texts('.head')).toEqual(['All that was held week-3.pdf, “Drop noise”: 1 row']);
    expect(texts('[role="alert"]').join()).toContain('The file is another now.');
    await press('All that was held');
    expect(texts('li')).toHaveLength(3);
  });
});

describe('problems of the published rows', () => {
  it('are told report by report, and that there are none only once it is known', async () => {
    const inputs = { reports: [{ path: 'week-1.pdf', state: 'held back', sentences: ['A column is missing.', 'A total is off.'] }], waiting: false, incomplete: false };
    expect((await show(PublishedProblems, inputs)).texts('h3, li')).toEqual(['week-1.pdf held back', 'A column is missing.', 'A total is off.']);
    for (const [waiting, incomplete, says] of [[false, false, 'Nothing needs a look.'], [true, false, 'Fetching the problems'], [false, true, '']] as const) {
      TestBed.resetTestingModule();
      expect((await show(PublishedProblems, { reports: [], waiting, incomplete })).texts('.list').join()).toBe(says);
    }
  });
});

describe('what dataset and list do not agree in', () => {
  const answer = { unlike: [{ kind: 'differs', key: 'HK1', row: 4, column: 'Boxes', here: '12.3', there: '12', by: 0.3 }, { kind: 'differs', key: 'SL2', row: 5, column: 'Note', here: '', there: 'x' }, { kind: 'only here', key: '(blank)', row: 9 }, { kind: 'only there', key: 'LG4' }, { kind: 'twice there', key: 'CD3' }], more: 7 };

  it('is said of each, with the way to the row where there is one, and how many more there are', async () => {
    const looked: unknown[] = [];
    const { fixture, texts, press } = await show(ReconciledList, { check: 'c' }, { reconciled: () => of(answer) });
    fixture.componentInstance.look.subscribe((place) => looked.push(place));
    expect(texts('li')).toEqual(['HK1: “Boxes” is 12.3 here, 12 there (+0.3)', 'SL2: “Note” is blank here, x there', '(blank): only in the dataset', 'LG4: only in the list', 'CD3: more than once in the list', 'and 7 more']);
    expect(texts('li button')).toHaveLength(3);
    await press('HK1');
    await press('(blank)');
    expect(looked).toEqual([{ row: 4, column: 'Boxes' }, { row: 9, column: undefined }]);
  });

  it('says what cannot be compared, and why nothing came', async () => {
    expect((await show(ReconciledList, { check: 'c' }, { reconciled: () => of({ unlike: [], more: 0, because: 'the list has no column “cases”' }) })).texts('.small')).toEqual(['the list has no column “cases”']);
    TestBed.resetTestingModule();
    expect((await show(ReconciledList, { check: 'c' }, { reconciled: () => throwError(() => new Error('There is no check c.')) })).texts('[role="alert"]').join()).toContain('There is no check c.');
  });
});
