import { computed, signal, type Signal } from '@angular/core';
import { catchError, defer, EMPTY, finalize, Subject, switchMap, takeUntil, tap, timer, type Observable, type Subscription } from 'rxjs';
import { isDismissed, type DismissedPicture } from '../../../../core/intake/dismissed-pictures';
import { slotsOf } from '../../../../core/intake/periods';
import type { FoundFacts, IntakeEvent, OrUnreadable, ReportSummary, StoredReport } from '../../../../server/contract/contract';
import { withMore } from './found-so-far';

/** Where the reports come from; see `Api`. */
export interface ReportsSource {
  /** As the folder was when it was looked at last. */
  known(): Observable<readonly StoredReport[]>;
  lookAtFolder(): Observable<readonly StoredReport[]>;
  intake(): Observable<IntakeEvent>;
}

/** Milliseconds that typing rests before all reports are read for what was typed: the sheet in sight comes first. */
export const typingRests = 400;

/** The reports of the folder, and what was found in them, also while they are being read. */
export class ReportsRead {
  private readonly reportsNow = signal<readonly StoredReport[]>([]);
  private readonly summariesNow = signal<ReadonlyMap<number, OrUnreadable<ReportSummary>>>(new Map());
  private readonly progressNow = signal<ReadonlyMap<number, { page: number; pages: number }>>(new Map());
  private readonly foundNow = signal<ReadonlyMap<number, FoundFacts>>(new Map());
  /** In how many milliseconds to read. */
  private readonly wanted = new Subject<number>();
  private readonly stopped = new Subject<void>();

  readonly reports = this.reportsNow.asReadonly();
  readonly summaries = this.summariesNow.asReadonly();
  /** The page at which each report is that is being read. */
  readonly progress = this.progressNow.asReadonly();
  readonly reading = signal(false);
  /** The folder was looked at, whatever is in it. */
  readonly looked = signal(false);
  /** Why the folder could not be looked at, or its reports not be read. */
  readonly failure = signal<string | undefined>(undefined);
  readonly counting = computed(() => this.reports().filter((report) => report.standing === 'counts'));
  readonly slots = computed(() => slotsOf(this.reports().filter((report) => ['counts', 'replaced', 'undecided'].includes(report.standing))));
  readonly readCount = computed(() => this.counting().filter((report) => this.summaryOf(report.id)).length);

  /** @param dismissed the pictures told to hold no table; equal lists are one object */
  constructor(
    private readonly source: ReportsSource,
    private readonly dismissed: Signal<readonly DismissedPicture[]>,
  ) {}

  /** Reads whenever it is wanted from now on, the last wish alone. */
  keepReading(): Subscription {
    return this.wanted.pipe(switchMap((after) => this.intake(after))).subscribe();
  }

  /** Reads what is there, what was read before from the cache. @param after milliseconds in which nothing else is wanted */
  read(after = 0) {
    this.wanted.next(after);
  }

  /** Stops reading; what has been read stays. */
  stop() {
    this.stopped.next();
  }

  /** What is known is shown at once, while the folder is looked at. */
  begin() {
    this.source.known().subscribe({
      next: (reports) => {
        if (!this.looked()) this.show(reports);
      },
      // To look at the folder says so as well.
      error: () => undefined,
    });
    this.lookAtFolder();
  }

  private show(reports: readonly StoredReport[]) {
    this.reportsNow.set(reports.filter((report) => report.standing !== 'gone'));
  }

  /** Looks at the folder anew and reads what is there; see `read`. */
  lookAtFolder(after = 0) {
    this.source.lookAtFolder().subscribe({
      next: (reports) => {
        this.failure.set(undefined);
        this.looked.set(true);
        this.show(reports);
        this.read(after);
      },
      error: (error: Error) => this.failure.set(error.message),
    });
  }

  private intake(after: number): Observable<unknown> {
    return defer(() => {
      // Also while it is waited for: what is known is that of before.
      this.reading.set(true);
      return (after > 0 ? timer(after).pipe(switchMap(() => this.source.intake())) : this.source.intake()).pipe(
        takeUntil(this.stopped),
        tap((event) => this.take(event)),
      );
    }).pipe(
      catchError((error: Error) => (this.failure.set(error.message), EMPTY)),
      finalize(() => {
        this.reading.set(false);
        this.progressNow.set(new Map());
      }),
    );
  }

  private take(event: IntakeEvent) {
    if (event.kind === 'reading') {
      this.progressNow.update((map) => new Map(map).set(event.report, event));
      this.foundNow.update((map) => new Map(map).set(event.report, withMore(event.page <= 1 ? undefined : map.get(event.report), event.found)));
    }
    if (event.kind === 'report') {
      this.summariesNow.update((map) => new Map(map).set(event.report, event.summary));
      this.progressNow.update((map) => (map.has(event.report) ? new Map([...map].filter(([report]) => report !== event.report)) : map));
    }
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
}
