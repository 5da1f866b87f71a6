import { Component, computed, inject } from '@angular/core';
import { ActivatedRoute } from '@angular/router';
import { ButtonDirective } from 'primeng/button';
import type { Pipeline } from '../../../../core/pipeline/document';
import { zoneTitles } from '../../../../core/steps/step';
import type { Proposal } from '../../../../server/contract/contract';
import { PipelineState } from '../pipeline/pipeline-state';
import { FailedLine } from '../shared/failed-line';
import { Look } from '../shared/look';
import { plural } from '../shared/words';
import { effectInWords } from './effect-in-words';
import { Offers } from './offers';

/** Steps that the program proposes from all reports, above the stack, each with its reason and what it would do. Nothing is put in by itself. */
@Component({
  selector: 'sieve-proposals-panel',
  imports: [ButtonDirective, FailedLine],
  template: `
    @if (takes()) {
      <section aria-label="Proposed steps">
        <div class="top">
          <button type="button" class="title" [attr.aria-expanded]="offers.open()" (click)="offers.open.set(!offers.open())"><i class="pi" [class.pi-chevron-down]="offers.open()" [class.pi-chevron-right]="!offers.open()" aria-hidden="true"></i> Proposed</button>
          @if (offers.open()) {
            <span class="small" role="status">{{ status() }}</span>
            <span class="grow"></span>
            @if (offers.proposals().length > 1 && !offers.proposed.waiting()) {
              <button pButton type="button" size="small" (click)="take(offers.proposals())">Take all {{ offers.proposals().length }}</button>
            }
          }
        </div>
        @if (offers.open()) {
          <sieve-failed-line [of]="[offers.proposed]" />
          <ol [class.waits]="offers.proposed.waiting()" (mouseleave)="offers.pointAt(undefined)">
            @for (proposal of offers.proposals(); track proposal.id; let at = $index) {
              <li (mouseenter)="offers.pointAt(proposal)" (focusin)="offers.pointAt(proposal)" (focusout)="offers.pointAt(undefined)">
                <b>{{ proposal.title }}</b> <span class="small">{{ zoneTitle(proposal) }}</span>
                <span class="says" [title]="proposal.says">{{ proposal.says }}</span>
                <span class="small">{{ capital(proposal.reason) }}. {{ effectOf(proposal) }}</span>
                @if (proposal.effect.failing.length > 0) {
                  <span class="needs"><i class="pi pi-exclamation-triangle" aria-hidden="true"></i> It cannot be done in {{ proposal.effect.failing.slice(0, 2).join(', ') }}{{ proposal.effect.failing.length > 2 ? ' and ' + counted(proposal.effect.failing.length - 2, 'more report') : '' }}.</span>
                }
                <span class="mesh" aria-hidden="true"><span class="through" [style.width.%]="through(proposal)"></span></span>
                <span class="acts">
                  <button pButton type="button" size="small" severity="secondary" [outlined]="true" (click)="take(offers.proposals().slice(0, at + 1))" [attr.aria-label]="'Take ' + proposal.title" [title]="at > 0 ? 'With the ' + counted(at, 'proposal') + ' above, on which it stands' : ''">{{ at > 0 ? 'Take down to here' : 'Take' }}</button>
                  <button pButton type="button" size="small" severity="secondary" [text]="true" (click)="dismiss(proposal)" [attr.aria-label]="'Dismiss ' + proposal.title">Dismiss</button>
                </span>
              </li>
            }
          </ol>
          @if (dismissed() > 0) {
            <button pButton type="button" size="small" severity="secondary" [text]="true" (click)="askBack()">Ask {{ counted(dismissed(), 'dismissed proposal') }} back</button>
          }
        }
      </section>
    }
  `,
  styleUrl: './proposals-panel.css',
})
export class ProposalsPanel {
  protected readonly offers = inject(Offers);
  protected readonly state = inject(PipelineState);
  private readonly look = inject(Look);
  private readonly route = inject(ActivatedRoute);
  protected readonly counted = plural;
  protected readonly effectOf = ({ effect }: Proposal) => effectInWords(effect);
  protected readonly takes = computed(() => (this.state.document()?.take.length ?? 0) > 0);
  protected readonly dismissed = computed(() => this.state.document()?.dismissed?.length ?? 0);
  protected readonly status = computed(() => {
    if (this.offers.proposed.waiting()) return 'Looking at the reports';
    const { proposals = [], reports = 0 } = this.offers.proposed.value() ?? {};
    return proposals.length === 0 ? (this.offers.proposed.failure() ? '' : 'nothing more') : `from ${plural(reports, 'report')}`;
  });
  protected zoneTitle = ({ zone }: Proposal) => zoneTitles[zone];
  protected capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);
  protected through = ({ effect }: Proposal) => (effect.rowsIn === 0 ? 0 : Math.min(100, (100 * effect.rowsOut) / effect.rowsIn));

  /** Puts proposals into the stack, in their order; one undo takes them out again. */
  protected take(proposals: readonly Proposal[]) {
    const document = this.state.document()!;
    const next = proposals.reduce<Pipeline>((all, { zone, step }) => ({ ...all, [zone]: [...all[zone], step] }), document);
    this.offers.pointAt(undefined);
    this.state.change(next);
    this.look.at(this.route, { step: proposals.at(-1)!.step.id, add: null }, false);
  }

  protected dismiss({ id }: Proposal) {
    const document = this.state.document()!;
    this.offers.pointAt(undefined);
    this.state.change({ ...document, dismissed: [...(document.dismissed ?? []), id] });
  }

  protected askBack() {
    const { dismissed: _, ...document } = this.state.document()!;
    this.state.change(document);
  }
}
