import { HttpClient, HttpErrorResponse, HttpParams } from '@angular/common/http';
import { inject, Injectable } from '@angular/core';
import { catchError, Observable, retry, throwError, timer } from 'rxjs';
import type { Evidence } from '../../../core/evidence/evidence';
import type { ProposedCheck } from '../../../core/checks/propose';
import type { SummaryAsked, SummaryGroup } from '../../../core/dataset/summary';
import type { LocaleName } from '../../../core/values/locale';
import type {
  ApiError,
  CellFound,
  CellRange,
  ChangedCell,
  ColumnCard,
  DatasetAnswer,
  DatasetTrace,
  DownloadAnswer,
  FolderAnswer,
  ErrorsAnswer,
  FaultKind,
  FindEvent,
  IntakeEvent,
  ListAnswer,
  LayersAnswer,
  Measured,
  WorkOutAnswer,
  PageAnswer,
  PipelineFull,
  PipelineSummary,
  PublishedAnswer,
  ReconciledAnswer,
  RunEvent,
  RunFull,
  SelectedAnswer,
  ShapeMarks,
  SheetWindow,
  StoredReport,
  StoredRun,
  TotalTraced,
  Traced,
  ValueCounts,
  ValuesSubject,
  VersionAnswer,
  WordFate,
  SqlAddress,
  Offer,
  OffersOf,
  ProposedSteps,
} from '../../../server/contract/contract';

/** Only these pages of a report, as `3-8`. */
interface Pages {
  readonly pages?: string | undefined;
}
type SheetPart = 'sheet' | 'held' | 'left out' | 'overwritten';
/** Conditions and order of rows, as addresses have them. */
export interface SelectionAsked {
  readonly where: readonly string[];
  readonly order: string;
}
type Query = Record<string, string | number | readonly string[] | undefined>;

/** The server, call by call. Every failure comes as an `ApiFailure` whose message is the server's own sentence. */
@Injectable({ providedIn: 'root' })
export class Api {
  private readonly http = inject(HttpClient);

  pipelines = () => this.get<PipelineSummary[]>('/api/pipelines');
  pipeline = (id: number) => this.get<PipelineFull>(`/api/pipelines/${id}`);
  openDemo = () => this.told(this.http.post<PipelineFull>('/api/pipelines/demo', {}));
  addPipeline = (document: unknown, folder?: string) => this.told(this.http.post<PipelineFull>('/api/pipelines', { document, folder }));
  /** @param version the one that is changed; another saved since is a failure of kind `changed meanwhile` */
  savePipeline = (id: number, document: unknown, version: number) => this.told(this.http.put<PipelineFull>(`/api/pipelines/${id}`, { document }, { headers: { 'If-Match': `"${version}"` } }));
  moveToFolder = (id: number, folder: string) => this.told(this.http.put<PipelineFull>(`/api/pipelines/${id}/folder`, { folder }));
  versions = (id: number, below?: number) => this.get<VersionAnswer[]>(`/api/pipelines/${id}/versions`, { below });
  versionDocument = (id: number, version: number) => this.get<{ document: unknown }>(`/api/pipelines/${id}/versions/${version}`);
  deletePipeline = (id: number) => this.told(this.http.delete<void>(`/api/pipelines/${id}`));
  /** @param there what is to be done where there is a file of that name with other content; left out, that is a failure of kind `there already` */
  dropFile = (id: number, file: File, there: 'ask' | 'replace' | 'keep both' = 'ask') => this.told(this.http.post(`/api/pipelines/${id}/files`, file, { params: { name: file.name, there }, headers: { 'Content-Type': 'application/pdf' } }));
  folders = (path?: string) => this.get<FolderAnswer>('/api/folders', { path });

  /** The reports as they were when the folder was looked at last. */
  reports = (pipeline: number) => this.get<readonly StoredReport[]>(`/api/pipelines/${pipeline}/reports`);
  /** Looks at the folder anew: which files are there, and what becomes of each. */
  lookAtFolder = (pipeline: number) => this.told(this.http.post<readonly StoredReport[]>(`/api/pipelines/${pipeline}/reports`, {}));
  page = (pipeline: number, report: number, page: number) => this.get<PageAnswer>(`/api/pipelines/${pipeline}/reports/${report}/pages/${page}`);
  sheet = (pipeline: number, report: number, query: Pages & { step?: string; of?: 'sheet' | 'held' | 'left out' | 'overwritten'; start: number; count: number; beside?: string }) =>
    this.get<SheetWindow>(`/api/pipelines/${pipeline}/reports/${report}/sheet`, query);
  layers = (pipeline: number, report: number, query: Pages) => this.get<LayersAnswer>(`/api/pipelines/${pipeline}/reports/${report}/layers`, query);
  errors = (pipeline: number, report: number, query: Pages & { step: string }) => this.get<ErrorsAnswer>(`/api/pipelines/${pipeline}/reports/${report}/errors`, query);
  /** The different values above a step. */
  values = (pipeline: number, report: number, wish: Pages & { step: string; of: ValuesSubject }) => this.told(this.http.post<ValueCounts>(`/api/pipelines/${pipeline}/reports/${report}/values`, wish));
  workOut = (pipeline: number, wish: { step: string; locale: LocaleName; reports?: number[] }) => this.told(this.http.post<WorkOutAnswer>(`/api/pipelines/${pipeline}/reports/work-out`, wish));
  /** Steps that fit what is selected in a sheet, or what a certain step would do to it. */
  offers = (pipeline: number, report: number, wish: Pages & { step: string; of: OffersOf }) => this.told(this.http.post<{ offers: readonly Offer[] }>(`/api/pipelines/${pipeline}/reports/${report}/offers`, wish));
  /** Steps proposed from what all reports print. */
  proposals = (pipeline: number) => this.get<ProposedSteps>(`/api/pipelines/${pipeline}/reports/proposals`);
  /** What chosen cells of a sheet hold together. */
  measure = (pipeline: number, report: number, wish: Pages & { step?: string; of?: SheetPart; ranges: readonly CellRange[] }) => this.told(this.http.post<Measured>(`/api/pipelines/${pipeline}/reports/${report}/measure`, wish));
  findCell = (pipeline: number, report: number, wish: Pages & { step?: string; of?: SheetPart; text: string; row: number; column: number; back: boolean }) => this.told(this.http.post<CellFound>(`/api/pipelines/${pipeline}/reports/${report}/find-cell`, wish));
  trace = (pipeline: number, report: number, query: Pages & { table: string; ordinal: number; row: number; column: string; step?: string; of?: 'sheet' | 'held' | 'left out' }) =>
    this.get<Traced>(`/api/pipelines/${pipeline}/reports/${report}/trace`, query);
  word = (pipeline: number, report: number, query: Pages & { page: number; word: number; step?: string }) =>
    this.get<WordFate>(`/api/pipelines/${pipeline}/reports/${report}/word`, query);
  /** Where a step split tables on a page, and which of its lines it made records of. */
  marks = (pipeline: number, report: number, query: Pages & { page: number; step: string }) => this.get<ShapeMarks>(`/api/pipelines/${pipeline}/reports/${report}/marks`, query);
  /** Checks that hold in all reports so far. */
  proposedChecks = (pipeline: number) => this.get<ProposedCheck[]>(`/api/pipelines/${pipeline}/reports/checks`);
  /** The document as a file. */
  documentAddress = (pipeline: number) => `/api/pipelines/${pipeline}/document`;
  fileAddress = (pipeline: number, report: number) => `/api/pipelines/${pipeline}/reports/${report}/file`;

  /** The tables that steps can look values up in. */
  lists = () => this.get<ListAnswer[]>('/api/lists');
  /** Keeps a CSV file as a list, in the place of one of the same name. */
  uploadList = (file: File) => this.told(this.http.put<ListAnswer>(`/api/lists/${encodeURIComponent(file.name)}`, file, { headers: { 'Content-Type': 'text/csv' } }));

  startRun = (pipeline: number, letGo = false) => this.told(this.http.post<{ run: number }>(`/api/pipelines/${pipeline}/runs`, { letGo }));
  cancelRun = (run: number) => this.told(this.http.post(`/api/runs/${run}/cancel`, {}));
  runs = (pipeline: number) => this.get<StoredRun[]>(`/api/pipelines/${pipeline}/runs`);
  run = (run: number) => this.get<RunFull>(`/api/runs/${run}`);
  /** What a run published otherwise because the program is another. */
  changedCells = (run: number, start: number, count: number) => this.get<{ count: number; cells: ChangedCell[] }>(`/api/runs/${run}/changed`, { start, count });

  dataset = (pipeline: number, start: number, count: number) => this.get<DatasetAnswer>(`/api/pipelines/${pipeline}/dataset`, { start, count });
  /** Some rows of the dataset, by conditions and order as addresses have them. */
  selectedRows = (pipeline: number, asked: SelectionAsked, start: number, count: number) => this.get<SelectedAnswer>(`/api/pipelines/${pipeline}/dataset/selected`, { where: asked.where, order: asked.order, start, count });
  /** What a column of the dataset holds, at a glance. */
  /** @param values how many of its values are told at most, those that come most often */
  columnCard = (pipeline: number, column: string, values?: number) => this.get<ColumnCard>(`/api/pipelines/${pipeline}/dataset/column`, { column, values });
  /** The dataset summed up by some of its columns. */
  summary = (pipeline: number, asked: SummaryAsked) => this.told(this.http.post<SummaryGroup[]>(`/api/pipelines/${pipeline}/dataset/summary`, asked));
  publishedMeasure = (pipeline: number, ranges: readonly CellRange[], asked?: SelectionAsked) => this.told(this.http.post<Measured>(`/api/pipelines/${pipeline}/dataset/measure`, { ranges, ...asked }));
  publishedFind = (pipeline: number, wish: { text: string; row: number; column: number; back: boolean } & Partial<SelectionAsked>) => this.told(this.http.post<CellFound>(`/api/pipelines/${pipeline}/dataset/find-cell`, wish));
  datasetTrace = (pipeline: number, row: number, column: string) => this.get<DatasetTrace>(`/api/pipelines/${pipeline}/dataset/trace`, { row, column });
  /** A sheet of a report as it was published, whatever the document says today. */
  publishedSheet = (pipeline: number, report: number, query: { step?: string; of?: 'sheet' | 'held'; start: number; count: number }) => this.get<SheetWindow>(`/api/pipelines/${pipeline}/dataset/reports/${report}/sheet`, query);
  /** A printed total and the rows that it covers, as published. */
  publishedTotal = (pipeline: number, report: number, query: { step: string; table: string; ordinal: number; column: string }) => this.get<TotalTraced>(`/api/pipelines/${pipeline}/dataset/reports/${report}/total`, query);
  /** Where a published cell, or a printed total, comes from: for a slip. */
  evidence = (pipeline: number, row: number, column: string) => this.get<Evidence>(`/api/pipelines/${pipeline}/dataset/evidence`, { row, column });
  totalEvidence = (pipeline: number, report: number, query: { step: string; table: string; ordinal: number; column: string }) => this.get<Evidence>(`/api/pipelines/${pipeline}/dataset/evidence/total`, { report, ...query });
  /** The published dataset beside the list that a check compares it with. */
  reconciled = (pipeline: number, check: string) => this.get<ReconciledAnswer>(`/api/pipelines/${pipeline}/dataset/reconciled`, { check });
  datasetMadeOf = (pipeline: number) => this.get<PublishedAnswer>(`/api/pipelines/${pipeline}/dataset/made-of`);
  datasetFileAddress = (pipeline: number, extension: string) => `/api/pipelines/${pipeline}/dataset.${extension}`;
  /** The dataset, or the rows that an address asks for, with tabs between the values, as spreadsheets take it. */
  /** How far a file is that was asked for with a ticket. */
  download = (ticket: string) => this.get<DownloadAnswer>(`/api/downloads/${ticket}`);
  cancelDownload = (ticket: string) => this.told(this.http.delete(`/api/downloads/${ticket}`));
  datasetText = (pipeline: number, asked: string) => this.told(this.http.get(`${this.datasetFileAddress(pipeline, 'tsv')}?guard=no${asked === '' ? '' : `&${asked}`}`, { responseType: 'text' }));
  summaryWorkbook = (pipeline: number, wish: SummaryAsked & { show: string }) => this.told(this.http.post(`/api/pipelines/${pipeline}/dataset/summary.xlsx`, wish, { responseType: 'blob' }));
  /** Who may read the published datasets with a token. */
  readers = () => this.get<{ name: string; since: string }[]>('/api/readers');
  sqlAddress = () => this.get<SqlAddress | null>('/api/sql');
  giveToken = (name: string) => this.told(this.http.put<{ name: string; token: string }>(`/api/readers/${encodeURIComponent(name)}`, null));
  takeToken = (name: string) => this.told(this.http.delete(`/api/readers/${encodeURIComponent(name)}`));

  /** Reports as they are read and carried; unsubscribing cancels what is left. */
  intake = (pipeline: number) => events<IntakeEvent>(`/api/pipelines/${pipeline}/reports/events`, 'done');
  /** Every place in all reports where a text stands, report by report. */
  find = (pipeline: number, text: string) => events<FindEvent>(`/api/pipelines/${pipeline}/reports/find?text=${encodeURIComponent(text)}`, 'done');
  /** A run under way, until it has ended. The run goes on where the connection is lost: it is asked for again. */
  follow = (run: number): Observable<RunEvent> => events<RunEvent>(`/api/runs/${run}/events`, 'ended').pipe(retry({ count: 30, delay: (_, tried) => timer(Math.min(5000, 300 * tried)), resetOnSuccess: true }));

  private get<T>(path: string, query: Query | Pages = {}): Observable<T> {
    const given = Object.entries(query as Query).filter((entry): entry is [string, string | number | readonly string[]] => entry[1] !== undefined);
    return this.told(this.http.get<T>(path, { params: new HttpParams({ fromObject: Object.fromEntries(given) }) }));
  }

  private told<T>(call: Observable<T>): Observable<T> {
    return call.pipe(catchError((error: HttpErrorResponse) => throwError(() => new ApiFailure(kindOf(error), sentenceOf(error)))));
  }
}

/** A call that failed: its kind, and the server's own sentence. */
export class ApiFailure extends Error {
  constructor(
    readonly kind: FaultKind,
    message: string,
  ) {
    super(message);
  }
}

/** A server that does not answer at all is away, as one is that says so. */
const kindOf = ({ error, status }: HttpErrorResponse): FaultKind =>
  (error as ApiError | null)?.error?.kind ?? (status === 0 ? 'away' : 'fault');

const sentenceOf = ({ error, status }: HttpErrorResponse): string =>
  (error as ApiError | null)?.error?.message ?? (status === 0 ? 'The server does not answer. Is Able Sieve still running?' : `The server answered ${status} without saying why.`);

/** Server-sent events as an observable; the connection is closed when it is unsubscribed or the event that is the last has come. */
const events = <Event extends { readonly kind: string }>(address: string, last: Event['kind']): Observable<Event> =>
  new Observable((subscriber) => {
    const source = new EventSource(address);
    source.onmessage = (message: MessageEvent<string>) => {
      const event = JSON.parse(message.data) as Event;
      subscriber.next(event);
      if (event.kind !== last) return;
      source.close();
      subscriber.complete();
    };
    source.onerror = () => {
      source.close();
      subscriber.error(new Error('The connection to the server was lost. Is Able Sieve still running?'));
    };
    return () => source.close();
  });
