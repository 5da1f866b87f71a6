import { inject, Injectable, signal } from '@angular/core';
import { ActivatedRoute } from '@angular/router';
import type { MenuItem } from 'primeng/api';
import { placeBelow, type StepPlace } from '../../../../core/pipeline/layers';
import { kinds, type Kind, type Step } from '../../../../core/steps/kinds';
import { PipelineState } from '../pipeline/pipeline-state';
import { Look } from '../shared/look';
import { BenchLook } from './bench-look';
import { inserted, newStepOf } from './steps-edit';

/** What the heading of columns offers, in the words of the sheet. */
const offers: readonly { readonly kind: Kind; readonly says: string; readonly settings?: (names: readonly string[]) => Record<string, unknown> }[] = [
  { kind: 'pick columns', says: 'Leave out', settings: (names) => ({ columns: { by: 'all but', names } }) },
  { kind: 'pick columns', says: 'Keep these only' },
  { kind: 'rename', says: 'Name otherwise' },
  { kind: 'sift rows', says: 'Hold rows by its values' },
  { kind: 'unpivot', says: 'Turn into rows' },
  { kind: 'carry values', says: 'Carry values into blanks' },
  { kind: 'split column', says: 'Split' },
  { kind: 'find and replace', says: 'Write texts otherwise' },
  { kind: 'sort', says: 'Sort by it' },
];

/** Steps that are put into the stack. */
@Injectable()
export class BenchSteps {
  private readonly state = inject(PipelineState);
  private readonly at = inject(BenchLook);
  private readonly look = inject(Look);
  private readonly route = inject(ActivatedRoute);
  /** Where in the stack a step is being added. */
  readonly adding = signal<StepPlace | undefined>(undefined);

  /** A step of a kind where one is being added. */
  add(kind: string) {
    this.put(newStepOf(kind));
  }
  /** Puts a step in where one is being added, or below the layer looked at, and opens it. */
  put(step: Step) {
    const document = this.state.document()!;
    const place = this.adding() ?? placeBelow(document, this.at.stepShown());
    this.state.change(inserted(document, place, step));
    this.adding.set(undefined);
    this.look.at(this.route, { step: step.id, add: null }, false);
  }

  /** What can be done with some columns of the sheet. */
  menuOf = (names: readonly string[]): MenuItem[] => [
    { label: 'Add below this layer', items: offers.map(({ kind, says, settings }) => ({ label: `${says}`, title: kinds.get(kind)!.title, command: () => this.put(newStepOf(kind, names, settings?.(names))) })) },
  ];
}
