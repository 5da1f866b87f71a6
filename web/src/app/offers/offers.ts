import { computed, effect, inject, Injectable, signal, untracked } from '@angular/core';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import { debounceTime } from 'rxjs';
import { around } from '../../../../core/page/box';
import { placeBelow, type StepPlace } from '../../../../core/pipeline/layers';
import { kinds } from '../../../../core/steps/kinds';
import type { Cell } from '../../../../core/values/cell';
import { decimalsOf } from '../../../../core/values/plain-number';
import type { Offer, OffersOf, PartOfText, Proposal, Selected } from '../../../../server/contract/contract';
import { Api } from '../api';
import { BenchLook } from '../bench/bench-look';
import { BenchSelection } from '../bench/bench-selection';
import { BenchSteps } from '../bench/bench-steps';
import { PipelineState } from '../pipeline/pipeline-state';
import { asked } from '../shared/asked';
import { cellShown } from '../shared/cell-shown';
import type { GridPreview } from '../shared/grid-source';
import type { PaperFrame } from '../shared/paper';

/** A selection is asked about once it has rested for so long, in milliseconds. */
const rest = 120;

/** A step that is pointed at, as a layer where it would stand. */
export interface GhostLayer extends StepPlace {
  readonly title: string;
  readonly says: string;
  readonly effect: Pick<Offer, 'rowsIn' | 'rowsOut' | 'holds' | 'made'>;
}

/** What may be wanted: steps that fit what is selected, and those proposed unasked; and which of them is pointed at. */
@Injectable()
export class Offers {
  private readonly api = inject(Api);
  private readonly state = inject(PipelineState);
  private readonly at = inject(BenchLook);
  private readonly selection = inject(BenchSelection);
  private readonly steps = inject(BenchSteps);

  /** What is selected in the sheet. */
  readonly selected = signal<Selected | undefined>(undefined);
  /** A part of a text, or the edge right of a column, that is selected instead. */
  readonly part = signal<PartOfText | undefined>(undefined);
  readonly edge = signal<number | undefined>(undefined);
  private readonly rested = toSignal(toObservable(this.selected).pipe(debounceTime(rest)));
  private readonly of = computed((): OffersOf | undefined => {
    const word = this.selection.loose();
    if (word) return { word };
    const [part, edge] = [this.part(), this.edge()];
    if (part) return { part };
    if (edge !== undefined) return { edge };
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
  /** It stands on those above it. */
  private readonly chain = computed(() => {
    const pointed = this.pointedProposal();
    return pointed && this.proposals().slice(0, this.proposals().findIndex(({ id }) => id === pointed.id) + 1).map(({ zone, step }) => ({ zone, step: step as Extract<OffersOf, { steps: unknown }>['steps'][number]['step'] }));
  });
  private readonly tried = asked(
    () => (this.chain()?.length && this.at.shown() ? { key: this.at.lookKey(), report: this.at.shown()!.id, step: this.at.stepShown(), pages: this.at.pagesShown(), steps: this.chain()! } : undefined),
    ({ report, step, pages, steps }) => this.api.offers(this.state.id(), report, { pages, step, of: { steps } }),
    { ready: () => !this.at.workingOut() },
  );
  private readonly pointedOffer = signal<Offer | undefined>(undefined);
  readonly pointed = computed(() => this.pointedOffer() ?? this.tried.value()?.offers[0]);
  readonly preview = computed((): GridPreview | undefined => {
    const offer = this.pointed();
    if (!offer) return undefined;
    // Amounts are shown with the digits that their column will have.
    const written = new Map<number, Cell[]>();
    for (const [, column, to] of offer.changed) {
      const own = written.get(column);
      if (own) own.push(to);
      else written.set(column, [to]);
    }
    const digits = new Map([...written].map(([column, cells]) => [column, decimalsOf(cells)]));
    return { held: new Set(offer.held), changed: new Map(offer.changed.map(([row, column, to]) => [`${row} ${column}`, cellShown(to, digits.get(column)) || 'blank'])), leftOut: new Set(offer.leftOut) };
  });
  /** The same as a layer of the stack. */
  readonly ghost = computed((): GhostLayer | undefined => {
    const effect = this.pointed();
    const document = this.state.document();
    if (!effect || !document) return undefined;
    const title = kinds.get(effect.kind)!.title;
    const proposal = this.pointedProposal();
    if (proposal) return { zone: proposal.zone, at: document[proposal.zone].length, title, says: proposal.says, effect };
    return { ...(this.steps.adding() ?? placeBelow(document, this.at.stepShown())), title, says: effect.says, effect };
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
    // Other cells are meant now.
    effect(() => {
      this.selected();
      untracked(() => {
        this.part.set(undefined);
        this.edge.set(undefined);
      });
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
