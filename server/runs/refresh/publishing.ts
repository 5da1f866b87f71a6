import { gapsIn } from '../../../core/intake/periods';
import { inputOf } from '../../../core/runs/plan';
import type { RunNote, RunReport, RunState, ToldOfWhole, WholeTold } from '../../../core/runs/run';
import { severityOf } from '../../../core/sheet/problem';
import { publish, type PublishedPart } from '../../store/publish';
import { endRun, recordRun } from '../../store/runs';
import { datasetChecks, stoppedBy } from '../dataset-checks';
import {
  cameIn,
  isOut,
  mergedColumns,
  notStored,
  tiesOf,
  waitingBeside,
  withShare,
  withTies,
  wrongWithin,
} from '../lines';
import { madeAnew, type Replaced } from '../made-anew';
import type { Carrying, Outcome } from './carry';
import type { Planned } from './plan';
import type { Settled } from './settle';

export interface RefreshResult {
  readonly state: RunState;
  readonly rows: number;
  readonly reports: readonly RunReport[];
  readonly whole: WholeTold | null;
  readonly notes: readonly RunNote[];
}

/** What is to be published: parts of the dataset in their order, and what is said of them. */
interface Switch {
  readonly parts: readonly PublishedPart[];
  readonly columns: Outcome['columns'];
  readonly lines: readonly RunReport[];
  readonly whole: WholeTold | null;
  readonly notes: readonly RunNote[];
}

/** Publishes what the reports came to in one switch, or says why not. */
export class Publishing {
  constructor(
    private readonly planned: Planned,
    private readonly carrying: Carrying,
    private readonly settled: Settled,
  ) {}

  async result(): Promise<RefreshResult> {
    const { lines, outcomes } = this.settled;
    const ended = stoppedBy(this.planned.document.checks, lines);
    if (ended.length > 0) return this.unpublished(ended);
    if (this.planned.needsWhole) return this.ofWhole();
    const parts = outcomes.flatMap(({ part }) => part ?? []);
    if (parts.length === 0) return this.unpublished([this.none()]);
    const columns = mergedColumns(outcomes.map((each) => each.columns));
    return this.switchTo({ parts, columns, lines, whole: null, notes: [] });
  }

  /** Makes the rows of all reports at once, unless they are known. */
  private async ofWhole(): Promise<RefreshResult> {
    const { outcomes, lines } = this.settled;
    // Left out of what is made anew, rows that are published would be gone without an answer: the dataset waits.
    const lost = outcomes.find(
      ({ line, source }) => isOut(line.state) && line.state !== 'stale' && !source && this.planned.wasIn(line.report),
    );
    if (lost) return this.unpublished([{ kind: 'whole waits', report: lost.line.path }]);
    const inputs = outcomes.flatMap(({ source }) => source ?? []);
    if (inputs.length === 0) return this.unpublished([this.none()]);
    const key = this.planned.wholeKey(inputs);
    const known = this.planned.parts.find((part) => part.report === null && part.key === key);
    if (!known) return this.wholeAnew(inputs, key);
    const told = JSON.parse(known.told) as ToldOfWhole;
    return this.switchTo({
      parts: [{ part: known.id, stale: false }],
      columns: known.columns,
      lines: lines.map((line) => ({ ...line, ...(told.reports[String(line.report)] ?? {}), problems: line.problems })),
      whole: told.whole,
      notes: [],
    });
  }

  private async wholeAnew(inputs: Parameters<Planned['wholeKey']>[0], key: string): Promise<RefreshResult> {
    const { pool, options } = this.planned.of;
    this.carrying.progressOfWhole();
    const part = await this.planned.reserve(null, key, inputs);
    const sources = inputs.map((input) => this.planned.taskOf(input));
    const answer = await pool
      .run('whole', { document: this.planned.text, sources, part }, { signal: options.signal })
      .catch((error: Error) => {
        this.planned.stop();
        throw new Error(`The steps that need all reports at once could not be run: ${error.message}`);
      });
    if ('unreadable' in answer)
      return this.unpublished([{ kind: 'whole waits', report: answer.unreadable.report ?? '' }]);
    const stopping = answer.told.problems.find((problem) => severityOf(problem) === 'stops');
    if (stopping) return this.unpublished([{ kind: 'not stored', problem: stopping }]);
    const lines = this.settled.lines.map((line) => withShare(line, answer.shares[String(line.report)]));
    const refused = await this.planned.load(part, answer.rows, toldOfWhole(answer.told, lines));
    if (refused) return this.unpublished([{ kind: 'not stored', problem: notStored(refused) }]);
    const steps = answer.told.layers.flatMap(({ title, took }) => (took === undefined ? [] : [{ title, took }]));
    return this.switchTo({
      parts: [{ part, stale: false }],
      columns: answer.rows.columns,
      lines,
      whole: answer.told,
      notes: [{ kind: 'computed anew', steps }],
    });
  }

  /** Publishes, unless that is what is published already. */
  private async switchTo(next: Switch): Promise<RefreshResult> {
    this.planned.stop();
    const { store, pipeline, run, options } = this.planned.of;
    const { cacheFolder, reading } = options;
    const { checks } = this.planned.document;
    const ofDataset = await datasetChecks(
      { store, cacheFolder, reading },
      pipeline.id,
      checks,
      next.parts.map(({ part }) => part),
    );
    if (this.isPublished(next.parts)) {
      const waiting = next.lines.filter(({ state }) => isOut(state)).length;
      return this.end('nothing new', next, [
        { kind: 'nothing changed', ...(waiting > 0 ? { waiting } : {}) },
        ...this.differences(),
        ...this.gaps(),
        ...ofDataset,
        ...wrongWithin(checks, next.lines),
      ]);
    }
    if (ofDataset.some(({ stops }) => stops)) return this.unpublished(ofDataset, next);
    this.carrying.progressOfPublishing();
    const anew = await madeAnew(store, pipeline.id, run, this.planned.document, this.replacedBy(next.parts));
    const notes = [
      ...cameIn(next.lines),
      ...(anew ? [anew] : []),
      ...waitingBeside(next.lines),
      ...next.notes,
      ...ofDataset,
      // That nothing differs is said where reports were compared.
      ...this.differences(this.settled.compared >= 2),
      ...wrongWithin(checks, next.lines),
      ...this.gaps(),
    ];
    const said = withTies(notes, next.lines, next.whole);
    const result = await this.end('published', next, said);
    const { rows } = await publish(
      store,
      pipeline.id,
      run,
      pipeline.version,
      next.parts,
      next.columns,
      this.planned.watch,
    );
    return { ...result, rows };
  }

  private isPublished(parts: readonly PublishedPart[]): boolean {
    const before = this.planned.parts;
    return (
      before.length === parts.length &&
      before.every(({ id, stale }, i) => id === parts[i].part && stale === parts[i].stale)
    );
  }

  /** Rows that are published, and those that take their place: of each report by itself, or of all. */
  private replacedBy(published: readonly PublishedPart[]): Replaced[] {
    const { parts, plan, needsWhole } = this.planned;
    const { outcomes } = this.settled;
    if (needsWhole) {
      const before = parts.find(({ report }) => report === null);
      return before && published[0] && before.id !== published[0].part
        ? [{ before, after: published[0].part, inputs: outcomes.flatMap(({ source }) => source ?? []) }]
        : [];
    }
    return outcomes.flatMap(({ part }, i) => {
      const { report } = plan.fates[i];
      const before = parts.find((each) => each.report === report.id);
      return before && part && !part.stale && before.id !== part.part
        ? [{ before, after: part.part, inputs: [inputOf(report)] }]
        : [];
    });
  }

  /** What waits for an answer is said as well where nothing is published. */
  private unpublished(
    notes: readonly RunNote[],
    of: Pick<Switch, 'lines' | 'whole'> = { lines: this.settled.lines, whole: null },
  ): Promise<RefreshResult> {
    return this.end('nothing published', of, [...notes, ...this.differences()]);
  }

  private async end(
    state: RunState,
    { lines, whole }: Pick<Switch, 'lines' | 'whole'>,
    notes: readonly RunNote[],
  ): Promise<RefreshResult> {
    const { store, run } = this.planned.of;
    await recordRun(store, run, lines, whole, notes);
    if (state !== 'published') await endRun(store, run, state, notes);
    const rows = state === 'nothing published' ? 0 : lines.reduce((sum, line) => sum + line.rows, 0);
    return { state, rows, reports: lines, whole, notes };
  }

  /** @param always also where nothing differs */
  private differences(always = false): RunNote[] {
    const { differences, compared } = this.settled;
    return always || differences.length > 0 ? [{ kind: 'differences', differences, reports: compared }] : [];
  }

  private gaps(): RunNote[] {
    const periods = gapsIn(this.planned.reports, this.planned.document.reports.none);
    return periods.length > 0 ? [{ kind: 'gaps', periods }] : [];
  }

  private none = (): RunNote =>
    this.planned.reports.some(({ standing }) => standing === 'counts')
      ? { kind: 'none carried' }
      : { kind: 'no report found', folder: this.planned.of.pipeline.folder };
}

/** What is kept beside the rows of all reports. */
const toldOfWhole = (whole: WholeTold, lines: readonly RunReport[]): ToldOfWhole => ({
  whole,
  reports: Object.fromEntries(
    lines.map(({ report, rows, held, misfits, matches, layers, problems, ties }) => [
      String(report),
      { rows, held, misfits, matches, layers, problems, ...tiesOf({ ties }) },
    ]),
  ),
});
