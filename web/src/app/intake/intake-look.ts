import { computed, inject, signal, Injectable } from '@angular/core';
import { likeliestTable } from '../../../../core/suggest/likeliest-table';
import { wordsOf } from '../../../../core/intake/outlines';
import { type TakeRule } from '../../../../core/intake/take-rule';
import type { Box } from '../../../../core/page/box';
import type { Piece } from '../../../../core/reading/found-table';
import { wordsAcross } from '../../../../core/reading/readings/drawn';
import type { PageAnswer, StoredReport, TakeMatch } from '../../../../server/contract/contract';
import { Api } from '../api';
import { PipelineState } from '../pipeline/pipeline-state';
import { asked } from '../shared/asked';
import { type PaperFrame, type PaperTable } from '../shared/paper';
import type { PaperRulers } from '../shared/paper-ruler';
import { plural } from '../shared/words';
import { type Hits } from './find-box';
import { pieceTaken, tablesOn, undrawn } from './on-paper';
import { tableName } from './take-rules';

/** What the right pane shows: the rules, or one thing being done by hand. */
export type Mode = { readonly kind: 'cards' | 'area' | 'labels' } | { readonly kind: 'separators' | 'readings'; readonly rule: string };

/** Reports after which it is said which table is likely to be wanted, while others are still read. */
const enough = 12;
/** More reports say nothing new of that. */
const mostLookedAt = 60;

/** What is looked at on Intake, a page of a report, and what is taken from it. */
@Injectable()
export class IntakeLook {
  private readonly state = inject(PipelineState);
  private readonly api = inject(Api);
  /** What the address says. */
  readonly address = signal<{ readonly report?: number | undefined; readonly page?: number | undefined; readonly find?: string | undefined }>({});

  readonly rules = computed(() => this.state.document()?.take ?? []);
  readonly ruleNames = computed(() => this.rules().map((rule) => rule.name));
  readonly shown = computed((): StoredReport | undefined => this.state.reports().find((report) => report.id === this.address().report) ?? this.state.guide());
  /** The table that is most likely wanted, as long as nothing is taken: on the report shown, where that has it. */
  readonly likeliest = computed(() => {
    if (this.rules().length > 0) return undefined;
    const reports = this.state.counting().slice(0, mostLookedAt).flatMap((report) => {
      const found = this.state.foundIn(report.id);
      return found ? [{ report, tables: found.tables }] : [];
    });
    // A proposal that changes under the hand is none: it waits for a few reports.
    if (reports.length < (this.state.reading() ? enough : 1)) return undefined;
    const likeliest = likeliestTable(reports.map(({ tables }) => tables), Math.max(0, reports.findIndex(({ report }) => report.id === this.shown()?.id)));
    return likeliest && { ...likeliest, report: reports[likeliest.report].report, page: likeliest.table.pieces[0].page };
  });
  readonly summary = computed(() => (this.shown() ? this.state.summaryOf(this.shown()!.id) : undefined));
  /** While the report is still being read: what was found so far. */
  readonly found = computed(() => (this.shown() ? this.state.foundIn(this.shown()!.id) : undefined));
  readonly takenTables = computed(() => new Set(this.summary()?.matches.flatMap((match) => match.found) ?? []));
  readonly file = computed(() => this.api.fileAddress(this.state.id(), this.shown()!.id));
  /** The page asked for, or the first from which something is taken, or with any table. */
  readonly pageShown = computed(() => this.address().page ?? this.summary()?.matches[0]?.pages[0] ?? (this.likeliest()?.report.id === this.shown()?.id ? this.likeliest()?.page : undefined) ?? this.found()?.tables[0]?.pieces[0].page ?? 1);
  readonly tables = computed((): PaperTable[] => [
    ...(this.found()?.tables ?? []).flatMap((table) =>
      table.pieces.filter((piece) => piece.page === this.pageShown()).map((piece) => ({ id: piece.id, title: tableName(table), box: piece.box, taken: this.takenTables().has(table.id) })),
    ),
    // What is taken without having been found.
    ...(this.summary()?.matches ?? [])
      .filter((match) => match.found.length === 0)
      .flatMap((match) => match.pieces.filter((piece) => piece.page === this.pageShown()).map((piece, n) => ({ id: `${match.rule} ${n}`, title: match.rule, box: piece.box, taken: true }))),
  ]);
  readonly needing = computed(() =>
    this.state
      .reports()
      .filter(({ standing }) => standing === 'counts' || standing === 'undecided')
      .map((report) => ({ report, standing: this.state.standingOf(report) }))
      .filter(({ standing }) => standing.tone === 'needs' || standing.tone === 'error'),
  );
  readonly dismissed = computed(() => this.state.document()?.reports.pictures?.length ?? 0);
  readonly unread = computed(() => (this.found()?.pages ?? []).filter((page) => page.unread.length > 0).map((page) => page.number));

  /** What the right pane shows: the rules, or one thing being done by hand. */
  readonly mode = signal<{ readonly kind: 'cards' | 'area' | 'labels' } | { readonly kind: 'separators' | 'readings'; readonly rule: string }>({ kind: 'cards' });
  readonly modeRule = computed(() => {
    const mode = this.mode();
    return 'rule' in mode ? this.rules().find((rule) => rule.name === mode.rule) : undefined;
  });
  readonly told = signal<string | undefined>(undefined);

  /** The page as read, with all readings of the tables on it. */
  readonly pageAsked = asked(
    () => (this.shown() && this.found() ? { pipeline: this.state.id(), report: this.shown()!.id, page: this.pageShown() } : undefined),
    ({ pipeline, report, page }) => this.api.page(pipeline, report, page),
  );
  readonly answer = this.pageAsked.value;
  readonly words = computed(() => this.answer()?.page?.words ?? []);
  /** What each rule takes on this page, with its readings. */
  readonly takenPieces = computed(() => {
    const answer = this.answer();
    return new Map(answer ? this.rules().flatMap((rule) => this.pieceOf(rule, answer)) : []);
  });
  private pieceOf(rule: TakeRule, answer: PageAnswer): [string, Piece][] {
    const match = this.matchOf(rule.name);
    if (!match || !match.pages.includes(this.pageShown())) return [];
    const piece = pieceTaken(rule, this.shown()!.path, answer, match.found);
    return piece ? [[rule.name, piece]] : [];
  }
  /** The piece as found, before one of its readings is chosen. */
  readonly comparedPiece = computed((): Piece | undefined => {
    const rule = this.modeRule();
    const answer = this.answer();
    const match = rule && this.matchOf(rule.name);
    const found = match && answer ? tablesOn(answer).find((table) => match.found.includes(table.id))?.pieces[0] : undefined;
    const drawn = rule?.drawing && answer ? pieceTaken({ ...rule, reading: 'drawn', readingIn: [] }, this.shown()!.path, answer, match?.found)?.readings[0] : undefined;
    return found && drawn ? { ...found, readings: [drawn, ...found.readings] } : found;
  });

  /** The rule with its drawing as the tabs have it now. */
  readonly draft = signal<TakeRule | undefined>(undefined);
  private readonly basePiece = computed(() => {
    const draft = this.draft();
    const answer = this.answer();
    return draft && answer ? pieceTaken(undrawn(draft), this.shown()!.path, answer, this.matchOf(draft.name)?.found) : undefined;
  });
  readonly drawnPiece = computed(() => {
    const draft = this.draft();
    const answer = this.answer();
    return draft && answer ? pieceTaken({ ...draft, readingIn: [] }, this.shown()!.path, answer, this.matchOf(draft.name)?.found) : undefined;
  });
  readonly drawnWords = computed(() => (this.basePiece() ? wordsOf(this.basePiece()!) : []));
  readonly rulers = computed((): PaperRulers | undefined => {
    const drawing = this.draft()?.drawing;
    const base = this.basePiece();
    return this.mode().kind === 'separators' && drawing && base ? { box: base.box, columns: drawing.columns, cuts: drawing.rows === 'drawn' ? drawing.cuts : [], rows: drawing.rows === 'drawn' } : undefined;
  });

  readonly hits = signal<Hits>(new Map());
  readonly hitsByPage = computed(() => {
    const counts = new Map<number, number>();
    for (const { page } of this.hits().get(this.shown()?.id ?? -1) ?? []) counts.set(page, (counts.get(page) ?? 0) + 1);
    return counts;
  });
  readonly hitAt = signal(-1);
  /** All hits in the order of the reports. */
  readonly allHits = computed(() => this.state.reports().flatMap((report) => (this.hits().get(report.id) ?? []).map((hit) => ({ report: report.id, hit }))));
  readonly frames = computed((): PaperFrame[] => {
    const page = this.pageShown();
    const current = this.allHits()[this.hitAt()];
    const here = this.hits().get(this.shown()?.id ?? -1)?.filter((hit) => hit.page === page) ?? [];
    const first = current && current.report === this.shown()?.id && current.hit.page === page ? [current.hit] : [];
    const hits = [...first, ...here.filter((hit) => hit !== first[0])].map(({ box }): PaperFrame => ({ box, kind: 'hit' }));
    const pictures = this.found()?.pages.find((each) => each.number === page)?.unread.map((box): PaperFrame => ({ box, kind: 'unread', says: 'a picture that may hold a table' })) ?? [];
    const pointed = this.mode().kind === 'labels' && this.pointed() !== undefined ? [{ box: this.words()[this.pointed()!].box, kind: 'word' as const }] : [];
    const across = this.rulers() ? wordsAcross(this.answer()!.page!, this.drawnWords(), { columns: this.rulers()!.columns, rows: 'as read', cuts: [] }).map((w): PaperFrame => ({ box: this.words()[w].box, kind: 'cut' })) : [];
    return [...pointed, ...across, ...hits, ...pictures];
  });
  /** Separators of drawn readings where nothing is being moved. */
  readonly lines = computed((): Box[] =>
    this.mode().kind === 'separators'
      ? []
      : (this.summary()?.matches ?? [])
          .flatMap((match) => match.pieces)
          .filter((piece) => piece.page === this.pageShown() && piece.reading === 'drawn')
          .flatMap(({ separators, box }) => separators.map((x): Box => [x, box[1], x, box[3]])),
  );

  readonly pointed = signal<number | undefined>(undefined);
  readonly labels = computed(() => this.rules().flatMap((rule) => rule.labels));

  matchOf(rule: string): TakeMatch | undefined {
    return this.summary()?.matches.find((each) => each.rule === rule);
  }
  /** What the rule takes from the report shown. */
  hereWords(rule: TakeRule): string {
    const summary = this.summary();
    if (!summary) return this.state.reading() ? 'This report is still being read.' : 'This report was not read.';
    const matches = summary.matches.filter((each) => each.rule === rule.name);
    if (matches.length === 0) return 'Takes nothing from this report.';
    if (rule.of === 'labels') return `${plural(rule.labels.length - matches[0].lacks.length, 'value')} of this report, one row`;
    const pieces = matches.flatMap((match) => match.pieces);
    const columns = [...new Set(pieces.map((piece) => piece.separators.length + 1))];
    return `${matches.length > 1 ? `${matches.length} tables, ` : ''}${plural(pieces.length, 'piece')} in this report, ${columns.join(' or ')} columns; sure ${matches[0].sure}`;
  }
}
