import { Component, provideZonelessChangeDetection } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { of, Subject, throwError, type Observable } from 'rxjs';
import { afterEach, beforeEach, vi } from 'vitest';
import type { DownloadAnswer } from '../../../../server/contract/contract';
import { Api } from '../api';
import { DownloadLine } from './download-line';

@Component({ imports: [DownloadLine], template: `<sieve-download-line address="/file.csv?trace=yes" />` })
class Host {}

describe('a file on its way', () => {
  beforeEach(() => vi.useFakeTimers());
  afterEach(() => vi.useRealTimers());

  function show(answers: (ticket: string) => Observable<DownloadAnswer>) {
    const cancelled: string[] = [];
    TestBed.configureTestingModule({ providers: [provideZonelessChangeDetection(), { provide: Api, useValue: { download: answers, cancelDownload: (ticket: string) => (cancelled.push(ticket), of(undefined)) } }] });
    const fixture = TestBed.createComponent(Host);
    const root = fixture.nativeElement as HTMLElement;
    const wait = async (ms: number) => {
      await vi.advanceTimersByTimeAsync(ms);
      fixture.detectChanges();
    };
    const link = () => root.querySelector('a')!;
    fixture.detectChanges();
    link().addEventListener('click', (event) => event.preventDefault());
    return { root, wait, link, cancelled, says: () => root.querySelector('.small')?.textContent?.trim() };
  }
  const ticketOf = (link: HTMLAnchorElement) => new URL(link.href).searchParams.get('ticket')!;

  it('says how far it is until the whole of it has been sent; the next has another ticket', async () => {
    const asked: string[] = [];
    const answers: DownloadAnswer[] = [{ rows: 12_000, taken: 5_000, state: 'under way' }, { rows: 12_000, taken: 12_000, state: 'done' }];
    const { link, wait, says } = show((ticket) => (asked.push(ticket), of(answers[Math.min(asked.length, answers.length) - 1])));
    const first = ticketOf(link());
    expect(new URL(link().href).searchParams.get('trace')).toBe('yes');
    link().click();
    await wait(400);
    expect(says()).toBe('5,000 of 12,000 rows');
    await wait(400);
    expect(says()).toContain('12,000 rows: the whole file has been sent');
    await wait(4000);
    expect(asked).toEqual([first, first]);
    expect(ticketOf(link())).not.toBe(first);
  });

  it('is waited for while its rows are being selected, and can be cancelled', async () => {
    let tries = 0;
    const { root, link, wait, says, cancelled } = show(() => (++tries < 3 ? throwError(() => new Error('No file.')) : of<DownloadAnswer>({ rows: 10, taken: 0, state: cancelled.length > 0 ? 'cancelled' : 'under way' })));
    const ticket = ticketOf(link());
    link().click();
    await wait(400);
    expect(says()).toBeUndefined();
    await wait(3000);
    expect(says()).toBe('0 of 10 rows');
    root.querySelector('button')!.click();
    expect(cancelled).toEqual([ticket]);
    await wait(400);
    expect(says()).toContain('Cancelled');
  });

  it('says that it broke off, and does not ask for one that is not looked at any more', async () => {
    const told = new Subject<DownloadAnswer>();
    const { root, link, wait } = show(() => told);
    link().click();
    await wait(400);
    told.next({ rows: 10, taken: 5, state: 'broken off' });
    await wait(0);
    expect(root.querySelector('[role=alert]')!.textContent).toContain('broke off after 5 of 10 rows');
    expect(told.observed).toBe(false);
  });
});
