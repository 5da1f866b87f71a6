import { computed, inject, Injectable, signal } from '@angular/core';
import { catchError, defer, EMPTY, finalize, Subject, Subscription, switchMap, takeUntil, tap, throttleTime, asyncScheduler, type Observable } from 'rxjs';
import { isDismissed, type DismissedPicture } from '../../../../core/intake/dismissed-pictures';
import { parsePipeline, type Pipeline } from '../../../../core/pipeline/document';
import { builtInTitles, isBuiltIn, placeOf } from '../../../../core/pipeline/layers';
import { noteSentence } from '../../../../core/runs/run';
import { sentence, type Problem } from '../../../../core/sheet/problem';
import { titleOf } from '../../../../core/steps/kinds';
import { slotsOf } from '../../../../core/intake/periods';
import type { FoundFacts, OrUnreadable, PipelineFull, ReportSummary, RunProgress, StoredReport } from '../../../../server/contract/contract';
import { Api } from '../api';
import { withMore } from './found-so-far';
import { SavedDocument } from './saved-document';

/** How one report stands, in a word and a tone. */
export interface Standing {
  readonly word: string;
  readonly tone: 'passes' | 'needs' | 'error' | 'plain';
  readonly detail: string;
}

/** What all places of one pipeline share: its document with undo, its reports as they are read, a run under way. */
@Injectable()
export class PipelineState {
  private readonly api = inject(Api);
  private readonly subscriptions = new Subscription();

  private readonly kept = new SavedDocument({ save: (document, version) => this.api.savePipeline(this.id(), document, version), current: () => this.api.pipeline(this.id()) });
  private readonly reportsNow = signal<readonly StoredReport[]>([]);
  private readonly summariesNow = signal<ReadonlyMap<number, OrUnreadable<ReportSummary>>>(new Map());
  private readonly readingNow = signal<ReadonlyMap<number, { page: number; pages: number }>>(new Map());
  private readonly foundNow = signal<ReadonlyMap<number, FoundFacts>>(new Map());

  readonly id = signal(0);
  readonly loading = signal(true);
  readonly failure = signal<string | undefined>(undefined);
  readonly refused = this.kept.refused.asReadonly();
  readonly saving = this.kept.saving.asReadonly();
  readonly conflict = this.kept.conflict.asReadonly();
  readonly reading = signal(false);
  readonly run = signal<RunProgress | undefined>(undefined);
  readonly runStarted = signal<number>(0);
  readonly runEnded = signal<{ state: string; message: string; canLetGo?: boolean } | undefined>(undefined);
  /** Counts up with every saved change, so that screens ask anew. */
  readonly version = signal(0);

  readonly pipeline = this.kept.saved;
  readonly document = this.kept.document;
  readonly reports = this.reportsNow.asReadonly();
  readonly summaries = this.summariesNow.asReadonly();
  readonly progress = this.readingNow.asReadonly();
  readonly canUndo = this.kept.canUndo;
  readonly canRedo = this.kept.canRedo;
  readonly counting = computed(() => this.reports().filter((report) => report.standing === 'counts'));
  readonly slots = computed(() => slotsOf(this.reports().filter((report) => ['counts', 'replaced', 'undecided'].includes(report.standing))));
  readonly readCount = computed(() => this.counting().filter((report) => this.summaryOf(report.id)).length);
  readonly stepCount = computed(() => {
    const document = this.document();
    return document ? document.eachTable.length + document.eachReport.length + document.allReports.length : 0;
  });
  /** The report on which the steps are designed: the one named by the document, or the first that can be read. */
  readonly guide = computed((): StoredReport | undefined => {
    const named = this.reports().find((report) => report.path === this.document()?.guide);
    return named ?? this.counting().find((report) => this.summaryOf(report.id)) ?? this.counting()[0];
  });

  private readonly intakes = new Subject<void>();

  constructor() {
    this.subscriptions.add(
      this.kept.keepSaving((full, before) => {
        this.version.update((n) => n + 1);
        // Which files count may be told otherwise now.
        if (JSON.stringify(before.reports) === JSON.stringify(parsePipeline(full.document).reports)) this.intakes.next();
        else this.lookAtFolder();
      }),
    );
    this.subscriptions.add(this.intakes.pipe(throttleTime(400, asyncScheduler, { leading: true, trailing: true }), switchMap(() => this.intake())).subscribe());
  }

  summaryOf(report: number): ReportSummary | undefined {
    const summary = this.summariesNow().get(report);
    return summary && !('unreadable' in summary) ? this.withoutDismissed(summary, report) : undefined;
  }

  /** What was found in a report: all of it, or what is known while it is still being read. */
  foundIn(report: number): FoundFacts | undefined {
    const found = this.foundNow().get(report);
    return this.summaryOf(report) ?? (found && this.withoutDismissed(found, report));
  }

  private readonly dismissed = computed(() => this.document()?.reports.pictures ?? [], { equal: (a, b) => JSON.stringify(a) === JSON.stringify(b) });
  private readonly known = new WeakMap<FoundFacts, { readonly dismissed: readonly DismissedPicture[]; readonly facts: FoundFacts }>();
  /** What was found without the pictures that were dismissed: the same object as long as nothing changes. */
  private withoutDismissed<Facts extends FoundFacts>(found: Facts, id: number): Facts {
    const dismissed = this.dismissed();
    const report = this.reports().find((each) => each.id === id)?.path;
    if (dismissed.length === 0 || report === undefined || found.pages.every(({ unread }) => unread.length === 0)) return found;
    const known = this.known.get(found);
    if (known?.dismissed === dismissed) return known.facts as Facts;
    const facts = { ...found, pages: found.pages.map((page) => ({ ...page, unread: page.unread.filter((box) => !isDismissed(dismissed, { box, report, page: page.number })) })) };
    this.known.set(found, { dismissed, facts });
    return facts;
  }

  open(id: number) {
    if (this.id() === id) return;
    this.id.set(id);
    this.loading.set(true);
    this.failure.set(undefined);
    this.api.pipeline(id).subscribe({
      next: (full) => {
        this.kept.set(full);
        this.loading.set(false);
        this.lookAtFolder();
        if (full.running !== null) this.followRun(full.running);
      },
      error: (error: Error) => {
        this.failure.set(error.message);
        this.loading.set(false);
      },
    });
  }

  /** Looks at the folder anew and reads what is there. */
  lookAtFolder() {
    this.api.lookAtFolder(this.id()).subscribe({
      next: (reports) => {
        this.failure.set(undefined);
        this.reportsNow.set(reports.filter((report) => report.standing !== 'gone'));
        this.intakes.next();
      },
      error: (error: Error) => this.failure.set(error.message),
    });
  }

  private readonly stopReading = new Subject<void>();

  private intake(): Observable<unknown> {
    return defer(() => {
      this.reading.set(true);
      return this.api.intake(this.id()).pipe(
        takeUntil(this.stopReading),
        tap((event) => {
          if (event.kind === 'reading') {
            this.readingNow.update((map) => new Map(map).set(event.report, event));
            this.foundNow.update((map) => new Map(map).set(event.report, withMore(event.page <= 1 ? undefined : map.get(event.report), event.found)));
          }
          if (event.kind === 'report') {
            this.summariesNow.update((map) => new Map(map).set(event.report, event.summary));
            this.readingNow.update((map) => (map.has(event.report) ? new Map([...map].filter(([report]) => report !== event.report)) : map));
          }
        }),
      );
    }).pipe(
      catchError((error: Error) => (this.failure.set(error.message), EMPTY)),
      finalize(() => {
        this.reading.set(false);
        this.readingNow.set(new Map());
      }),
    );
  }

  /** Stops reading; what has been read stays. */
  cancelReading() {
    this.stopReading.next();
  }

  /** Changes the document, see `SavedDocument.change`. */
  change(next: Pipeline, of = '') {
    this.kept.change(next, of);
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

  /** @param letGo reports that are gone from the folder may leave the dataset, however many */
  refresh(letGo = false) {
    this.runEnded.set(undefined);
    this.api.startRun(this.id(), letGo).subscribe({
      next: ({ run }) => this.followRun(run),
      error: (error: Error) => this.runEnded.set({ state: 'failed', message: error.message }),
    });
  }

  private followRun(run: number) {
    this.runStarted.set(performance.now());
    this.run.set({ run, done: 0, total: 0, now: { kind: 'folder' } });
    this.subscriptions.add(
      this.api.follow(run).subscribe({
        next: (event) => {
          if (event.kind === 'progress') this.run.set(event);
          else this.ended(event.state, event.notes.map(noteSentence).join(' '), event.notes.some(({ kind }) => kind === 'many gone'));
        },
        error: (error: Error) => this.ended('failed', error.message),
      }),
    );
  }

  private ended(state: string, message: string, canLetGo = false) {
    this.run.set(undefined);
    this.runEnded.set({ state, message, canLetGo });
    this.lookAtFolder();
    this.api.pipeline(this.id()).subscribe((full) => {
      this.kept.update(full);
      this.version.update((n) => n + 1);
    });
  }

  cancelRun() {
    const run = this.run();
    if (run) this.api.cancelRun(run.run).subscribe({ error: () => undefined });
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

  /** How a report stands, from the folder, the reading and the steps so far. */
  standingOf(report: StoredReport): Standing {
    if (report.standing === 'replaced') return { word: 'replaced', tone: 'plain', detail: `replaced by ${report.standingOf}` };
    if (report.standing === 'undecided') return { word: 'two issues', tone: 'needs', detail: `${report.standingOf} is for the same period, and the names do not tell which is the later` };
    if (report.standing === 'set aside') return { word: 'set aside', tone: 'plain', detail: 'by hand' };
    if (report.standing === 'not readable') return { word: 'not readable', tone: 'error', detail: 'this program may not open it' };
    if (report.standing === 'left out') return { word: 'left out', tone: 'needs', detail: report.standingOf ?? '' };
    if (report.standing === 'a copy') return { word: 'a copy', tone: 'plain', detail: `same content as ${report.standingOf}` };
    if (report.standing === 'not a PDF') return { word: 'not a PDF', tone: 'plain', detail: 'left alone' };
    const progress = this.readingNow().get(report.id);
    if (progress) return { word: 'reading', tone: 'plain', detail: `page ${progress.page} of ${progress.pages}` };
    const summary = this.summariesNow().get(report.id);
    if (!summary) return { word: this.reading() ? 'waiting' : 'not read', tone: 'plain', detail: '' };
    if ('unreadable' in summary) {
      return { word: summary.unreadable.kind, tone: 'error', detail: this.sentenceOf(summary.unreadable, { ofOne: true }) };
    }
    const tables = `${summary.pageCount} ${summary.pageCount === 1 ? 'page' : 'pages'}, ${summary.tables.length} ${summary.tables.length === 1 ? 'table' : 'tables'} found`;
    if (summary.scanned) return { word: 'scanned', tone: 'needs', detail: 'no text on its pages' };
    if (summary.heldBack.length > 0 && this.document()!.take.length > 0) return { word: 'held back', tone: 'needs', detail: summary.heldBack.map((problem) => this.sentenceOf(problem, { ofOne: true })).join(' ') };
    if (summary.misfits > 0) return { word: `${summary.misfits} ${summary.misfits === 1 ? 'misfit' : 'misfits'}`, tone: 'needs', detail: tables };
    return { word: 'read', tone: 'passes', detail: tables };
  }

  close() {
    this.subscriptions.unsubscribe();
  }
}
