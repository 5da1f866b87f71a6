import { computed, inject, Injectable, signal } from '@angular/core';
import { Subscription } from 'rxjs';
import { parsePipeline, type Pipeline } from '../../../../core/pipeline/document';
import { builtInTitles, isBuiltIn, placeOf } from '../../../../core/pipeline/layers';
import { sentence, type Problem } from '../../../../core/sheet/problem';
import { titleOf } from '../../../../core/steps/kinds';
import { worstReport } from '../../../../core/suggest/worst-report';
import type { PipelineFull, StoredReport } from '../../../../server/contract/contract';
import { Api } from '../api';
import { asked } from '../shared/asked';
import { AppliedAtOnce } from './applied-at-once';
import { ReportsRead, typingRests } from './reports-read';
import { RunFollowed } from './run-followed';
import { SavedDocument } from './saved-document';
import { standingOf, type Standing } from './standing';

/** What all places of one pipeline share: its document with undo, its reports as they are read, a run under way. */
@Injectable()
export class PipelineState {
  private readonly api = inject(Api);
  private readonly subscriptions = new Subscription();
  private readonly opening = signal<string | undefined>(undefined);

  readonly id = signal(0);
  readonly loading = signal(true);
  /** Counts up with every saved change, so that screens ask anew. */
  readonly version = signal(0);

  private readonly kept = new SavedDocument({ save: (document, version) => this.api.savePipeline(this.id(), document, version), current: () => this.api.pipeline(this.id()) });
  readonly pipeline = this.kept.saved;
  readonly document = this.kept.document;
  readonly refused = this.kept.refused.asReadonly();
  readonly saving = this.kept.saving.asReadonly();
  readonly unsaved = this.kept.unsaved;
  readonly conflict = this.kept.conflict.asReadonly();
  readonly canUndo = this.kept.canUndo;
  readonly canRedo = this.kept.canRedo;

  private readonly dismissed = computed(() => this.document()?.reports.pictures ?? [], { equal: (a, b) => JSON.stringify(a) === JSON.stringify(b) });
  private readonly read = new ReportsRead({ known: () => this.api.reports(this.id()), lookAtFolder: () => this.api.lookAtFolder(this.id()), intake: () => this.api.intake(this.id()) }, this.dismissed);
  readonly reports = this.read.reports;
  readonly summaries = this.read.summaries;
  readonly progress = this.read.progress;
  readonly reading = this.read.reading.asReadonly();
  readonly looked = this.read.looked.asReadonly();
  readonly counting = this.read.counting;
  readonly slots = this.read.slots;
  readonly readCount = this.read.readCount;
  readonly summaryOf = (report: number) => this.read.summaryOf(report);
  readonly foundIn = (report: number) => this.read.foundIn(report);
  readonly lookAtFolder = () => this.read.lookAtFolder();
  readonly cancelReading = () => this.read.stop();
  readonly failure = computed(() => this.opening() ?? this.read.failure());

  /** The refresh under way, or how the last one ended. */
  readonly running = new RunFollowed({ start: (letGo) => this.api.startRun(this.id(), letGo), follow: (run) => this.api.follow(run), cancel: (run) => this.api.cancelRun(run) }, () => this.runOver());

  /** What the last run that came to the reports said of each. */
  readonly lastRun = asked(
    () => this.pipeline()?.lastRuns.find((run) => run.told)?.id,
    (run) => this.api.run(run),
    { keeps: true },
  );
  /** Something was changed that does not count before the next refresh. */
  readonly changedSince = computed(() => (this.pipeline()?.since ?? 'nothing') !== 'nothing');
  private readonly applied = new AppliedAtOnce({ version: () => this.pipeline()?.version, saving: this.saving, running: () => this.running.now() !== undefined, edited: () => this.pipeline()?.since === 'edited', refresh: () => this.running.start() });
  private readonly lastLines = computed(() => new Map(this.lastRun.value()?.reports.map((line) => [line.report, line])));

  readonly stepCount = computed(() => {
    const document = this.document();
    return document ? document.eachTable.length + document.eachReport.length + document.allReports.length : 0;
  });
  /** The report on which the steps are designed: the one named by the document, or the first that can be read. */
  readonly guide = computed((): StoredReport | undefined => {
    const named = this.reports().find((report) => report.path === this.document()?.guide);
    return named ?? this.counting().find((report) => this.summaryOf(report.id)) ?? this.counting()[0];
  });

  /** The report that differs most after the steps so far, once they are read. */
  readonly worst = computed(() => {
    const read = this.counting().flatMap((report) => {
      const summary = this.summaryOf(report.id);
      return summary ? [{ report, summary }] : [];
    });
    if (this.reading() || read.length < 2 || this.stepCount() === 0) return undefined;
    const worst = worstReport(read.map(({ summary: { rows, held, misfits, columns, matches, layers } }) => ({ rows, held, misfits, columns, nothing: matches.length === 0, problems: layers.reduce((sum, { problems }) => sum + problems, 0) })));
    return worst && { report: read[worst.at].report, because: worst.because };
  });

  constructor() {
    this.subscriptions.add(
      this.kept.keepSaving((full, before) => {
        this.version.update((n) => n + 1);
        // Which files count may be told otherwise now.
        if (JSON.stringify(before.reports) === JSON.stringify(parsePipeline(full.document).reports)) this.read.read(typingRests);
        else this.read.lookAtFolder(typingRests);
      }),
    );
    this.subscriptions.add(this.read.keepReading());
  }

  open(id: number) {
    if (this.id() === id) return;
    this.id.set(id);
    this.loading.set(true);
    this.opening.set(undefined);
    this.api.pipeline(id).subscribe({
      next: (full) => {
        this.kept.set(full);
        this.loading.set(false);
        this.read.begin();
        if (full.running !== null) this.running.follow(full.running.run);
      },
      error: (error: Error) => {
        this.opening.set(error.message);
        this.loading.set(false);
      },
    });
  }

  /** Changes the document, see `SavedDocument.change`. */
  change(next: Pipeline, of = '') {
    this.kept.change(next, of);
  }
  /** Changes the document by an answer, which counts at once. @param more another question waits: the refresh comes with its answer */
  answer(next: Pipeline, { more = false }: { more?: boolean } = {}) {
    if (!more) this.applied.soon();
    this.change(next);
  }
  undo() {
    this.kept.undo();
  }
  redo() {
    this.kept.redo();
  }
  /** The reports are in another folder now. */
  moved(full: PipelineFull) {
    this.kept.update(full);
    this.lookAtFolder();
  }
  takeTheirs() {
    this.kept.takeTheirs();
    this.version.update((n) => n + 1);
    this.lookAtFolder();
  }
  keepMine() {
    this.kept.keepMine();
  }

  /** What steps look into is another: all that is shown is asked for anew. */
  listsChanged() {
    this.version.update((n) => n + 1);
    this.read.read();
  }

  private runOver() {
    this.lookAtFolder();
    this.api.pipeline(this.id()).subscribe((full) => {
      this.kept.update(full);
      this.version.update((n) => n + 1);
    });
  }

  /**
   * A problem in a sentence, with the names that its report and step have here.
   * @param how.ofOne it stands beside its report, which is not named again
   */
  sentenceOf({ report, ...problem }: Problem, { ofOne = false, step = (id: string) => this.stepTitle(id) }: { ofOne?: boolean; step?: (id: string) => string } = {}): string {
    return sentence({ ...problem, ...(ofOne || report === undefined ? {} : { report }) }, { report: (key) => this.reports().find(({ id }) => String(id) === key)?.path ?? key, step });
  }

  private stepTitle(id: string): string {
    const document = this.document();
    const place = document && placeOf(document, id);
    return place ? titleOf(document[place.zone][place.at]) : isBuiltIn(id) ? builtInTitles[id] : id;
  }

  standingOf(report: StoredReport): Standing {
    const known = { progress: this.progress().get(report.id), summary: this.summaries().get(report.id), reading: this.reading(), takes: this.document()!.take.length > 0 };
    const last = this.lastLines().get(report.id);
    const differs = last?.problems.some(({ kind }) => kind === 'differs') ?? false;
    return standingOf(report, { ...known, differs, last }, (problem) => this.sentenceOf(problem, { ofOne: true }));
  }

  /** How many rows it has: as the steps are now, or else as it had at the last refresh. */
  rowsOf(report: number): number | undefined {
    return this.summaryOf(report)?.rows ?? this.lastLines().get(report)?.rows;
  }

  /** How its printed totals stood at the last refresh; "" where none were compared. */
  tiesOf(report: number): 'tied out' | 'off' | '' {
    const ties = this.lastLines().get(report)?.ties;
    if (!ties) return '';
    return ties.off > 0 ? 'off' : ties.equal + ties.rounded > 0 ? 'tied out' : '';
  }

  close() {
    this.subscriptions.unsubscribe();
    this.running.close();
  }
}
