import type { Difference } from '../../core/drift/difference';
import { differenceProblem } from '../../core/drift/words';
import type { Fate } from '../../core/runs/plan';
import type { Problem } from '../../core/sheet/problem';
import { saveTraits, storedTraits, type StoredTraits } from '../store/report-traits';
import type { Store } from '../store/store';
import type { Pool } from '../work/pool';
import type { SeenAsText } from '../work/tasks/differences';

/** What reports look like, as they are carried, and what is different about some of them. */
export class Differing {
  private readonly seenNow: StoredTraits[] = [];

  private constructor(
    private readonly store: Store,
    private readonly pool: Pool,
    private readonly before: ReadonlyMap<number, StoredTraits>,
  ) {}

  static async of(store: Store, pool: Pool, pipeline: number): Promise<Differing> {
    return new Differing(store, pool, new Map((await storedTraits(store, pipeline)).map((each) => [each.report, each])));
  }

  /** Takes down what a report looks like, as it was carried now. @param traits as JSON */
  saw({ id, sha256 }: Fate['report'], traits: string): void {
    this.seenNow.push({ report: id, sha256, traits });
  }

  /** @param document as text @returns the differences among the reports of a plan, in their order, and how many reports were compared */
  async found(document: string, fates: readonly Fate[], signal?: AbortSignal): Promise<{ differences: Difference[]; compared: number }> {
    await saveTraits(this.store, this.seenNow);
    const now = new Map(this.seenNow.map((each) => [each.report, each]));
    const seen = fates.flatMap((fate): SeenAsText[] => {
      const { id, sha256, path, period } = fate.report;
      const own = now.get(id) ?? this.before.get(id);
      return fate.does === 'leave' || own?.sha256 !== sha256 ? [] : [{ key: String(id), path, period, known: isKnown(fate), traits: own.traits }];
    });
    return this.pool.run('differences', { document, seen }, signal ? { signal } : {});
  }
}

/** Are the rows in the dataset those of the file as it is now, and accepted? */
function isKnown(fate: Exclude<Fate, { does: 'leave' }>): boolean {
  if (fate.does === 'reuse') return !fate.part.stale;
  return fate.last?.sha256 === fate.report.sha256 && !fate.part?.stale;
}

/** The differences of one report as problems: those for which it is held back, and those that only need a look. */
export function differencesIn(differences: readonly Difference[], report: number): { holding: Problem[]; others: Problem[] } {
  const own = differences.filter(({ reports }) => reports.includes(String(report)));
  const problems = (holds: boolean) => own.filter((each) => each.holds === holds).map((each) => differenceProblem(each, String(report)));
  return { holding: problems(true), others: problems(false) };
}
