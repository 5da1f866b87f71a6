import type { DismissedPicture } from '../../../../core/intake/dismissed-pictures';
import { inject, Injectable } from '@angular/core';
import { ActivatedRoute } from '@angular/router';
import { wordsIn } from '../../../../core/intake/outlines';
import { ruleOf, type Drawing, type LabelSetting, type ReadingChoice, type TakeRule } from '../../../../core/intake/take-rule';
import type { Box } from '../../../../core/page/box';
import type { Pipeline } from '../../../../core/pipeline/document';
import { readingsOf } from '../../../../core/reading/page-tables';
import { separatorsOf } from '../../../../core/reading/readings/drawn';
import type { StoredReport, TableFacts } from '../../../../server/contract/contract';
import { PipelineState } from '../pipeline/pipeline-state';
import { Look } from '../shared/look';
import { newStep } from '../bench/steps-edit';
import type { PaperRulers } from '../shared/paper-ruler';
import { anchorsOf, drawingOn, pieceTaken, undrawn } from './on-paper';
import { type CutPlace } from './take-card';
import { freeRuleName, ruleFor, withCut, withLabel, withoutLabel, withoutRule, withRule, withTable } from './take-rules';
import { IntakeLook } from './intake-look';

/** What is done on Intake: taking and leaving tables, and what is put right by hand. */
@Injectable()
export class IntakeEdit {
  private readonly state = inject(PipelineState);
  private readonly at = inject(IntakeLook);
  private readonly look = inject(Look);
  private readonly route = inject(ActivatedRoute);

  show(report: number, page?: number) {
    this.leaveMode();
    this.look.at(this.route, { report, page: page ?? null }, false);
  }
  turn(by: number) {
    this.turnTo(this.at.pageShown() + by);
  }
  turnTo(page: number) {
    this.look.at(this.route, { page });
  }
  /** The next hit of the search, or the one before, wherever it is. */
  toHit(by: 1 | -1) {
    const all = this.at.allHits();
    if (all.length === 0) return;
    this.at.hitAt.set((this.at.hitAt() + by + all.length) % all.length);
    const { report, hit } = all[this.at.hitAt()];
    this.look.at(this.route, { report, page: hit.page }, false);
  }

  /** Takes the found table whose piece was pressed, or leaves it. */
  toggle(piece: string) {
    const summary = this.at.summary();
    const document = this.state.document()!;
    const table = this.at.found()!.tables.find((each) => each.pieces.some((own) => own.id === piece));
    const rule = table ? summary && ruleFor(summary, table.id) : piece.replace(/ \d+$/, '');
    if (!rule && !table) return;
    this.put(rule ? withoutRule(document, rule) : withTable(document, table!));
  }
  /** The table proposed; where reports have several of it, all. */
  takeTable({ table, several }: { table: TableFacts; several: boolean }) {
    this.put(withTable(this.state.document()!, table, several ? 'all alike' : 'the likest'));
  }
  /** The report on which the first rule is made becomes the guide. */
  put(next: Pipeline) {
    this.at.told.set(undefined);
    this.state.change(this.state.document()!.guide ? next : { ...next, guide: this.at.shown()!.path });
  }
  leave(rule: string) {
    this.put(withoutRule(this.state.document()!, rule));
  }
  alter(rule: TakeRule, changes: Partial<TakeRule>) {
    const document = this.state.document()!;
    this.put(withRule(document, rule.name, { ...changes, ...(changes.name && changes.name !== rule.name ? { name: freeRuleName(document, changes.name) } : {}) }));
  }
  cut(rule: TakeRule, place: CutPlace) {
    this.put(withCut(this.state.document()!, rule.name, place));
  }
  takeMany(rules: readonly TakeRule[]) {
    this.put({ ...this.state.document()!, take: [...this.at.rules(), ...rules] });
  }
  /** The issues of one period, as far as they are undecided. */
  issuesOf = ({ period }: StoredReport): StoredReport[] => this.state.reports().filter((report) => report.standing === 'undecided' && report.period === period);
  /** Says which of the issues asked about count; remembered by their content. */
  letCount(counting: readonly StoredReport[], issues: readonly StoredReport[]) {
    const document = this.state.document()!;
    const [among, counts] = [issues, counting].map((reports) => reports.map(({ sha256 }) => sha256));
    this.state.change({ ...document, reports: { ...document.reports, answers: [...(document.reports.answers ?? []), { among, counts }] } });
  }
  setAside({ sha256 }: StoredReport, aside: boolean) {
    const document = this.state.document()!;
    const others = (document.reports.aside ?? []).filter((each) => each !== sha256);
    this.state.change({ ...document, reports: { ...document.reports, aside: aside ? [...others, sha256] : others } });
  }

  makeGuide(report: StoredReport) {
    this.state.change({ ...this.state.document()!, guide: report.path });
  }

  leaveMode() {
    this.at.mode.set({ kind: 'cards' });
    this.at.draft.set(undefined);
    this.at.pointed.set(undefined);
  }

  takeWholePage() {
    const page = this.at.pageShown();
    const document = this.state.document()!;
    this.put({ ...document, take: [...document.take, ruleOf({ name: freeRuleName(document, `Whole page ${page}`), of: 'whole page', pages: { from: page, to: page } })] });
  }

  /** An area was drawn: its separators come next. */
  takeArea(box: Box) {
    const answer = this.at.answer();
    if (!answer?.page) return;
    const document = this.state.document()!;
    const words = wordsIn(answer.page, box);
    if (words.length < 2) return this.at.told.set('There is no text in the area drawn.');
    const [reading] = readingsOf(answer.page, { box, words, by: 'space' });
    const rule = ruleOf({ name: freeRuleName(document, `Area of page ${this.at.pageShown()}`), of: 'area', reading: 'drawn', drawing: { ...anchorsOf(answer.page, reading, box), columns: reading ? separatorsOf(reading) : [], box } });
    this.put({ ...document, take: [...document.take, rule] });
    this.at.draft.set(rule);
    this.at.mode.set({ kind: 'separators', rule: rule.name });
  }

  drawSeparators(rule: TakeRule) {
    const answer = this.at.answer();
    const base = answer && pieceTaken(undrawn(rule), this.at.shown()!.path, answer, this.at.matchOf(rule.name)?.found);
    if (!answer?.page || !base) return;
    this.at.draft.set({ ...rule, reading: 'drawn', drawing: drawingOn(rule, answer.page, base) });
    this.at.mode.set({ kind: 'separators', rule: rule.name });
  }
  moveRulers(rulers: PaperRulers) {
    this.at.draft.update((draft) => draft && { ...draft, drawing: { ...draft.drawing!, columns: [...rulers.columns], ...(rulers.rows ? { cuts: [...rulers.cuts] } : {}) } });
  }
  redraw(drawing: Drawing) {
    this.at.draft.update((draft) => draft && { ...draft, drawing });
  }
  keepSeparators(of: 'all' | 'this' | 'none') {
    const draft = this.at.draft()!;
    const { drawing } = draft;
    const columns = [...drawing!.columns].sort((a, b) => a.at - b.at);
    const kept = { drawing: { ...drawing!, columns } };
    const rule = this.at.rules().find((each) => each.name === draft.name)!;
    const own = { report: this.at.shown()!.path, reading: 'drawn' as const };
    this.leaveMode();
    if (of === 'all') this.alter(rule, { ...kept, reading: 'drawn' });
    if (of === 'this') this.alter(rule, { ...kept, readingIn: [...rule.readingIn.filter((each) => each.report !== own.report), own] });
  }

  useReading({ reading, of }: { reading: ReadingChoice; of: 'all' | 'this' }) {
    const rule = this.at.modeRule()!;
    const report = this.at.shown()!.path;
    const others = rule.readingIn.filter((each) => each.report !== report);
    this.leaveMode();
    this.alter(rule, of === 'all' ? { reading, readingIn: others } : { readingIn: [...others, { report, reading }] });
  }

  pointAt(word: number | undefined) {
    this.at.pointed.set(word);
    this.at.mode.set({ kind: 'labels' });
  }
  takeLabel(label: LabelSetting) {
    this.put(withLabel(this.state.document()!, label));
    this.at.pointed.set(undefined);
  }
  leaveLabel(label: LabelSetting) {
    this.put(withoutLabel(this.state.document()!, label));
  }
  stampLabel(label: LabelSetting) {
    const document = this.state.document()!;
    this.put({ ...document, eachReport: [...document.eachReport, newStep('stamp', { from: 'label', label: label.label, side: label.side, column: label.name })] });
    this.leaveMode();
    this.at.told.set(`“${label.name}” is stamped on every row: the step stands at the bench.`);
  }

  /** Pictures on a page of the report shown hold no table: there alone, or at their place in every report. */
  dismissPictures(page: number, everywhere: boolean) {
    const boxes = this.at.found()?.pages.find(({ number }) => number === page)?.unread ?? [];
    const report = this.at.shown()!.path;
    this.pictures((known) => [...known, ...boxes.map((box) => ({ box: [...box], ...(everywhere ? {} : { report, page }) }))]);
  }
  askAboutPictures() {
    this.pictures(() => []);
  }
  private pictures(change: (known: readonly DismissedPicture[]) => readonly DismissedPicture[]) {
    const document = this.state.document()!;
    this.state.change({ ...document, reports: { ...document.reports, pictures: [...change(document.reports.pictures ?? [])] } });
  }
}
