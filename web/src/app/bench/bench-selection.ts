import { computed, effect, inject, Injectable, signal, untracked } from '@angular/core';
import { ActivatedRoute } from '@angular/router';
import { catchError, map, of, Subject, switchMap } from 'rxjs';
import { stepAtOrAbove } from '../../../../core/pipeline/layers';
import type { Correction } from '../../../../core/steps/correct-cells';
import { cellText } from '../../../../core/values/cell';
import type { Traced } from '../../../../server/contract/contract';
import { PipelineState } from '../pipeline/pipeline-state';
import { Look } from '../shared/look';
import type { PaperFrame } from '../shared/paper';
import type { GridCellPlace } from '../shared/sheet-grid';
import { plural } from '../shared/words';
import { BenchLook, type CellOf } from './bench-look';
import { changed, withCorrection } from './steps-edit';
import type { LookPlace } from './types-form';

/** What is chosen on the bench: a cell, and with it the words on paper; or a word, and with it its cell. */
@Injectable()
export class BenchSelection {
  private readonly state = inject(PipelineState);
  private readonly at = inject(BenchLook);
  private readonly look = inject(Look);
  private readonly route = inject(ActivatedRoute);

  readonly cell = signal<{ of: CellOf; place: GridCellPlace } | undefined>(undefined);
  readonly fate = signal<{ word: string; sentence: string; step?: string } | undefined>(undefined);
  readonly traced = signal<Traced['places']>([]);
  /** Is the print behind the chosen cell still being looked for? */
  readonly looking = signal(false);
  /** What the held row chosen says: an exception that lets it pass says the same. */
  readonly says = signal<string | undefined>(undefined);
  /** Why the row chosen was held, in full. */
  readonly reason = signal<string | undefined>(undefined);
  /** The text of the cell chosen, and where it begins on paper: what a correction by hand is known by. */
  readonly chosenText = signal('');

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

  private readonly cellWishes = new Subject<{ of: CellOf; place: GridCellPlace }>();
  private readonly wordWishes = new Subject<number>();

  constructor() {
    effect(() => {
      // Another layer or report: what was chosen in the one before means nothing here.
      this.at.shown()?.id;
      this.at.stepShown();
      untracked(() => {
        this.cell.set(undefined);
        this.forget();
      });
    });
    this.cellWishes
      .pipe(
        switchMap(({ of: which, place }) => {
          const column = this.at.sourceFor(which)?.columns[place.column]?.name;
          return column === undefined ? of(undefined) : this.at.cellAt(which, place.row, column).pipe(map((found) => found && { which, place, ...found }), catchError(() => of(undefined)));
        }),
      )
      .subscribe((found) => {
        if (found?.which === 'held') {
          this.says.set(found.row.says);
          this.reason.set(found.row.reason);
        } else if (found?.which === 'sheet') this.chosenText.set(cellText(found.row.cells[found.place.column] ?? null));
        this.looking.set(false);
        this.traced.set(found?.traced.places ?? []);
        const page = found?.traced.places[0]?.page;
        if (page !== undefined && page !== this.at.pageShown()) this.turnTo(page);
      });
    this.wordWishes.pipe(switchMap((word) => this.at.wordAt(word).pipe(map((fate) => ({ word, fate })), catchError(() => of(undefined))))).subscribe((found) => {
      if (!found) return;
      const { word, fate } = found;
      const text = this.at.words()[word];
      this.traced.set([{ report: this.at.shown()!.id, page: this.at.pageShown(), box: text.box, words: [{ text: text.text, box: text.box, at: word }] }]);
      const [cell] = fate.cells;
      const [held] = fate.held;
      const told = (sentence: string, step?: string) => this.fate.set({ word: text.text, sentence, ...(step ? { step } : {}) });
      if (cell) {
        const column = this.at.source()!.columns.findIndex((each) => each.name === cell.column);
        this.cell.set({ of: 'sheet', place: { row: cell.row, column } });
        told(`row ${cell.row + 1}, ${cell.column}${fate.cells.length > 1 ? `, and ${plural(fate.cells.length - 1, 'more cell')}` : ''}`);
      } else if (held) told(`held by “${held.title}”: ${held.reason}`, held.step);
      else if (fate.gone) told(`${fate.gone.how} by “${fate.gone.title}”`, fate.gone.step);
      else told(fate.names.length > 0 ? `names the column ${fate.names.join(', ')}` : 'in no taken table');
    });
  }

  private forget() {
    this.traced.set([]);
    this.fate.set(undefined);
    this.says.set(undefined);
    this.reason.set(undefined);
    this.chosenText.set('');
  }

  choose(step: string) {
    this.look.at(this.route, { step }, false);
  }
  turnTo(page: number) {
    this.look.at(this.route, { page });
  }
  chooseCell(of: CellOf, place: GridCellPlace) {
    this.cell.set({ of, place });
    this.fate.set(undefined);
    this.says.set(undefined);
    this.reason.set(undefined);
    this.chosenText.set('');
    this.looking.set(true);
    this.cellWishes.next({ of, place });
  }
  followWord(word: number) {
    this.wordWishes.next(word);
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
    this.cell.set(undefined);
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
