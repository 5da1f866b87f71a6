import { computed, effect, inject, Injectable, signal, untracked } from '@angular/core';
import { ActivatedRoute } from '@angular/router';
import { stepAtOrAbove } from '../../../../core/pipeline/layers';
import type { Correction } from '../../../../core/steps/correct-cells';
import { cellText } from '../../../../core/values/cell';
import type { Traced } from '../../../../server/contract/contract';
import { PipelineState } from '../pipeline/pipeline-state';
import { asked } from '../shared/asked';
import { Look } from '../shared/look';
import type { PaperFrame } from '../shared/paper';
import type { GridCellPlace } from '../shared/sheet-grid';
import { plural } from '../shared/words';
import { BenchLook, type CellOf } from './bench-look';
import { changed, withCorrection } from './steps-edit';
import type { LookPlace } from './own-form';

interface Chosen {
  readonly of: CellOf;
  readonly place: GridCellPlace;
}

/** What is chosen on the bench: a cell, and with it the words on paper; or a word, and with it its cell. */
@Injectable()
export class BenchSelection {
  private readonly state = inject(PipelineState);
  private readonly at = inject(BenchLook);
  private readonly look = inject(Look);
  private readonly route = inject(ActivatedRoute);

  /** The columns selected whole in the sheet, by place and by name. */
  readonly columns = signal<readonly number[]>([]);
  readonly columnNames = computed(() => this.columns().flatMap((at) => this.at.source()?.columns[at]?.name ?? []));
  readonly cell = signal<Chosen | undefined>(undefined);
  /** A word of the page shown that is followed to its cell. */
  private readonly word = signal<{ readonly report: number; readonly page: number; readonly at: number } | undefined>(undefined);
  private readonly cellAsked = asked(
    () => {
      const cell = this.cell();
      const column = cell && this.at.sourceFor(cell.of)?.columns[cell.place.column]?.name;
      // A cell that a word led to is known by that word already.
      return cell && column !== undefined && !this.word() ? { key: this.at.lookKey(), which: cell.of, row: cell.place.row, column } : undefined;
    },
    ({ which, row, column }) => this.at.cellAt(which, row, column),
    { ready: () => !this.at.workingOut() },
  );
  private readonly wordAsked = asked(
    () => this.word() && { ...this.word()!, key: this.at.lookKey() },
    ({ at }) => this.at.wordAt(at),
  );
  private readonly found = this.cellAsked.value;
  /** Is the print behind the chosen cell still being looked for? */
  readonly looking = this.cellAsked.waiting;
  /** Why the print, or the cell, could not be found. */
  readonly failure = computed(() => (this.cellAsked.failure() ?? this.wordAsked.failure())?.message);
  readonly traced = computed((): Traced['places'] => {
    const word = this.word();
    const text = word && this.at.words()[word.at];
    if (word) return text && word.page === this.at.pageShown() ? [{ report: word.report, page: word.page, box: text.box, words: [{ text: text.text, box: text.box, at: word.at }] }] : [];
    return this.found()?.traced.places ?? [];
  });
  /** The word of the page shown that is followed, where no taken table has it. */
  readonly loose = computed(() => {
    const [word, fate] = [this.word(), this.wordAsked.value()];
    return word && fate && fate.cells.length === 0 && fate.held.length === 0 && !fate.gone && fate.names.length === 0 ? { page: word.page, word: word.at } : undefined;
  });
  /** What became of the word that is followed. */
  readonly fate = computed((): { word: string; sentence: string; step?: string } | undefined => {
    const fate = this.wordAsked.value();
    const word = this.word() && this.at.words()[this.word()!.at]?.text;
    if (!fate || word === undefined) return undefined;
    const [cell] = fate.cells;
    const [held] = fate.held;
    if (cell) return { word, sentence: `row ${cell.row + 1}, ${cell.column}${fate.cells.length > 1 ? `, and ${plural(fate.cells.length - 1, 'more cell')}` : ''}` };
    if (held) return { word, sentence: `held by “${held.title}”: ${held.reason}`, step: held.step };
    if (fate.gone) return { word, sentence: `${fate.gone.how} by “${fate.gone.title}”`, step: fate.gone.step };
    return { word, sentence: fate.names.length > 0 ? `names the column ${fate.names.join(', ')}` : 'in no taken table' };
  });
  /** The row in which the chosen cell stands. */
  readonly row = computed(() => this.found()?.row);
  private readonly heldRow = computed(() => (this.cell()?.of === 'held' ? this.found()?.row : undefined));
  /** What the held row chosen says: an exception that lets it pass says the same. */
  readonly says = computed(() => this.heldRow()?.says);
  /** Why the row chosen was held, in full. */
  readonly reason = computed(() => this.heldRow()?.reason);
  /** The text of the cell chosen, and where it begins on paper: what a correction by hand is known by. */
  readonly chosenText = computed(() => (this.cell()?.of === 'sheet' ? cellText(this.found()?.row.cells[this.cell()!.place.column] ?? null) : ''));

  readonly errorHere = computed(() => {
    const cell = this.cell();
    if (cell?.of !== 'sheet') return undefined;
    const column = this.at.source()?.columns[cell.place.column]?.name;
    return this.at.errors().find((error) => error.row === cell.place.row && error.column === column);
  });
  readonly correctable = computed(() => {
    const cell = this.cell();
    const place = this.traced()[0];
    const column = cell?.of === 'sheet' ? this.at.source()?.columns[cell.place.column]?.name : undefined;
    return column && place && this.chosenText() !== '' && place.words.length > 0 ? { column, page: place.page, word: place.words[0].at, from: this.errorHere()?.text ?? this.chosenText(), before: this.errorHere()?.step } : undefined;
  });
  readonly frames = computed((): PaperFrame[] =>
    this.traced()
      .filter((place) => place.page === this.at.pageShown())
      .flatMap((place) => place.words.map((word): PaperFrame => ({ box: word.box, kind: this.cell()?.of === 'sheet' ? 'word' : 'held' }))),
  );

  constructor() {
    effect(() => {
      // Another layer or report: what was chosen in the one before means nothing here.
      this.at.shown()?.id;
      this.at.stepShown();
      untracked(() => this.forget());
    });
    let turnedFor: Chosen | undefined;
    effect(() => {
      const page = this.found()?.traced.places[0]?.page;
      untracked(() => {
        // Once for each cell that is chosen: who turns the page then stays there.
        if (page === undefined || turnedFor === this.cell()) return;
        turnedFor = this.cell();
        if (page !== this.at.pageShown()) this.turnTo(page);
      });
    });
    effect(() => {
      const [cell] = this.wordAsked.value()?.cells ?? [];
      const column = untracked(() => this.at.source()?.columns.findIndex((each) => each.name === cell?.column) ?? -1);
      if (cell && column >= 0) this.cell.set({ of: 'sheet', place: { row: cell.row, column } });
    });
  }

  private forget() {
    this.cell.set(undefined);
    this.word.set(undefined);
  }

  choose(step: string) {
    this.look.at(this.route, { step }, false);
  }
  turnTo(page: number) {
    this.look.at(this.route, { page });
  }
  chooseCell(of: CellOf, place: GridCellPlace) {
    this.word.set(undefined);
    this.cell.set({ of, place });
  }
  followWord(word: number) {
    this.cell.set(undefined);
    this.word.set({ report: this.at.shown()!.id, page: this.at.pageShown(), at: word });
  }
  /** From a line of the overwritten cells to the cell in the sheet, which is traced to the paper. */
  chooseOverwritten({ row }: GridCellPlace) {
    this.at.overwrittenAt(row).subscribe((line) => line && this.lookAtPlace({ row: Number(line.cells[0]) - 1, column: String(line.cells[1]) }));
  }
  /** A cell of the sheet shown, or a page of another report. */
  lookAtPlace({ report, page, row, column }: LookPlace) {
    if (report !== undefined && report !== this.at.shown()?.id) return this.look.at(this.route, { report, page: page ?? null }, false);
    const at = this.at.source()?.columns.findIndex((each) => each.name === column) ?? -1;
    if (row !== undefined && at >= 0) this.chooseCell('sheet', { row, column: at });
  }
  /** The next error cell of the sheet, or the one before. */
  walk(by: 1 | -1) {
    const errors = this.at.errors();
    const at = errors.indexOf(this.errorHere()!);
    const next = errors[at < 0 ? (by > 0 ? 0 : errors.length - 1) : (at + by + errors.length) % errors.length];
    if (next) this.lookAtPlace(next);
  }

  /** Writes an exception into the step: rows that say this pass it. */
  letPass(text: string, onlyHere: boolean) {
    const step = this.at.step();
    if (!step) return;
    const report = this.at.shown()!.path;
    this.forget();
    this.state.change(changed(this.state.document()!, step.id, { pass: [...(step.pass ?? []), { text, ...(onlyHere ? { report } : {}) }] }));
  }
  /** Writes a correction into the step for them above the step at which the error starts, or below the one looked at. */
  correct({ to, into, why }: { to: string; into: string; why: string }) {
    const cell = this.correctable();
    if (!cell) return;
    const { before, ...place } = cell;
    const document = this.state.document()!;
    const correction: Correction = { report: this.at.shown()!.path, ...place, to: to.trim(), into, who: '', when: new Date().toISOString().slice(0, 10), why: why.trim() };
    this.state.change(withCorrection(document, correction, before ? { above: before } : { below: stepAtOrAbove(document, this.at.stepShown()) }));
  }
}
