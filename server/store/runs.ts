import type { RunNote, RunReport, RunState, WholeTold } from '../../core/runs/run';
import type { CarriedTold } from '../../core/pipeline/told';
import type { RunFull, StoredRun } from '../contract/answers';
import type { Store } from './store';

interface RunRow {
  id: number;
  pipeline: number;
  version: number;
  started_at: string;
  ended_at: string | null;
  state: RunState;
  rows: string | null;
  notes: string;
  whole: string | null;
  told: boolean;
}

const runOf = ({ started_at, ended_at, rows, notes, whole, ...row }: RunRow): StoredRun => ({
  ...row,
  startedAt: started_at,
  endedAt: ended_at,
  rows: rows === null ? null : Number(rows),
  notes: JSON.parse(notes) as RunNote[],
  whole: whole === null ? null : (JSON.parse(whole) as WholeTold),
});
const columns =
  'id, pipeline, version, started_at, ended_at, state, rows, notes, whole, exists (select 1 from run_report x where x.run = run.id) as told';

/** @param version of the document that it runs with */
export async function startRun(store: Store, pipeline: number, version: number): Promise<number> {
  const [{ id }] = await store.query<{ id: number }>(
    "insert into run (pipeline, version, state) values ($1, $2, 'running') returning id",
    [pipeline, version],
  );
  return id;
}

/** Ends a run that published nothing; `publish` ends the others within its switch. */
export const endRun = (store: Store, run: number, state: RunState, notes: readonly RunNote[]) =>
  store.execute('update run set state = $2, ended_at = now(), notes = $3 where id = $1', [
    run,
    state,
    JSON.stringify(notes),
  ]);

/** Says more of a run that has ended. */
export const tellRun = (store: Store, run: number, notes: readonly RunNote[]) =>
  store.execute('update run set notes = $2 where id = $1', [run, JSON.stringify(notes)]);

/** Writes down what there is to say of a run: of each report, of the steps over all, and of the whole. */
export async function recordRun(
  store: Store,
  run: number,
  reports: readonly RunReport[],
  whole: WholeTold | null,
  notes: readonly RunNote[],
): Promise<void> {
  await store.transaction(async (session) => {
    await session.execute('update run set notes = $2, whole = $3 where id = $1', [
      run,
      JSON.stringify(notes),
      whole && JSON.stringify(whole),
    ]);
    for (const [position, r] of reports.entries())
      await session.execute('insert into run_report (run, report, position, path, period, state, other, parsed, rows, held, misfits, details) values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12)', [
        run, r.report, position, r.path, r.period, r.state, r.of, r.parsed, r.rows, r.held, r.misfits, JSON.stringify({ matches: r.matches, layers: r.layers, problems: r.problems, ...(r.ties ? { ties: r.ties } : {}) } satisfies CarriedTold),
      ]); // prettier-ignore
  });
}

export const runsOf = async (store: Store, pipeline: number, most = 50): Promise<StoredRun[]> =>
  (
    await store.query<RunRow>(`select ${columns} from run where pipeline = $1 order by id desc limit $2`, [
      pipeline,
      most,
    ])
  ).map(runOf);

/** The last run that came to the reports, and said something of each. */
export async function lastTold(store: Store, pipeline: number): Promise<StoredRun | undefined> {
  const [row] = await store.query<RunRow>(
    `select ${columns} from run where pipeline = $1 and exists (select 1 from run_report x where x.run = run.id) order by id desc limit 1`,
    [pipeline],
  );
  return row && runOf(row);
}

export async function runById(store: Store, run: number): Promise<RunFull | undefined> {
  const [row] = await store.query<RunRow>(`select ${columns} from run where id = $1`, [run]);
  if (!row) return undefined;
  const reports = await store.query<
    Omit<RunReport, keyof CarriedTold | 'of'> & { other: string | null; details: string }
  >(
    'select report, path, period, state, other, parsed, rows, held, misfits, details from run_report where run = $1 order by position',
    [run],
  );
  return {
    run: runOf(row),
    reports: reports.map(({ details, other, ...report }) => ({
      ...report,
      of: other,
      ...(JSON.parse(details) as CarriedTold),
    })),
  };
}

/** Runs that a killed process left as running. @returns the pipelines that they belong to */
export async function interruptRuns(store: Store): Promise<number[]> {
  const rows = await store.query<{ pipeline: number }>(
    "update run set state = 'interrupted', ended_at = now(), notes = $1 where state = 'running' returning pipeline",
    [JSON.stringify([{ kind: 'interrupted' } satisfies RunNote])],
  );
  return [...new Set(rows.map((row) => row.pipeline))];
}
