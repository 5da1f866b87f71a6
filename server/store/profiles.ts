import type { ReportProfile } from '../../core/drift/profile';
import type { Store } from './store';

export interface StoredProfile {
  readonly report: number;
  /** Of the file that it was seen in. */
  readonly sha256: string;
  readonly profile: ReportProfile;
}

/** What the reports of a pipeline looked like when they were last carried. */
export async function profilesOf(store: Store, pipeline: number): Promise<StoredProfile[]> {
  const rows = await store.query<{ report: number; sha256: string; profile: string }>('select p.report, p.sha256, p.profile from report_profile p join report r on r.id = p.report where r.pipeline = $1', [pipeline]);
  return rows.map((row) => ({ ...row, profile: JSON.parse(row.profile) as ReportProfile }));
}

export const saveProfiles = (store: Store, profiles: readonly StoredProfile[]): Promise<void> =>
  store.transaction(async (session) => {
    for (const { report, sha256, profile } of profiles)
      await session.execute('insert into report_profile (report, sha256, profile) values ($1, $2, $3) on conflict (report) do update set sha256 = excluded.sha256, profile = excluded.profile', [report, sha256, JSON.stringify(profile)]);
  });
