import { computed, signal, type Signal } from '@angular/core';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import { catchError, distinctUntilChanged, filter, map, of, switchMap, timer, type Observable } from 'rxjs';

/** What was asked of the server: whether it is waited for, what came, or why it did not. At most one of the last two. */
export interface Asked<Value> {
  readonly waiting: Signal<boolean>;
  readonly value: Signal<Value | undefined>;
  readonly failure: Signal<Error | undefined>;
  /** Asks the same anew. */
  again(): void;
}

interface How<Wish> {
  /** The value before stays while the next is waited for. */
  readonly keeps?: boolean;
  /** Asked only while this is true; until then it is waited for. */
  readonly ready?: () => boolean;
  /** Milliseconds that a wish stands before it is asked for: what is wished for meanwhile takes its place. */
  readonly rest?: number;
  /** Whether two wishes are the same. */
  readonly same?: (a: Wish, b: Wish) => boolean;
}

const sameContent = (a: unknown, b: unknown) => JSON.stringify(a) === JSON.stringify(b);

/**
 * Asks the server whenever the wish becomes another. What is told always belongs to the wish of now: the answer to an
 * older one never comes through, and a failure is told as one. No wish: nothing is asked.
 */
export function asked<Wish, Value>(wish: () => Wish | undefined, ask: (wish: Wish) => Observable<Value>, { keeps = false, ready = () => true, rest = 0, same = sameContent }: How<Wish> = {}): Asked<Value> {
  const times = signal(0);
  const wanted = computed(() => ({ wish: wish(), times: times() }), {
    equal: (a, b) => a.times === b.times && (a.wish === b.wish || (a.wish !== undefined && b.wish !== undefined && same(a.wish, b.wish))),
  });
  type Answered = { readonly wanted: ReturnType<typeof wanted>; readonly value?: Value; readonly failure?: Error };
  const due = computed(() => (ready() ? wanted() : undefined));
  const answered = toSignal(
    toObservable(due).pipe(
      filter((each) => each !== undefined),
      distinctUntilChanged(),
      switchMap((each): Observable<Answered> =>
        each.wish === undefined
          ? of({ wanted: each })
          : (rest > 0 ? timer(rest).pipe(switchMap(() => ask(each.wish!))) : ask(each.wish)).pipe(
              map((value): Answered => ({ wanted: each, value })),
              catchError((failure: Error) => of<Answered>({ wanted: each, failure })),
            ),
      ),
    ),
  );
  const current = computed(() => (answered()?.wanted === wanted() ? answered() : undefined));
  const waiting = computed(() => wanted().wish !== undefined && current() === undefined);
  return {
    waiting,
    value: computed(() => (waiting() && keeps ? answered()?.value : current()?.value)),
    failure: computed(() => current()?.failure),
    again: () => times.update((n) => n + 1),
  };
}

/** Asks anew for all that failed. */
export function askFailedAgain(all: readonly Asked<unknown>[]): void {
  for (const each of all) if (each.failure()) each.again();
}
