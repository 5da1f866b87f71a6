import { Router, raw, type Response } from 'express';
import { cp, mkdir, readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { stillOpen } from '../../core/drift/differences';
import { expectsOf } from '../../core/drift/expects';
import type { ReportTraits } from '../../core/drift/traits';
import { gapsIn } from '../../core/intake/periods';
import { periodStrip } from '../../core/runs/period-strip';
import { tiesSentence } from '../../core/ties/tied';
import { changesBetween } from '../../core/pipeline/changes';
import { documentText, parsePipeline, type Pipeline } from '../../core/pipeline/document';
import { keepDropped, removeDropped } from '../folder/dropped';
import { droppedIn } from '../setup/config';
import { folderWithinRoots, isBelow } from '../folder/roots';
import { tiesIn } from '../runs/lines';
import { publicationOf } from '../store/dataset';
import {
  addPipeline,
  allPipelines,
  ChangedMeanwhile,
  deletePipeline,
  moveToFolder,
  pipelineById,
  savePipeline,
  versionOf,
  versionsOf,
  type StoredPipeline,
} from '../store/pipelines';
import { slug } from '../store/names';
import { storedTraits } from '../store/report-traits';
import { reportsOf } from '../store/reports';
import { lastTold, runById, runsOf } from '../store/runs';
import { publishedParts, totalsOff } from '../store/published';
import type { Need, PipelineFull, PipelineSummary, VersionAnswer } from '../contract/answers';
import { fileQuery, folderBody, newPipelineBody, savedPipelineBody, versionsQuery } from '../contract/contract';
import type { Deps } from './deps';
import { checked, Fault } from './fault';

/** Can it be the number of a pipeline? */
export const isId = (text: string): boolean => /^\d{1,9}$/.test(text);

/** The pipeline of a request's path. */
export async function pipelineOf({ store }: Deps, id: string): Promise<StoredPipeline> {
  const pipeline = isId(id) ? await pipelineById(store, Number(id)) : undefined;
  if (!pipeline) throw new Fault('not found', `There is no pipeline ${id}. It may have been deleted.`);
  return pipeline;
}

/** So many periods of a pipeline are told beside it. */
const mostPeriods = 53;

async function summary({ store, runs }: Deps, pipeline: StoredPipeline): Promise<PipelineSummary> {
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

export function pipelinesRouter(deps: Deps): Router {
  const { store, config } = deps;
  const router = Router();
  const answerWith = async (response: Response, pipeline: StoredPipeline) =>
    void response.json(await full(deps, pipeline));

  router.get('/', async (_request, response) => {
    const all = [];
    for (const pipeline of await allPipelines(store)) all.push(await summary(deps, pipeline));
    response.json(all);
  });

  router.post('/', async (request, response) => {
    const body = checked(newPipelineBody, request.body, 'The new pipeline');
    const document = parsePipeline(body.document);
    const managed = body.folder === undefined;
    const folder = managed
      ? join(droppedIn(config.data), crypto.randomUUID())
      : await folderWithinRoots(body.folder!, config.roots);
    const pipeline = await addPipeline(store, document, folder, { managed, who: config.who ?? '' });
    if (managed) await mkdir(folder, { recursive: true });
    await answerWith(response.status(201), pipeline);
  });

  /** The demo, with reports of its own to try things on. */
  router.post('/demo', async (_request, response) => {
    const beside = fileURLToPath(new URL('../../demo', import.meta.url));
    const text = await readFile(join(beside, 'landing-sheets.sieve.json'), 'utf8').catch(() => {
      throw new Fault(
        'not found',
        'The demo does not lie beside this program. It comes with the source: see the folder “demo” there.',
      );
    });
    const folder = join(droppedIn(config.data), crypto.randomUUID());
    const pipeline = await addPipeline(store, parsePipeline(JSON.parse(text)), folder, {
      managed: true,
      who: config.who ?? '',
    });
    await cp(join(beside, 'landing-sheets'), folder, { recursive: true });
    await answerWith(response.status(201), pipeline);
  });

  router.get('/:id', async (request, response) => {
    await answerWith(response, await pipelineOf(deps, request.params.id));
  });

  /** Saves a new version. `If-Match` names the one that it changes; the second of two tabs is told that there is another since. */
  router.put('/:id', async (request, response) => {
    const pipeline = await pipelineOf(deps, request.params.id);
    const from = /^"(\d{1,9})"$/.exec(request.headers['if-match'] ?? '')?.[1];
    if (from === undefined)
      throw new Fault(
        'version needed',
        'Say which version is changed: If-Match: "5", as `version` of the pipeline has it.',
      );
    const document = parsePipeline(checked(savedPipelineBody, request.body, 'The pipeline').document);
    try {
      const saved = await savePipeline(store, pipeline.id, document, { from: Number(from), who: config.who ?? '' });
      if (saved.document.name !== pipeline.document.name) void deps.sql?.()?.follow();
      await answerWith(response, saved);
    } catch (error) {
      if (!(error instanceof ChangedMeanwhile)) throw error;
      throw new Fault(
        'changed meanwhile',
        `“${pipeline.document.name}” was changed somewhere else since version ${from}: it is at version ${error.now} now. Nothing was saved; look at what is different and save again.`,
      );
    }
  });

  /** The document as a file, with what the reports in the dataset look like, so that the first that come anywhere else are held against it. */
  router.get('/:id/document', async (request, response) => {
    const { id, document } = await pipelineOf(deps, request.params.id);
    const looks = new Map((await storedTraits(store, id)).map((each) => [each.report, each]));
    const inputs = (await publishedParts(store, id)).flatMap((part) => part.inputs);
    const seen = inputs.flatMap(({ report, path, sha256, period = null }) => {
      const own = looks.get(report);
      return own?.sha256 === sha256 ? [{ path, period, traits: JSON.parse(own.traits) as ReportTraits }] : [];
    });
    const expects = seen.length > 0 ? expectsOf(seen) : document.expects;
    const name = `${slug(document.name, 'pipeline')}.sieve.json`;
    response
      .type('application/json')
      .attachment(name)
      .send(documentText({ ...document, ...(expects ? { expects } : {}) }));
  });

  /** The reports are in another folder: those that are there under the same names or with the same content stay the same reports. */
  router.put('/:id/folder', async (request, response) => {
    const pipeline = await pipelineOf(deps, request.params.id);
    if (pipeline.managed)
      throw new Fault(
        'conflict',
        `The files of “${pipeline.document.name}” were dropped; they have a folder of their own.`,
      );
    const { folder } = checked(folderBody, request.body, 'The folder');
    await moveToFolder(store, pipeline.id, await folderWithinRoots(folder, config.roots));
    await answerWith(response, await pipelineOf(deps, request.params.id));
  });

  /** The versions of the document, the last first, each with what it changed. */
  router.get('/:id/versions', async (request, response) => {
    const pipeline = await pipelineOf(deps, request.params.id);
    const { below, count } = checked(versionsQuery, request.query, 'The versions');
    const found = await versionsOf(store, pipeline.id, count + 1, below);
    const published = (await publicationOf(store, pipeline.id))?.version;
    const answer: VersionAnswer[] = found.slice(0, count).map(({ version, document, savedAt, savedBy }, i) => ({
      version,
      savedAt,
      savedBy,
      changes: found[i + 1] ? changesBetween(found[i + 1].document, document) : [],
      same:
        found.slice(i + 2).find((older) => JSON.stringify(older.document) === JSON.stringify(document))?.version ??
        null,
      published: version === published,
    }));
    response.json(answer);
  });

  router.get('/:id/versions/:version', async (request, response) => {
    const pipeline = await pipelineOf(deps, request.params.id);
    const found = /^\d{1,9}$/.test(request.params.version)
      ? await versionOf(store, pipeline.id, Number(request.params.version))
      : undefined;
    if (!found) throw new Fault('not found', `“${pipeline.document.name}” has no version ${request.params.version}.`);
    response.json({ version: found.version, savedAt: found.savedAt, savedBy: found.savedBy, document: found.document });
  });

  router.delete('/:id', async (request, response) => {
    const pipeline = await pipelineOf(deps, request.params.id);
    const running = deps.runs.underWay(pipeline.id);
    if (running) throw new Fault('conflict', `“${pipeline.document.name}” is being refreshed. Cancel the run first.`);
    await deletePipeline(store, pipeline);
    void deps.sql?.()?.follow();
    // Never those of another data folder, of which this one may be a copy.
    if (pipeline.managed && isBelow(pipeline.folder, droppedIn(config.data))) await removeDropped(pipeline.folder);
    response.status(204).end();
  });

  router.post('/:id/files', raw({ type: () => true, limit: `${config.uploadLimit}mb` }), async (request, response) => {
    const pipeline = await pipelineOf(deps, request.params.id);
    if (!pipeline.managed)
      throw new Fault(
        'conflict',
        `Files of “${pipeline.document.name}” come from its folder ${pipeline.folder}. Put them there.`,
      );
    const { name, there } = checked(fileQuery, request.query, 'The file name');
    const bytes = request.body as Buffer;
    if (!Buffer.isBuffer(bytes) || !bytes.subarray(0, 1024).includes('%PDF-'))
      throw new Fault('bad input', `${name} is not a PDF. Only PDF files can be dropped here.`);
    response.status(201).json({ name: await keepDropped(pipeline.folder, name, bytes, there), size: bytes.length });
  });
  return router;
}
