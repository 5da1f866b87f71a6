import { endRun } from '../../store/runs';
import { inParallel } from '../../work/in-parallel';
import { Differing } from '../differing';
import { Carrying } from './carry';
import { Planned, type Refreshed } from './plan';
import { Publishing, type RefreshResult } from './publishing';
import { settled } from './settle';

/**
 * One refresh: looks at the folder, makes a plan, carries what is new or changed, settles which of it waits, and publishes in
 * one switch. A report that cannot be had whole keeps its rows of the last good version, marked stale; the others come.
 * @throws Cancelled when the signal ended it; the dataset before it stays published
 */
export async function refresh(refreshed: Refreshed): Promise<RefreshResult> {
  const { store, pool, pipeline, run } = refreshed;
  const planned = await Planned.of(refreshed);
  const manyGone = planned.manyGone();
  if (manyGone) {
    await endRun(store, run, 'nothing published', [manyGone]);
    return { state: 'nothing published', rows: 0, reports: [], whole: null, notes: [manyGone] };
  }
  const differing = await Differing.of(store, pool, pipeline.id, planned.parts);
  const carrying = new Carrying(planned, differing);
  const carried = await inParallel(planned.plan.fates, pool.threads, (fate) => carrying.outcomeOf(fate));
  planned.stop();
  return new Publishing(planned, carrying, await settled(planned, carrying, differing, carried)).result();
}
