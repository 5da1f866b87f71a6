import { stagesNow } from '../setup/build';
import type { Session } from './store';

/** Periods that contents (sha256) say on their pages; null: none. @param stamp what was looked for, as text */
export async function stampedPeriods(store: Session, stamp: string): Promise<Map<string, string | null>> {
  const rows = await store.query<{ sha256: string; period: string | null }>(
    'select sha256, period from stamped_period where stamp = $1 and stages = $2',
    [stamp, stagesNow()],
  );
  return new Map(rows.map(({ sha256, period }) => [sha256, period]));
}

export const keepStampedPeriod = (store: Session, sha256: string, stamp: string, period: string | null) =>
  store.execute(
    'insert into stamped_period (sha256, stamp, period, stages) values ($1, $2, $3, $4) on conflict (sha256, stamp) do update set period = excluded.period, stages = excluded.stages',
    [sha256, stamp, period, stagesNow()],
  );
