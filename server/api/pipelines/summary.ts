import type { Response } from 'express';
import { stillOpen } from '../../../core/drift/differences';
import { gapsIn } from '../../../core/intake/periods';
import type { Pipeline } from '../../../core/pipeline/document';
import { periodStrip } from '../../../core/runs/period-strip';
import { tiesSentence } from '../../../core/ties/tied';
import type { Need, PipelineFull, PipelineSummary } from '../../contract/answers';
import { tiesIn } from '../../runs/lines';
import { publicationOf } from '../../store/dataset';
import { type StoredPipeline, versionOf } from '../../store/pipelines';
import { totalsOff } from '../../store/published';
import { reportsOf } from '../../store/reports';
import { lastTold, runById, runsOf } from '../../store/runs';
import type { Deps } from '../deps';

/** So many periods of a pipeline are told beside it. */
const mostPeriods = 53;

export async function summary({ store, runs }: Deps, pipeline: StoredPipeline): Promise<PipelineSummary> {
  const [reports, publication, lastRuns] = [
    await reportsOf(store, pipeline.id),
    await publicationOf(store, pipeline.id),
    await runsOf(store, pipeline.id, 12),
  ];
  const last = lastRuns.find((run) => run.state !== 'running');
  // How the reports stand is told by the last run that came to them; one that was cancelled since changes nothing about it.
  const told = lastRuns.find((run) => run.told);
  const detail = told && (await runById(store, told.id));
  const inState = (state: string) => detail?.reports.filter((report) => report.state === state).length ?? 0;
  const misfits = detail?.reports.reduce((sum, report) => sum + report.misfits, 0) ?? 0;
  const differences = told?.notes.flatMap((note) => (note.kind === 'differences' ? note.differences : [])) ?? [];
  const open = stillOpen(differences, pipeline.document.answers, (key) => reports.find(({ id }) => String(id) === key));
  const failing = new Set([
    ...(detail?.reports.flatMap(({ problems }) => problems.flatMap(({ check }) => check ?? [])) ?? []),
    ...(told?.notes.flatMap((note) => (note.kind === 'check' ? [note.check] : [])) ?? []),
  ]);
  const counted: Extract<Need, { count: number }>[] = [
    { kind: 'differs', count: open.length },
    { kind: 'failed', count: inState('failed') },
    { kind: 'held back', count: inState('held back') },
    { kind: 'stale', count: inState('stale') },
    { kind: 'misfits', count: misfits },
    { kind: 'totals off', count: await totalsOff(store, pipeline.id) },
    { kind: 'checks', count: failing.size },
    { kind: 'no report', count: gapsIn(reports, pipeline.document.reports.none).length },
  ];
  return {
    id: pipeline.id,
    name: pipeline.document.name,
    folder: pipeline.folder,
    managed: pipeline.managed,
    viewName: pipeline.viewName,
    reports: reports.filter((report) => report.standing === 'counts').length,
    rows: publication?.rows ?? null,
    lastRuns,
    running: runs.underWay(pipeline.id) ?? null,
    needs: [
      ...(last === undefined ? [{ kind: 'not refreshed' } as const] : []),
      ...(last && (last.state === 'failed' || last.state === 'nothing published')
        ? [{ kind: 'run ended', state: last.state, notes: last.notes } as const]
        : []),
      ...counted.filter(({ count }) => count > 0),
    ],
    periods: periodStrip(reports, detail?.reports ?? [], pipeline.document.reports.none ?? []).slice(-mostPeriods),
    // A run that published nothing tells of rows that are not in the dataset.
    ties:
      publication && (told?.state === 'published' || told?.state === 'nothing new')
        ? tiesSentence(tiesIn(detail?.reports ?? []), detail?.run.whole?.tiedBefore ?? [])
        : '',
  };
}

const full = async (deps: Deps, pipeline: StoredPipeline): Promise<PipelineFull> => ({
  ...(await summary(deps, pipeline)),
  document: pipeline.document,
  version: pipeline.version,
  since: await changedSince(deps, pipeline),
});

/** The document without what the dataset does not depend on, and without what is answered by a press as well. */
const minded = (document: Pipeline) => JSON.stringify({ ...document, views: [], expects: [] });
const worked = ({ reports, ...document }: Pipeline) =>
  minded({ ...document, reports: { ...reports, none: [] }, answers: [], accepted: [], files: [] });

async function changedSince({ store }: Deps, pipeline: StoredPipeline): Promise<PipelineFull['since']> {
  const last = await lastTold(store, pipeline.id);
  if (!last || last.version === pipeline.version) return 'nothing';
  const before = await versionOf(store, pipeline.id, last.version);
  if (!before || minded(before.document) === minded(pipeline.document)) return 'nothing';
  return worked(before.document) === worked(pipeline.document) ? 'answered' : 'edited';
}

export const answerWith = async (deps: Deps, response: Response, pipeline: StoredPipeline): Promise<void> =>
  void response.json(await full(deps, pipeline));
