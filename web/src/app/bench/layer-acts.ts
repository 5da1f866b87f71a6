import { inject, Injectable } from '@angular/core';
import type { MenuItem } from 'primeng/api';
import { placeBelow, placeOf } from '../../../../core/pipeline/layers';
import type { Step } from '../../../../core/steps/kinds';
import { PipelineState } from '../pipeline/pipeline-state';
import { Clipboard } from '../shared/clipboard';
import { BenchLook } from './bench-look';
import { BenchSelection } from './bench-selection';
import { BenchSteps } from './bench-steps';
import { changedAndFollowed, moved, removed, stepText } from './steps-edit';

/** What can be done with a layer of the stack as a whole. */
@Injectable()
export class LayerActs {
  private readonly state = inject(PipelineState);
  private readonly at = inject(BenchLook);
  private readonly selection = inject(BenchSelection);
  private readonly steps = inject(BenchSteps);
  private readonly clipboard = inject(Clipboard);

  move = (step: Step, by: -1 | 1) => this.state.change(moved(this.state.document()!, step.id, by));
  toggle = (step: Step) => this.state.change(changedAndFollowed(this.state.document()!, step.id, { off: !step.off }, this.at.above(step.id)));
  remove(step: Step) {
    this.state.change(removed(this.state.document()!, step.id));
    this.selection.choose('taken');
  }
  /** The step as text, to be put in here or in another pipeline. */
  copy(step: Step) {
    this.clipboard.put(stepText(step), 'The step was copied; paste it where a step is added.');
  }

  menuOf = (step: Step): MenuItem[] => [
    { label: 'Add a step above', command: () => this.steps.adding.set(placeOf(this.state.document()!, step.id)) },
    { label: 'Add a step below', command: () => this.steps.adding.set(placeBelow(this.state.document()!, step.id)) },
    { separator: true },
    { label: 'Move up', command: () => this.move(step, -1) },
    { label: 'Move down', command: () => this.move(step, 1) },
    { label: step.off ? 'Switch on' : 'Switch off', command: () => this.toggle(step) },
    { label: 'Copy', command: () => this.copy(step) },
    { separator: true },
    { label: 'Remove', command: () => this.remove(step) },
  ];
}
