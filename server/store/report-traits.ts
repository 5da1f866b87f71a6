import type { ReportTraits } from '../../core/drift/traits';
import type { Store } from './store';

export interface StoredTraits {
  readonly report: number;
  /** Of the file that it was seen in. */
  readonly sha256: string;
  readonly traits: ReportTraits;
}

/** What the reports of a pipeline looked like when they were last carried. */
export async function storedTraits(store: Store, pipeline: number): Promise<StoredTraits[]> {
  const rows = await store.query<{ report: number; sha256: string; traits: string }>('select p.report, p.sha256, p.traits from report_traits p join report r on r.id = p.report where r.pipeline = $1', [pipeline]);
  return rows.map((row) => ({ ...row, traits: JSON.parse(row.traits) as ReportTraits }));
}

export const saveTraits = (store: Store, all: readonly StoredTraits[]): Promise<void> =>
  store.transaction(async (session) => {
    for (const { report, sha256, traits } of all)
      await session.execute('insert into report_traits (report, sha256, traits) values ($1, $2, $3) on conflict (report) do update set sha256 = excluded.sha256, traits = excluded.traits', [report, sha256, JSON.stringify(traits)]);
  });
