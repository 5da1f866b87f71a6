import { signal } from '@angular/core';
import { of, throwError, type Observable } from 'rxjs';
import { describe, expect, it } from 'vitest';
import { show } from '../../testing/shown';
import { Api, ApiFailure } from '../api';
import { PipelineState } from '../pipeline/pipeline-state';
import { DropFiles } from './drop-files';
import { TimeRuler } from './time-ruler';

describe('the reports by time', () => {
  const report = (id: number, some: object = {}) => ({ id, path: `week-${id}.pdf`, standing: 'counts', word: 'read', tone: 'passes', ties: 'tied out', rows: 71, ...some });
  type Report = ReturnType<typeof report>;
  async function ruler(slots: readonly (readonly [string | null, ...Report[]])[], { none = [], chosen }: { none?: readonly string[]; chosen?: number } = {}) {
    const reports = slots.flatMap(([, ...own]) => own);
    const of_ = (id: number) => reports.find((each) => each.id === id)!;
    const state = {
      slots: signal(slots.map(([period, ...own]) => ({ period, reports: own }))),
      document: signal({ reports: { none } }),
      standingOf: ({ word, tone }: Report) => ({ word, tone, detail: '3 pages' }),
      rowsOf: (id: number) => of_(id).rows,
      tiesOf: (id: number) => of_(id).ties,
    };
    const shown = await show(TimeRuler, chosen === undefined ? {} : { chosen }, [{ provide: PipelineState, useValue: state }]);
    const gone: number[] = [];
    shown.of.choose.subscribe((id) => gone.push(id));
    return { ...shown, gone, slots: () => shown.texts('.slots > button, .slots > .hole') };
  }

  it('have a slot each with their rows, or with what needs a look, and holes between', async () => {
    const { slots, root } = await ruler([['2025-W22', report(22)], ['2025-W23', report(23, { ties: 'off' })], ['2025-W24'], ['2025-W25', report(25, { word: 'damaged', tone: 'error' })], ['2025-W26']], { none: ['2025-W26'] });
    expect(slots()).toEqual(['wk 22 71 tied out', 'wk 23 71 off', 'wk 24missing', 'wk 25 damaged', 'wk 26none'].map((text) => expect.stringMatching(new RegExp(`^${text.replaceAll(' ', '\\s*')}$`))));
    expect([...root.querySelectorAll('.slots > button')].map((each) => each.className.trim())).toEqual(['passes', 'passes', 'error']);
    expect((root.querySelectorAll('.slots > button')[1] as HTMLElement).title).toBe('week-23.pdf: 71 3 pages, a printed total is off');
  });

  it('of two issues show the one that counts, as a double slot with its revision', async () => {
    const { slots, root } = await ruler([['2025-W34', report(1, { path: 'week-34.pdf', standing: 'replaced' }), report(2, { path: 'week-34-r2.pdf' })]]);
    expect(slots()[0]).toMatch(/^wk 34\s*71 · r2/);
    expect(root.querySelector('.slots > button')!.classList.contains('two')).toBe(true);
  });

  it('are gone to by a press, and the one shown is pressed in', async () => {
    const { press, gone, root } = await ruler([['2025-06', report(6)], ['2025-07', report(7)]], { chosen: 6 });
    expect([...root.querySelectorAll('.slots > button')].map((each) => each.getAttribute('aria-pressed'))).toEqual(['true', 'false']);
    await press('Jul');
    expect(gone).toEqual([7]);
  });

  it.each([
    [['2024-W52', '2025-W01'], 'weekly reports2024 to 2025'],
    [['2025-Q1'], 'quarterly reports2025'],
    [['2025-06'], 'monthly reports2025'],
    [['2025-06-09', '2025-06-10'], 'daily reports2025'],
    [['2025'], 'yearly reports2025'],
    [[null, null], 'reports2 files'],
  ])('%j are called “%s”', async (periods, label) => {
    expect((await ruler(periods.map((period, i) => [period, report(i)] as const))).texts('.label')).toEqual([label]);
  });

  it('too many for the width are walked from one that needs a look to the next, round the end', async () => {
    const many = Array.from({ length: 60 }, (_, i) => [`2025-W${String(i + 1).padStart(2, '0')}`, report(i, i === 20 || i === 50 ? { tone: 'needs', word: 'differs' } : {})] as const);
    const { press, gone, give, texts } = await ruler(many, { chosen: 30 });
    expect(texts('.steps > span')).toEqual(['2']);
    await press('Next report that needs a look');
    await give({ chosen: 50 });
    await press('Next report that needs a look');
    await press('Report before that needs a look');
    expect(gone).toEqual([50, 20, 20]);
    // Not all are drawn; those that are not have their room.
    expect(texts('.slots > button').length).toBeLessThan(60);
  });
});

describe('files that are dropped', () => {
  const file = (name: string) => new File(['x'], name);
  async function drops(dropFile: (name: string, answer?: string) => Observable<object>) {
    const asked: string[] = [];
    const shown = await show(DropFiles, {}, [{ provide: Api, useValue: { dropFile: (_: number, { name }: File, answer?: string) => (asked.push(`${name} ${answer ?? ''}`.trim()), dropFile(name, answer)) } }]);
    const put: (number | string)[] = [];
    const start = (...names: string[]) => shown.of.put(1, names.map(file)).subscribe({ next: (count) => put.push(count), error: (error: Error) => put.push(error.message) });
    const answer = async (says: string) => {
      await shown.settle();
      ([...document.querySelectorAll<HTMLElement>('.p-dialog button')].find((each) => each.textContent!.includes(says)))!.click();
      await shown.settle();
    };
    return { asked, put, start, answer };
  }
  const there = () => throwError(() => new ApiFailure('there already', 'There is a file of that name.'));

  it('are put one after the other, and counted', async () => {
    const { asked, put, start } = await drops(() => of({}));
    start('a.pdf', 'b.pdf');
    expect([asked, put]).toEqual([['a.pdf', 'b.pdf'], [2]]);
  });

  it('are asked about where another has their name, and left out only when that is said', async () => {
    const { asked, put, start, answer } = await drops((name, said) => (name !== 'c.pdf' && said === undefined ? there() : of({})));
    start('a.pdf', 'b.pdf', 'c.pdf');
    expect(put).toEqual([]);
    await answer('Keep both');
    await answer('Leave the new one out');
    expect([asked, put]).toEqual([['a.pdf', 'a.pdf keep both', 'b.pdf', 'c.pdf'], [2]]);
  });

  it('that cannot be put say why', async () => {
    const { put, start } = await drops(() => throwError(() => new Error('It is larger than 200 MB.')));
    start('a.pdf');
    expect(put).toEqual(['It is larger than 200 MB.']);
  });
});
