import { covers, type Answer } from '../../core/drift/answers';
import type { Difference } from '../../core/drift/difference';
import { stillOpen, withThoseBefore } from '../../core/drift/differences';
import { differenceProblem } from '../../core/drift/words';
import type { Pipeline } from '../../core/pipeline/document';
import type { Fate } from '../../core/runs/plan';
import type { Problem } from '../../core/sheet/problem';
import { stagesNow } from '../setup/build';
import { saveTraits, storedTraits, type StoredTraits } from '../store/report-traits';
import { versionOf } from '../store/pipelines';
import type { PublishedRows } from '../store/published';
import { lastTold } from '../store/runs';
import type { Store } from '../store/store';
import type { Pool } from '../work/pool';
import type { SeenAsText } from '../work/tasks/differences';

/** What an earlier refresh found and was told of the reports in the dataset. */
interface Before {
  readonly traits: ReadonlyMap<number, StoredTraits>;
  /** Differences that held nothing back. */
  readonly told: readonly Difference[];
  /** The answers that a report's rows in the dataset, or the last refresh, went by. */
  readonly answers: (report: number) => readonly Answer[];
}

/** What reports look like, as they are carried, and what is different about some of them. */
export class Differing {
  private readonly seenNow: StoredTraits[] = [];

  private constructor(
    private readonly store: Store,
    private readonly pool: Pool,
    private readonly before: Before,
  ) {}

  static async of(store: Store, pool: Pool, pipeline: number, parts: readonly PublishedRows[]): Promise<Differing> {
    const traits = new Map((await storedTraits(store, pipeline)).map((each) => [each.report, each]));
    const last = await lastTold(store, pipeline);
    const answersIn = new Map<number, readonly Answer[]>();
    for (const version of new Set([...parts.map((part) => part.version), last?.version]))
      if (typeof version === 'number')
        answersIn.set(version, (await versionOf(store, pipeline, version))?.document.answers ?? []);
    const answers = (report: number) => {
      const own = parts.find(({ inputs }) => inputs.some((input) => input.report === report));
      return [own?.version, last?.version].flatMap((version) =>
        typeof version === 'number' ? answersIn.get(version)! : [],
      );
    };
    const told = (last?.notes ?? [])
      .flatMap((note) => (note.kind === 'differences' ? note.differences : []))
      .filter(({ holds }) => !holds);
    return new Differing(store, pool, { traits, told, answers });
  }

  /** Takes down what a report looks like, as it was carried now. @param traits as JSON */
  saw({ id, sha256 }: Fate['report'], traits: string): void {
    this.seenNow.push({ report: id, sha256, stages: stagesNow(), traits });
  }

  /** @returns the differences among the reports of a plan, in their order, and how many reports were compared */
  async found(
    document: Pipeline,
    fates: readonly Fate[],
    signal?: AbortSignal,
  ): Promise<{ differences: Difference[]; compared: number }> {
    await saveTraits(this.store, this.seenNow);
    const now = new Map(this.seenNow.map((each) => [each.report, each]));
    const given = new Set(document.answers.map((each) => JSON.stringify(each)));
    const seen = fates.flatMap((fate): SeenAsText[] => {
      const { id, sha256, path, period } = fate.report;
      const own = now.get(id) ?? this.before.traits.get(id);
      if (fate.does === 'leave' || own?.sha256 !== sha256 || own.stages !== stagesNow()) return [];
      // What was let in by an answer that was withdrawn since is asked again.
      const withdrawn = this.before
        .answers(id)
        .some((each) => each.decided !== 'hold back' && covers(each, fate.report) && !given.has(JSON.stringify(each)));
      return [{ key: String(id), path, period, known: isKnown(fate) && !withdrawn, traits: own.traits }];
    });
    const found = await this.pool.run(
      'differences',
      { document: JSON.stringify(document), seen },
      signal ? { signal } : {},
    );
    const known = new Map(seen.flatMap((each) => (each.known ? [[each.key, each]] : [])));
    return {
      ...found,
      differences: withThoseBefore(
        found.differences,
        stillOpen(this.before.told, document.answers, (key) => known.get(key)),
      ),
    };
  }
}

/** Are the rows in the dataset those of the file as it is now, and accepted? */
function isKnown(fate: Exclude<Fate, { does: 'leave' }>): boolean {
  if (fate.does === 'reuse') return !fate.part.stale;
  return fate.last?.sha256 === fate.report.sha256 && !fate.part?.stale;
}

/** The differences of one report as problems: those for which it is held back, and those that only need a look. */
export function differencesIn(
  differences: readonly Difference[],
  report: number,
): { holding: Problem[]; others: Problem[] } {
  const own = differences.filter(({ reports }) => reports.includes(String(report)));
  const problems = (holds: boolean) =>
    own.filter((each) => each.holds === holds).map((each) => differenceProblem(each, String(report)));
  return { holding: problems(true), others: problems(false) };
}
