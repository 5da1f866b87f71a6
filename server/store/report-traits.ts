import type { Store } from './store';

/** What a report looked like when it was last carried. */
export interface StoredTraits {
  readonly report: number;
  /** Of the file that it was seen in. */
  readonly sha256: string;
  /** The stages of the build that saw it. */
  readonly stages: string;
  /** As JSON: only the threads look into it. */
  readonly traits: string;
}

export const storedTraits = (store: Store, pipeline: number): Promise<StoredTraits[]> =>
  store.query<StoredTraits>(
    'select t.report, t.sha256, t.stages, t.traits from report_traits t join report r on r.id = t.report where r.pipeline = $1',
    [pipeline],
  );

/** Each by itself, so that readers get their turn in between; one that is written again is the same. */
export async function saveTraits(store: Store, all: readonly StoredTraits[]): Promise<void> {
  for (const { report, sha256, stages, traits } of all)
    await store.execute(
      'insert into report_traits (report, sha256, stages, traits) values ($1, $2, $3, $4) on conflict (report) do update set sha256 = excluded.sha256, stages = excluded.stages, traits = excluded.traits',
      [report, sha256, stages, traits],
    );
}
