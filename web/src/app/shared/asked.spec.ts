import { signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { Subject } from 'rxjs';
import { vi } from 'vitest';
import { asked } from './asked';

/** Something asked about a number, each answer given by hand. */
function asking(how: { keeps?: boolean; ready?: () => boolean; rest?: number } = {}) {
  const wish = signal<{ n: number } | undefined>({ n: 1 });
  const calls: { n: number; answer: Subject<string> }[] = [];
  const it = TestBed.runInInjectionContext(() =>
    asked(
      () => wish(),
      ({ n }) => {
        const answer = new Subject<string>();
        calls.push({ n, answer });
        return answer;
      },
      how,
    ),
  );
  TestBed.tick();
  const told = () => ({ waiting: it.waiting(), value: it.value(), failure: it.failure()?.message });
  const want = (n: number | undefined) => (wish.set(n === undefined ? undefined : { n }), TestBed.tick());
  return { calls, it, told, want };
}

describe('what is asked of the server', () => {
  it('is waited for, then told', () => {
    const { calls, told } = asking();
    expect(told()).toEqual({ waiting: true, value: undefined, failure: undefined });
    calls[0].answer.next('one');
    expect(told()).toEqual({ waiting: false, value: 'one', failure: undefined });
  });

  it('is never the answer to an older wish, however late that comes', () => {
    const { calls, told, want } = asking();
    calls[0].answer.next('one');
    want(2);
    expect(told()).toEqual({ waiting: true, value: undefined, failure: undefined });
    calls[0].answer.next('one, late');
    expect(told().value).toBeUndefined();
    calls[1].answer.next('two');
    expect(told().value).toBe('two');
  });

  it('belongs to the wish of now even before the next question has gone out', () => {
    const wish = signal(1);
    const answers: Record<number, Subject<string>> = { 1: new Subject(), 2: new Subject() };
    const it = TestBed.runInInjectionContext(() => asked(() => ({ n: wish() }), ({ n }) => answers[n]));
    TestBed.tick();
    answers[1].next('one');
    wish.set(2);
    expect(it.value()).toBeUndefined();
    expect(it.waiting()).toBe(true);
  });

  it('keeps the value before while the next is waited for, where that is wanted', () => {
    const { calls, told, want } = asking({ keeps: true });
    calls[0].answer.next('one');
    want(2);
    expect(told()).toEqual({ waiting: true, value: 'one', failure: undefined });
  });

  it('tells a failure as such, and never the value before it', () => {
    const { calls, told, want } = asking({ keeps: true });
    calls[0].answer.next('one');
    want(2);
    calls[1].answer.error(new Error('The server does not answer.'));
    expect(told()).toEqual({ waiting: false, value: undefined, failure: 'The server does not answer.' });
  });

  it('is asked anew after a failure', () => {
    const { calls, it: asked, told } = asking();
    calls[0].answer.error(new Error('gone'));
    asked.again();
    TestBed.tick();
    expect(told()).toEqual({ waiting: true, value: undefined, failure: undefined });
    calls[1].answer.next('back');
    expect(told().value).toBe('back');
  });

  it('is not asked twice for an equal wish, nor at all without one or before it is ready', () => {
    const { calls, want, told } = asking();
    want(1);
    expect(calls).toHaveLength(1);
    want(undefined);
    expect(calls).toHaveLength(1);
    expect(told()).toEqual({ waiting: false, value: undefined, failure: undefined });

    const ready = signal(false);
    const later = asking({ ready: () => ready() });
    expect(later.calls).toHaveLength(0);
    expect(later.told().waiting).toBe(true);
    ready.set(true);
    TestBed.tick();
    expect(later.calls.map(({ n }) => n)).toEqual([1]);
  });

  it('is not asked before it has stood for a while, where that is wanted: of quick wishes the last alone', () => {
    vi.useFakeTimers();
    const { calls, told, want } = asking({ rest: 100 });
    vi.advanceTimersByTime(99);
    want(2);
    vi.advanceTimersByTime(99);
    expect(calls).toEqual([]);
    expect(told().waiting).toBe(true);
    vi.advanceTimersByTime(1);
    expect(calls.map(({ n }) => n)).toEqual([2]);
    calls[0].answer.next('two');
    expect(told()).toEqual({ waiting: false, value: 'two', failure: undefined });
    vi.useRealTimers();
  });
});
