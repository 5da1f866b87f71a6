import type { Store } from './store';

export type RunState = 'running' | 'published' | 'nothing new' | 'nothing published' | 'failed' | 'cancelled' | 'interrupted';

export interface StoredRun {
  readonly id: number;
  readonly pipeline: number;
  readonly startedAt: string;
  readonly endedAt: string | null;
  readonly state: RunState;
  readonly rows: number | null;
  readonly message: string | null;
}

/** What became of one report in a run. */
export interface RunReport {
  readonly report: number;
  readonly path: string;
  readonly period: string | null;
  readonly state: 'added' | 'changed' | 'unchanged' | 'stale' | 'failed' | 'replaced' | 'a copy' | 'set aside' | 'not a PDF' | 'removed';
  readonly parsed: boolean;
  readonly rows: number;
  readonly held: number;
  readonly misfits: number;
  readonly details: RunDetails;
}

export interface RunDetails {
  readonly matches: readonly { rule: string; table: string; pages: readonly number[]; sure: number; rival?: string; lacks?: readonly string[] }[];
  readonly layers: readonly { id: string; zone: string; title: string; rowsIn: number; rows: number; held: number; problems: number }[];
  /** Sentences for the analyst. */
  readonly problems: readonly string[];
}

interface RunRow {
  id: number;
  pipeline: number;
  started_at: string;
  ended_at: string | null;
  state: RunState;
  rows: string | null;
  message: string | null;
}

const runOf = (row: RunRow): StoredRun => ({
  id: row.id,
  pipeline: row.pipeline,
  startedAt: row.started_at,
  endedAt: row.ended_at,
  state: row.state,
  rows: row.rows === null ? null : Number(row.rows),
  message: row.message,
});
const columns = 'id, pipeline, started_at, ended_at, state, rows, message';

export async function startRun(store: Store, pipeline: number): Promise<number> {
  const [{ id }] = await store.query<{ id: number }>("insert into run (pipeline, state) values ($1, 'running') returning id", [pipeline]);
  return id;
}

/** Ends a run that published nothing; `publish` ends the others within its switch. */
export const endRun = (store: Store, run: number, state: RunState, message: string | null) =>
  store.execute('update run set state = $2, ended_at = now(), message = $3 where id = $1', [run, state, message]);

export const noteRun = (store: Store, run: number, message: string) => store.execute('update run set message = $2 where id = $1', [run, message]);

export async function recordReports(store: Store, run: number, reports: readonly RunReport[]): Promise<void> {
  await store.transaction(async (session) => {
    for (const [position, r] of reports.entries())
      await session.execute('insert into run_report (run, report, position, path, period, state, parsed, rows, held, misfits, details) values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11)', [
        run, r.report, position, r.path, r.period, r.state, r.parsed, r.rows, r.held, r.misfits, JSON.stringify(r.details),
      ]); // prettier-ignore
  });
}

export const runsOf = async (store: Store, pipeline: number, most = 50): Promise<StoredRun[]> =>
  (await store.query<RunRow>(`select ${columns} from run where pipeline = $1 order by id desc limit $2`, [pipeline, most])).map(runOf);

export async function runById(store: Store, run: number): Promise<{ run: StoredRun; reports: RunReport[] } | undefined> {
  const [row] = await store.query<RunRow>(`select ${columns} from run where id = $1`, [run]);
  if (!row) return undefined;
  const reports = await store.query<Omit<RunReport, 'details'> & { details: string }>(
    'select report, path, period, state, parsed, rows, held, misfits, details from run_report where run = $1 order by position',
    [run],
  );
  return { run: runOf(row), reports: reports.map((report) => ({ ...report, details: JSON.parse(report.details) as RunDetails })) };
}

/** Runs that a killed process left as running. @returns the pipelines that they belong to */
export async function interruptRuns(store: Store): Promise<number[]> {
  const rows = await store.query<{ pipeline: number }>(
    "update run set state = 'interrupted', ended_at = now(), message = 'The program ended while this run was under way; the dataset before it stays published.' where state = 'running' returning pipeline",
  );
  return [...new Set(rows.map((row) => row.pipeline))];
}
