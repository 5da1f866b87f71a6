import { Injectable, signal } from '@angular/core';
import type { Kind, Step } from '../../../../core/steps/kinds';
import { wideForms } from './kinds-of-forms';

/** Where the form of a step stands: in its layer, or wide along the foot of the sheet. */
@Injectable()
export class FormPlace {
  private readonly chosen = signal<ReadonlyMap<string, 'layer' | 'foot'>>(new Map());

  isWide = ({ id, kind }: Step): boolean => (this.chosen().get(id) ?? (wideForms.has(kind as Kind) ? 'foot' : 'layer')) === 'foot';
  put = ({ id }: Step, place: 'layer' | 'foot') => this.chosen.update((all) => new Map(all).set(id, place));
}
