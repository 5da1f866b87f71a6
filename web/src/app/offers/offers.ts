import { computed, effect, inject, Injectable, signal, untracked } from '@angular/core';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import { debounceTime } from 'rxjs';
import { around } from '../../../../core/page/box';
import type { Offer, Proposal, Selected } from '../../../../server/contract/contract';
import { Api } from '../api';
import { BenchLook } from '../bench/bench-look';
import { BenchSelection } from '../bench/bench-selection';
import { PipelineState } from '../pipeline/pipeline-state';
import { asked } from '../shared/asked';
import type { GridPreview } from '../shared/grid-source';
import type { PaperFrame } from '../shared/paper';

/** A selection is asked about once it has rested for so long, in milliseconds. */
const rest = 120;

/** What may be wanted: steps that fit what is selected, and those proposed unasked; and which of them is pointed at. */
@Injectable()
export class Offers {
  private readonly api = inject(Api);
  private readonly state = inject(PipelineState);
  private readonly at = inject(BenchLook);
  private readonly selection = inject(BenchSelection);

  /** What is selected in the sheet. */
  readonly selected = signal<Selected | undefined>(undefined);
  private readonly rested = toSignal(toObservable(this.selected).pipe(debounceTime(rest)));
  private readonly of = computed(() => {
    const word = this.selection.loose();
    if (word) return { word };
    return this.rested() && this.rested() === this.selected() ? { selected: this.rested()! } : undefined;
  });
  private readonly about = asked(
    () => (this.of() && this.at.shown() ? { key: this.at.lookKey(), report: this.at.shown()!.id, step: this.at.stepShown(), pages: this.at.pagesShown(), of: this.of()! } : undefined),
    ({ report, step, pages, of }) => this.api.offers(this.state.id(), report, { pages, step, of }),
    { ready: () => !this.at.workingOut() },
  );
  readonly waiting = this.about.waiting;
  readonly failure = this.about.failure;
  readonly forSelection = computed(() => this.about.value()?.offers ?? []);

  /** The proposals are looked at: only then are they worked out. */
  readonly open = signal(false);
  readonly proposed = asked(
    () => (this.open() && (this.state.document()?.take.length ?? 0) > 0 && this.state.counting().length > 0 ? { pipeline: this.state.id(), version: this.state.version(), reports: this.state.counting().length } : undefined),
    ({ pipeline }) => this.api.proposals(pipeline),
    { keeps: true, ready: () => !this.state.saving() && !this.at.workingOut() && this.state.reading() === false },
  );
  readonly proposals = computed(() => this.proposed.value()?.proposals ?? []);

  /** The proposal that is pointed at, of which it is asked what it would do to the sheet shown. */
  readonly pointedProposal = signal<Proposal | undefined>(undefined);
  private readonly tried = asked(
    () => (this.pointedProposal() && this.at.shown() ? { key: this.at.lookKey(), report: this.at.shown()!.id, step: this.at.stepShown(), pages: this.at.pagesShown(), kind: this.pointedProposal()!.step.kind, settings: this.pointedProposal()!.step.settings } : undefined),
    ({ report, step, pages, kind, settings }) => this.api.offers(this.state.id(), report, { pages, step, of: { kind, settings } }),
    { ready: () => !this.at.workingOut() },
  );
  private readonly pointedOffer = signal<Offer | undefined>(undefined);
  readonly pointed = computed(() => this.pointedOffer() ?? this.tried.value()?.offers[0]);
  readonly preview = computed((): GridPreview | undefined => {
    const offer = this.pointed();
    return offer && { held: new Set(offer.held), changed: new Set(offer.changed.map(([row, column]) => `${row} ${column}`)), leftOut: new Set(offer.leftOut) };
  });
  /** The same on the page shown. */
  readonly frames = computed((): PaperFrame[] =>
    (this.pointed()?.printed ?? [])
      .filter(({ page }) => page === this.at.pageShown())
      .flatMap(({ words }): PaperFrame[] => {
        const box = around(words.flatMap((word) => { const found = this.at.words()[word]; return found ? [found.box] : []; }));
        return box ? [{ box, kind: 'held' }] : [];
      }),
  );

  constructor() {
    // Another sheet: what was pointed at is no more.
    effect(() => {
      this.at.lookKey();
      untracked(() => this.point(undefined));
    });
    // A pipeline without steps begins with what is proposed.
    let begun = false;
    effect(() => {
      if (begun || !this.state.document() || this.state.loading()) return;
      begun = true;
      this.open.set(this.state.stepCount() === 0);
    });
  }

  point(offer: Offer | undefined) {
    this.pointedOffer.set(offer);
    this.pointedProposal.set(undefined);
  }
  pointAt(proposal: Proposal | undefined) {
    this.pointedOffer.set(undefined);
    this.pointedProposal.set(proposal);
  }
}
