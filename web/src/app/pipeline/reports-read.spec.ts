import { signal } from '@angular/core';
import { of, Subject, throwError, type Observable } from 'rxjs';
import { vi } from 'vitest';
import type { DismissedPicture } from '../../../../core/intake/dismissed-pictures';
import type { FoundFacts, IntakeEvent, ReportSummary, StoredReport } from '../../../../server/contract/contract';
import { ReportsRead, typingRests } from './reports-read';

const report = (id: number, standing = 'counts'): StoredReport => ({ id, path: `r${id}.pdf`, sha256: String(id), size: 1, modified: 0, mark: '', period: null, revision: 0, standing, standingOf: null });
const page = (number: number): FoundFacts['pages'][number] => ({ number, label: null, width: 100, height: 100, ink: [], pictures: [], unread: [[0, 0, 50, 50]] });
const facts = (numbers: readonly number[]): FoundFacts => ({ pageCount: 2, pages: numbers.map(page), tables: [] });
const summary = (): ReportSummary => ({ ...facts([1, 2]), parsed: true, scanned: false, problems: [], matches: [], layers: [], columns: [], untyped: {}, rows: 0, held: 0, misfits: 0, heldBack: [] });

/** Reports of a folder, the events of their reading given by hand. */
function reading() {
  const intakes: Subject<IntakeEvent>[] = [];
  const dismissed = signal<readonly DismissedPicture[]>([]);
  const folder = { known: () => of([report(1)] as readonly StoredReport[]) as Observable<readonly StoredReport[]>, now: () => of([report(1), report(2), report(3, 'gone')] as readonly StoredReport[]) };
  const read = new ReportsRead({ known: () => folder.known(), lookAtFolder: () => folder.now(), intake: () => (intakes.push(new Subject()), intakes.at(-1)!) }, dismissed);
  const subscription = read.keepReading();
  return { read, intakes, dismissed, folder, end: () => subscription.unsubscribe() };
}

describe('the reports of a folder', () => {
  it('are those that are there, and are read at once', () => {
    const { read, intakes, end } = reading();
    read.lookAtFolder();
    expect(read.reports().map(({ id }) => id)).toEqual([1, 2]);
    expect(intakes.length).toBe(1);
    expect(read.reading()).toBe(true);
    end();
  });

  it('are shown as they are known while the folder is looked at, and never in the place of what was seen there', () => {
    const { read, folder, end } = reading();
    const [known, now] = [new Subject<readonly StoredReport[]>(), new Subject<readonly StoredReport[]>()];
    Object.assign(folder, { known: () => known, now: () => now });
    read.begin();
    known.next([report(1), report(4, 'gone')]);
    expect([read.reports().map(({ id }) => id), read.looked(), read.reading()]).toEqual([[1], false, false]);
    now.next([report(1), report(2)]);
    known.next([report(1)]);
    expect([read.reports().map(({ id }) => id), read.looked(), read.reading()]).toEqual([[1, 2], true, true]);
    end();
  });

  it('tell what was found page by page, then all of it', () => {
    const { read, intakes, end } = reading();
    read.lookAtFolder();
    intakes[0].next({ kind: 'reading', report: 1, page: 1, pages: 2, found: facts([1]) });
    expect(read.progress().get(1)).toMatchObject({ page: 1, pages: 2 });
    intakes[0].next({ kind: 'reading', report: 1, page: 2, pages: 2, found: facts([2]) });
    expect(read.foundIn(1)!.pages.map(({ number }) => number)).toEqual([1, 2]);
    expect(read.summaryOf(1)).toBeUndefined();
    intakes[0].next({ kind: 'report', report: 1, summary: summary() });
    expect(read.summaryOf(1)).toBeDefined();
    expect(read.progress().has(1)).toBe(false);
    expect(read.readCount()).toBe(1);
    end();
  });

  it('begin anew with the pages of a report that is read again', () => {
    const { read, intakes, end } = reading();
    read.lookAtFolder();
    for (const number of [1, 2, 1]) intakes[0].next({ kind: 'reading', report: 1, page: number, pages: 2, found: facts([number]) });
    expect(read.foundIn(1)!.pages.map(({ number }) => number)).toEqual([1]);
    end();
  });

  it('are no longer being read once the reading is stopped or fails; what was read stays, and why it failed is told', () => {
    const { read, intakes, end } = reading();
    read.lookAtFolder();
    intakes[0].next({ kind: 'report', report: 1, summary: summary() });
    intakes[0].next({ kind: 'reading', report: 2, page: 1, pages: 2, found: facts([1]) });
    intakes[0].error(new Error('The server is away.'));
    expect([read.reading(), read.progress().size, read.failure()]).toEqual([false, 0, 'The server is away.']);
    expect(read.summaryOf(1)).toBeDefined();
    read.lookAtFolder();
    expect(read.failure()).toBeUndefined();
    end();
  });

  it('say why the folder could not be looked at, and keep what is known', () => {
    const { read, folder, end } = reading();
    read.lookAtFolder();
    folder.now = () => throwError(() => new Error('The folder is gone.'));
    read.lookAtFolder();
    expect([read.failure(), read.reports().length]).toEqual(['The folder is gone.', 2]);
    end();
  });

  it('are told without the pictures that hold no table, as one object as long as nothing changes', () => {
    const { read, intakes, dismissed, end } = reading();
    read.lookAtFolder();
    intakes[0].next({ kind: 'report', report: 1, summary: summary() });
    expect(read.summaryOf(1)!.pages.map(({ unread }) => unread.length)).toEqual([1, 1]);
    dismissed.set([{ box: [0, 0, 50, 50], report: 'r1.pdf', page: 2 }] as unknown as DismissedPicture[]);
    expect(read.summaryOf(1)!.pages.map(({ unread }) => unread.length)).toEqual([1, 0]);
    expect(read.summaryOf(1)).toBe(read.summaryOf(1));
    end();
  });

  it('are told to be read while typing rests, and are asked for once it has: of several wishes the last', () => {
    vi.useFakeTimers();
    const { read, intakes, end } = reading();
    for (let n = 0; n < 3; n++) {
      read.read(typingRests);
      vi.advanceTimersByTime(typingRests - 1);
    }
    expect([read.reading(), intakes.length]).toEqual([true, 0]);
    vi.advanceTimersByTime(1);
    expect([read.reading(), intakes.length]).toEqual([true, 1]);
    intakes[0].complete();
    expect(read.reading()).toBe(false);
    end();
    vi.useRealTimers();
  });

  it('are not read after all where reading is stopped while typing rests', () => {
    vi.useFakeTimers();
    const { read, intakes, end } = reading();
    read.read(typingRests);
    read.stop();
    vi.advanceTimersByTime(2 * typingRests);
    expect([read.reading(), intakes.length]).toEqual([false, 0]);
    end();
    vi.useRealTimers();
  });
});
