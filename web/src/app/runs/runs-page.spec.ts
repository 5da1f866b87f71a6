import { signal } from '@angular/core';
import { provideRouter } from '@angular/router';
import { of, throwError, type Observable } from 'rxjs';
import { describe, expect, it } from 'vitest';
import type { RunFull, StoredRun } from '../../../../server/contract/contract';
import { show } from '../../testing/shown';
import { Api } from '../api';
import { PipelineState } from '../pipeline/pipeline-state';
import { RunsPage } from './runs-page';

const run = (id: number, state: string, some: object = {}): StoredRun => ({ id, state, startedAt: '2025-06-09 08:00:00.0+00', endedAt: '2025-06-09 08:00:04.5+00', rows: 885, notes: [], whole: null, version: 3, ...some }) as unknown as StoredRun;
const full = (of_: StoredRun, reports: object[] = []): RunFull => ({ run: of_, reports }) as unknown as RunFull;
const report = (some: object) => ({ report: 1, path: 'week-24.pdf', period: '2025-W24', state: 'added', rows: 71, held: 13, misfits: 2, parsed: true, matches: [], layers: [{ id: 't', title: 'Set types' }], problems: [], ...some });

async function shown(answers: { runs: () => Observable<StoredRun[]>; run?: (id: number) => Observable<RunFull>; changed?: { count: number; cells: readonly object[] } }, chosen?: string) {
  const asked: number[] = [];
  const state = { id: signal(1), reports: signal([{ id: 1, path: 'week-24.pdf' }]), version: signal(1), running: { now: signal(undefined) }, sentenceOf: ({ kind }: { kind: string }, { step }: { step: (id: string) => string }) => `${kind} at ${step('t')}` };
  const api = { changedCells: () => of(answers.changed), runs: () => answers.runs(), run: (id: number) => (asked.push(id), (answers.run ?? ((n) => of(full(run(n, 'published')))))(id)) };
  return { ...(await show(RunsPage, chosen ? { run: chosen } : {}, [provideRouter([]), { provide: PipelineState, useValue: state }, { provide: Api, useValue: api }])), asked };
}

describe('the runs of a pipeline', () => {
  it('are told apart by moment, number, state, rows and how long they took', async () => {
    const { texts } = await shown({ runs: () => of([run(7, 'published'), run(6, 'failed', { rows: null, endedAt: '2025-06-09 08:03:00+00' }), run(5, 'running', { endedAt: null })]) });
    const told = texts('li a');
    expect([told[0], told[1], told[2]]).toEqual([/run 7 .*published.*885 rows.*4\.5 s/, /run 6 .*failed.*3 min/, /run 5 .*running.*under way/].map((says) => expect.stringMatching(says)));
    expect(told[1]).not.toContain('rows');
  });

  it('show the last one, or the one of the address, with what came of each report', async () => {
    const detail = full(run(7, 'published'), [report({ matches: [{ rule: 'Landings', pages: [2, 3, 4], sure: 0.92 }] }), report({ report: 2, path: 'week-25.pdf', state: 'held back', parsed: false, problems: [{ kind: 'differs' }] })]);
    const last = await shown({ runs: () => of([run(7, 'published'), run(6, 'published')]), run: () => of(detail) });
    expect(last.asked).toEqual([7]);
    const cells = (row: number) => last.texts(`tbody tr:nth-child(${row}) > *`);
    expect(cells(1)).toEqual(['week-24.pdf', '2025-W24', 'added, parsed', '71', '13', '2', 'Landings, p. 2–4, sure 0.92', '']);
    expect(cells(2)[2]).toBe('held back');
    expect(cells(2)[7]).toContain('differs at Set types');
    expect(last.texts('.message')).toEqual(['With version 3 of the pipeline.']);
    expect((await shown({ runs: () => of([run(7, 'published'), run(6, 'published')]) }, '6')).asked).toEqual([6]);
  });

  it('name the cells that changed as the program is another, old and new, with their paper', async () => {
    const cells = [
      { kind: 'cell', report: 1, page: 2, heading: 'Boxes', before: '3', after: '30', row: 17 },
      { kind: 'cell', report: 1, page: 2, heading: 'Price', before: '1.50', after: null, row: 18 },
      { kind: 'row removed', report: 9, page: 3, heading: null, before: 'Total | 80', after: null, row: null },
    ];
    const note = { kind: 'made anew', build: 'release 2', reports: 1, unlike: 0, cells: 2, added: 0, removed: 1, first: [{ path: 'week-24.pdf', page: 2, heading: 'Boxes', before: '3', after: '30' }] };
    const { root, texts } = await shown({ runs: () => of([run(7, 'published')]), run: () => of(full(run(7, 'published', { notes: [note] }), [report({})])), changed: { count: 3, cells } });
    expect(texts('.message')[1]).toBe('1 report of an older program was made anew by release 2: 2 published cells changed, 1 row went by it. “Boxes” on page 2 of week-24.pdf: “3” became “30”; and others.');
    expect(texts('sieve-changed-cells h3')).toEqual(['3 changes in the dataset as the program is another']);
    const rows = [...root.querySelectorAll('sieve-changed-cells tbody tr')].map((row) => [...row.children].map((cell) => cell.textContent!.trim()));
    expect(rows).toEqual([
      ['week-24.pdf, page 2', '17', 'Boxes', '3', '30'],
      ['week-24.pdf, page 2', '18', 'Price', '1.50', 'blank'],
      ['a report that is gone, page 3', '', 'a row that went', 'Total | 80', ''],
    ]);
    expect(root.querySelector('sieve-changed-cells a')!.getAttribute('href')).toBe('/pipelines/1/intake?report=1&page=2');
  });

  it('offer the step that is the usual answer, once', async () => {
    const offering = [report({ problems: [{ kind: 'step', offer: 'stamp' }, { kind: 'step', offer: 'stamp' }] })];
    const { root, texts } = await shown({ runs: () => of([run(7, 'published')]), run: () => of(full(run(7, 'published'), offering)) });
    expect(texts('.problems a')).toHaveLength(1);
    expect(root.querySelector('.problems a')!.getAttribute('href')).toBe('/pipelines/1/bench?report=1&add=stamp');
  });

  it('say that there are none, and why they could not be had', async () => {
    const none = await shown({ runs: () => of([]) });
    expect(none.texts('sieve-notice').join()).toContain('No refresh yet.');
    expect(none.asked).toEqual([]);
    let works = false;
    const failing = await shown({ runs: () => (works ? of([run(7, 'published')]) : throwError(() => new Error('The server does not answer.'))) });
    expect(failing.texts('[role="alert"]').join()).toContain('The server does not answer.');
    works = true;
    await failing.press('Try again');
    expect(failing.texts('li a')).toHaveLength(1);
  });
});
