import { computed, type Signal } from '@angular/core';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import { catchError, distinctUntilChanged, map, of, switchMap, type Observable } from 'rxjs';
import type { ValueCounts, ValuesSubject } from '../../../../server/contract/contract';

/** Asks for the values above the step whose form is open. */
export type ValuesOf = (subject: ValuesSubject) => Observable<ValueCounts>;

/** The values of a subject, asked for anew when it or the sheet above becomes another; undefined while they are on their way. */
export function columnValues(valuesOf: Signal<ValuesOf | undefined>, subject: Signal<ValuesSubject | undefined>): Signal<ValueCounts | undefined> {
  const wish = computed(() => ({ valuesOf: valuesOf(), key: JSON.stringify(subject()), subject: subject() }));
  return toSignal(
    toObservable(wish).pipe(
      distinctUntilChanged((a, b) => a.valuesOf === b.valuesOf && a.key === b.key),
      switchMap((asked) => (asked.valuesOf && asked.subject ? asked.valuesOf(asked.subject).pipe(map((values): ValueCounts | undefined => values), catchError(() => of(undefined))) : of(undefined))),
    ),
  );
}

const subjects = new Map<string, ValuesSubject>();
/** One object for equal subjects, so that a form asked twice gives the same. */
export function sameSubject(subject: ValuesSubject): ValuesSubject {
  const key = JSON.stringify(subject);
  const known = subjects.get(key) ?? subject;
  subjects.set(key, known);
  return known;
}
