import { signal } from '@angular/core';
import { of, Subject, throwError, type Observable } from 'rxjs';
import { describe, expect, it } from 'vitest';
import type { FindEvent, FoundFacts, StoredReport, TakeMatch } from '../../../../server/contract/contract';
import { show } from '../../testing/shown';
import { Api } from '../api';
import { PipelineState } from '../pipeline/pipeline-state';
import { FindBox, type Hits } from './find-box';
import { MatchStrip } from './match-strip';
import { PageStrip } from './page-strip';

describe('what each rule takes from each report', () => {
  const report = (id: number): StoredReport => ({ id, path: `week-${id}.pdf`, period: `2025-W${id}` }) as unknown as StoredReport;
  const match = (some: Partial<TakeMatch> = {}): Partial<TakeMatch> => ({ rule: 'Landings', table: 'a', found: ['a'], pages: [2, 3], sure: 0.92, lacks: [], ...some });
  const read = (matches: readonly Partial<TakeMatch>[], unread: readonly number[] = []) => ({ matches, pages: [1, 2, 3].map((number) => ({ number, unread: unread.includes(number) ? [[0, 0, 9, 9]] : [] })) });
  async function strip(summaries: readonly (object | undefined)[]) {
    const reports = summaries.map((_, i) => report(22 + i));
    const state = { counting: signal(reports), document: signal({ take: [{ name: 'Landings' }] }), summaryOf: (id: number) => summaries[id - 22], standingOf: () => ({ word: 'damaged', tone: 'error', detail: 'a stream is cut' }) };
    const shown = await show(MatchStrip, {}, [{ provide: PipelineState, useValue: state }]);
    const chosen: object[] = [];
    shown.of.choose.subscribe((place) => chosen.push(place));
    const cells = () => [...shown.root.querySelectorAll('tbody td')].map((cell) => `${cell.className}: ${cell.textContent!.replace(/\s+/g, ' ').trim()}`);
    return { ...shown, chosen, cells, titles: () => [...shown.root.querySelectorAll('tbody button')].map((button) => (button as HTMLElement).title) };
  }

  it('is told by pages and likeness, and what needs a look stands out', async () => {
    const { cells } = await strip([read([match()]), read([match({ sure: 0.6, pages: [4] })]), read([match({ rival: 'b' })]), read([match({ lacks: ['Price per kg'] })]), read([match()], [3]), read([]), read([], [2]), undefined]);
    expect(cells().map((cell) => cell.replace(/(?<=\S)sure/, ' sure'))).toEqual(['passes: p. 2–3 sure 0.92', 'needs: p. 4 ? sure 0.6', 'needs: two ?', 'needs: p. 2–3 ! sure 0.92', 'needs: p. 2–3 + picture sure 0.92', 'error: none', 'needs: a picture ?', 'error: damaged']);
  });

  it('of several tables is told by the one that is most in doubt', async () => {
    const both = (second: Partial<TakeMatch>) => read([match(), match({ table: 'b', pages: [5], ...second })]);
    const { cells, titles } = await strip([both({}), both({ sure: 0.5 }), both({ lacks: ['Boxes'] }), both({ rival: 'c' })]);
    expect(cells().map((cell) => cell.replace(/(?<=\S)sure/, ' sure'))).toEqual(['passes: 2 tables sure 0.92', 'needs: 2 tables ? sure 0.5', 'needs: p. 5 ! sure 0.92', 'needs: two ?']);
    expect(titles()[2]).toBe('week-24.pdf, p. 5: without “Boxes”');
  });

  it('leads to the page in question', async () => {
    const { press, chosen } = await strip([read([match()]), read([match(), match({ pages: [7], sure: 0.4 })]), read([], [3])]);
    await press('p. 2–3');
    await press('2 tables');
    await press('a picture');
    expect(chosen).toEqual([{ report: 22, page: 2 }, { report: 23, page: 7 }, { report: 24, page: 3 }]);
  });

  it('may be shown of those alone that need a look, where there are many', async () => {
    const few = await strip([read([]), read([match()])]);
    expect(few.texts('.only')).toEqual([]);
    const many = await strip(Array.from({ length: 30 }, (_, i) => read(i % 10 === 0 ? [] : [match()])));
    expect(many.texts('.only')).toEqual(['only the 3 of 30 that need a look']);
    many.root.querySelector<HTMLInputElement>('.only input')!.click();
    await many.settle();
    expect(many.cells()).toEqual(Array(3).fill('error: none'));
  });
});

describe('a text looked for in all reports', () => {
  async function box(find: (text: string) => Observable<FindEvent>) {
    const hits: Hits[] = [];
    const asked: string[] = [];
    const shown = await show(FindBox, { hits: new Map() }, [{ provide: PipelineState, useValue: { id: signal(1) } }, { provide: Api, useValue: { find: (_: number, text: string) => (asked.push(text), find(text)) } }]);
    shown.of.hitsChange.subscribe((own) => {
      hits.push(own);
      void shown.give({ hits: own });
    });
    const look = async (text: string) => {
      await shown.write('#find-text', text);
      await shown.press('Find');
    };
    return { ...shown, hits, asked, look };
  }
  const found = (report: number, count: number): FindEvent => ({ kind: 'hits', report, hits: Array.from({ length: count }, () => ({ page: 1, words: [0] })) }) as unknown as FindEvent;

  it('is counted by places and reports, and its hits are walked', async () => {
    const steps: number[] = [];
    const { of: own, look, texts, press } = await box(() => of(found(1, 2), found(2, 1), { kind: 'done' } as FindEvent));
    own.step.subscribe((by) => steps.push(by));
    await look('  Tern Point ');
    expect(texts('[role="status"] span')).toEqual(['3 places in 2 reports']);
    await press('Next hit');
    await press('Hit before');
    expect(steps).toEqual([1, -1]);
  });

  it('is looked for at once where the address says it, and anew where it says another', async () => {
    const { asked, give, texts } = await box(() => of(found(1, 2), { kind: 'done' } as FindEvent));
    await give({ wanted: 'Tern' });
    expect([asked, texts('[role="status"] span')]).toEqual([['Tern'], ['2 places in 1 report']]);
    await give({ wanted: 'Saltby' });
    expect(asked).toEqual(['Tern', 'Saltby']);
  });

  it('that stands nowhere, or could not be looked for, is told so', async () => {
    const none = await box(() => of({ kind: 'done' } as FindEvent));
    await none.look('Fairlead');
    expect([none.texts('[role="status"] span'), none.asked]).toEqual([['“Fairlead” stands nowhere.'], ['Fairlead']]);
    const failing = await box(() => throwError(() => new Error('The folder is gone.')));
    await failing.look('Fairlead');
    expect(failing.texts('[role="status"] span')).toEqual(['The folder is gone.']);
  });

  it('is not looked for any more once another is, or it is cleared', async () => {
    const under: Subject<FindEvent>[] = [];
    const { look, press, texts, hits } = await box(() => (under.push(new Subject()), under.at(-1)!));
    await look('Saltby');
    await look('Tern');
    expect([under[0].observed, under[1].observed, texts('[role="status"] span')[0]]).toEqual([false, true, 'Looking …']);
    under[1].next(found(3, 1));
    await press('Clear');
    expect([under[1].observed, hits.at(-1)!.size, texts('[role="status"]')]).toEqual([false, 0, []]);
    await look('x');
    expect(under).toHaveLength(2);
  });
});

describe('the pages of a report in small', () => {
  const found = { pages: [1, 2].map((number) => ({ number, label: number === 2 ? 'ii' : null, width: 600, height: 800, ink: [[10, 10, 90, 20]], pictures: [], unread: number === 1 ? [[5, 5, 50, 50]] : [] })), tables: [{ id: 'a', pieces: [{ id: 'p', page: 2, box: [10, 100, 500, 300] }] }, { id: 'b', pieces: [{ id: 'q', page: 2, box: [10, 400, 500, 500] }] }] } as unknown as FoundFacts;

  it('show where ink, tables and pictures lie, which are taken, and how many hits there are', async () => {
    const { root, texts } = await show(PageStrip, { found, taken: new Set(['b']), chosen: 2, hits: new Map([[1, 4]]) });
    expect([...root.querySelectorAll('button')].map((page) => [...page.querySelectorAll('rect')].map((rect) => rect.getAttribute('class')).join())).toEqual(['ink,unread', 'ink,found,taken']);
    expect(texts('button > span')).toEqual(['1', '2 “ii”']);
    expect(texts('.hits')).toEqual(['hits: 4']);
    expect([...root.querySelectorAll('button')].map((page) => page.getAttribute('aria-current'))).toEqual([null, 'page']);
  });

  it('are gone to by a press', async () => {
    const { of: strip, press } = await show(PageStrip, { found, taken: new Set(), chosen: 2 });
    const chosen: number[] = [];
    strip.choose.subscribe((page) => chosen.push(page));
    await press('Page 1');
    expect(chosen).toEqual([1]);
  });
});
