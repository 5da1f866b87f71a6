import type { Signal } from '@angular/core';
import type { Observable } from 'rxjs';
import type { ValueCounts, ValuesSubject } from '../../../../server/contract/contract';
import { asked, type Asked } from '../shared/asked';

/** Asks for the values above the step whose form is open. */
export type ValuesOf = (subject: ValuesSubject) => Observable<ValueCounts>;

/** The values of a subject, asked for anew when it or the sheet above becomes another. */
export const columnValues = (valuesOf: Signal<ValuesOf | undefined>, subject: Signal<ValuesSubject | undefined>): Asked<ValueCounts> =>
  asked(
    () => (valuesOf() && subject() ? { valuesOf: valuesOf()!, subject: subject()! } : undefined),
    (wish) => wish.valuesOf(wish.subject),
    { same: (a, b) => a.valuesOf === b.valuesOf && JSON.stringify(a.subject) === JSON.stringify(b.subject) },
  );

const subjects = new Map<string, ValuesSubject>();
/** One object for equal subjects, so that a form asked twice gives the same. */
export function sameSubject(subject: ValuesSubject): ValuesSubject {
  const key = JSON.stringify(subject);
  const known = subjects.get(key) ?? subject;
  subjects.set(key, known);
  return known;
}
