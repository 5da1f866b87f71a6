import { nothingTold, type CarriedTold } from '../../../core/pipeline/told';
import { inputOf, type Fate, type PartInput } from '../../../core/runs/plan';
import type { RunReport } from '../../../core/runs/run';
import type { Problem } from '../../../core/sheet/problem';
import type { NewColumn } from '../../store/data-table';
import type { PublishedPart } from '../../store/publish';
import type { PublishedRows } from '../../store/published';
import { StoreError } from '../../store/store';
import type { Differing } from '../differing';
import { lineOf, noCounts, notStored, tiesOf } from '../lines';
import type { Planned } from './plan';

/** What became of one report: the part that holds its rows, or (where a step needs the whole) what they are to be made of. */
export interface Outcome {
  readonly line: RunReport;
  readonly part?: PublishedPart;
  readonly source?: PartInput;
  readonly columns: readonly NewColumn[];
}

type Fates<Does extends Fate['does']> = Extract<Fate<PublishedRows>, { does: Does }>;

/** What keeps a report from being published as it is now. */
export interface Held {
  readonly because: readonly Problem[];
  readonly told: CarriedTold;
  readonly parsed?: boolean | undefined;
  /** May the rows of its last good version be published? They all may if left out. */
  readonly fits?: (of: Pick<Outcome, 'columns'>) => boolean;
}

/** Makes the rows of reports, each in a thread, or keeps those of the last good version. */
export class Carrying {
  private done = 0;

  constructor(
    private readonly planned: Planned,
    private readonly differing: Differing,
  ) {}

  progressOfWhole = () => this.planned.progress(this.done, { kind: 'whole' });
  progressOfPublishing = () => this.planned.progress(this.done, { kind: 'publishing' });

  async outcomeOf(fate: Fate<PublishedRows>): Promise<Outcome> {
    switch (fate.does) {
      case 'reuse':
        return this.reused(fate);
      case 'carry':
        return this.carry(fate);
      case 'hold back':
        return this.planned.plan.whole
          ? this.heldInWhole(fate)
          : this.heldBack(fate, { because: [fate.because], told: nothingTold });
      case 'leave':
        return { line: lineOf(fate.report, fate.state, noCounts), columns: [] };
    }
  }

  private async carry(fate: Fates<'carry'>): Promise<Outcome> {
    this.planned.stop();
    const { report } = fate;
    const input = inputOf(report);
    const part = this.planned.needsWhole ? null : await this.reserved(input);
    const came = await this.inThread(input, part);
    if (came.traits !== undefined) this.differing.saw(report, came.traits);
    this.planned.progress(++this.done, { kind: 'report', path: report.path });
    if ('because' in came) return this.heldBack(fate, came);
    const { rows, told, parsed } = came;
    if (part !== null) {
      const refused = await this.planned.load(part, rows, told);
      // What the database does not take of one report must not stop the others.
      if (refused) return this.heldBack(fate, { because: [notStored(refused)], told, parsed });
    }
    const counts = { rows: rows.rows, held: rows.held, misfits: rows.misfits.length };
    return {
      line: { ...lineOf(report, fate.last || fate.part ? 'changed' : 'added', counts), ...told, parsed },
      ...(part === null ? { source: input } : { part: { part, stale: false } }),
      columns: rows.columns,
    };
  }

  private reserved = (input: PartInput) => this.planned.reserve(input.report, this.planned.keyOf(input), [input]);

  /** Carries a report; what keeps it from that comes as problems. */
  private async inThread(input: PartInput, part: number | null) {
    const { pool, options } = this.planned.of;
    let read = 0;
    const answer = await pool
      .run(
        'carry',
        { document: this.planned.text, source: this.planned.taskOf(input), part },
        {
          signal: options.signal,
          progress: ({ done, total }) => {
            read = done;
            this.planned.progress(this.done, { kind: 'report', path: input.path, page: done, pages: total });
          },
        },
      )
      .catch((error: Error): { unreadable: Problem } => {
        this.planned.stop();
        return { unreadable: notCarried(error, read) };
      });
    if ('unreadable' in answer)
      return { because: [answer.unreadable], told: nothingTold, parsed: false, traits: undefined };
    if (answer.heldBack.length === 0) return answer;
    const { heldBack, told, parsed, traits } = answer;
    return { because: heldBack, told, parsed, traits };
  }

  /** Its rows are as they are published. */
  private reused({ report, part }: Fates<'reuse'>): Outcome {
    if (part.report === null) {
      const { rows, held, misfits, ...told } = this.planned.sharesBefore![String(report.id)];
      return {
        line: { ...lineOf(report, 'unchanged', { rows, held, misfits }), ...told },
        source: inputOf(report),
        columns: [],
      };
    }
    return {
      line: {
        ...lineOf(report, part.stale ? 'changed' : 'unchanged', part),
        ...(JSON.parse(part.told) as CarriedTold),
      },
      part: { part: part.id, stale: false },
      columns: part.columns,
    };
  }

  /** A report that waits where the rows of all reports stay as they are published. */
  private heldInWhole({ report, last, because }: Fates<'hold back'>): Outcome {
    const share = this.planned.sharesBefore?.[String(report.id)];
    return {
      line: {
        ...lineOf(report, last ? 'stale' : 'failed', share ?? noCounts),
        problems: [because],
        ...tiesOf(share),
      },
      ...(last ? { source: last } : {}),
      columns: [],
    };
  }

  /** A report whose rows cannot be had now: those of its last good version stay, marked stale. */
  async heldBack(
    fate: Exclude<Fate<PublishedRows>, { does: 'leave' }>,
    { because, told, parsed = false, fits = () => true }: Held,
  ): Promise<Outcome> {
    const { report } = fate;
    const problems = [...because, ...told.problems.filter((problem) => !because.includes(problem))];
    const part = this.planned.needsWhole ? undefined : fate.part;
    if (part && fits(part))
      return {
        line: { ...lineOf(report, 'stale', part), ...told, problems, ...tiesOf(JSON.parse(part.told) as CarriedTold) },
        part: { part: part.id, stale: true },
        columns: part.columns,
      };
    // What is reused is in the dataset as it is now.
    const last = fate.does === 'reuse' ? inputOf(report) : fate.last;
    const before = !part && last ? await this.asBefore(fate, last, problems) : undefined;
    if (before instanceof StoreError) problems.push(notStored(before));
    else if (before && fits(before)) return before;
    const waits = because.some(({ kind }) => kind === 'differs' || kind === 'check');
    return {
      line: { ...lineOf(report, waits ? 'held back' : 'failed', noCounts), ...told, problems, parsed },
      columns: [],
    };
  }

  /** Rows that are not by themselves in the dataset are made anew, of what the report was when it last was good. */
  private async asBefore(
    { report }: Pick<Fate, 'report'>,
    last: PartInput,
    problems: readonly Problem[],
  ): Promise<Outcome | StoreError | undefined> {
    const own = this.planned.needsWhole ? null : await this.reserved(last);
    const came = await this.inThread(last, own);
    if ('because' in came) return undefined;
    const { rows, told } = came;
    const refused = own === null ? undefined : await this.planned.load(own, rows, told);
    if (refused) return refused;
    const counts = { rows: rows.rows, held: rows.held, misfits: rows.misfits.length };
    return {
      line: { ...lineOf(report, 'stale', counts), ...told, problems },
      ...(own === null ? { source: last } : { part: { part: own, stale: true } }),
      columns: rows.columns,
    };
  }
}

/** One report that breaks its thread (too large for its memory, a fault of the reader) must not stop the others. @param read its last page that was read */
const notCarried = (error: Error, read: number): Problem => ({
  kind: 'not read',
  expected: 'a file that can be read',
  came: `a failure${read > 0 ? ` after page ${read}` : ''}: ${error.message.replace(/\s+/g, ' ')}`,
  remedy: 'Ask the sender for the file again; the other reports are not touched by it.',
});
