import { Router, type Response } from 'express';
import { join } from 'node:path';
import { zones } from '../../core/steps/step';
import { placeFiles } from '../../core/intake/file-names';
import { inventory } from '../folder/inventory';
import { OutsideRoots, withinRoots } from '../folder/roots';
import { inParallel } from '../work/in-parallel';
import type { StoredPipeline } from '../store/pipelines';
import { recordFolder, reportsOf, type StoredReport } from '../store/reports';
import type { OrUnreadable, ReportTask } from '../work/thread';
import { errorsQuery, findQuery, layersQuery, sheetQuery, workOutBody, traceQuery, valuesBody, wordQuery, type FindEvent, type IntakeEvent, type ReportsAnswer } from './contract';
import type { Deps } from './deps';
import { checked, Fault } from './fault';
import { pipelineOf } from './pipelines';

/** The answer of a thread, or its sentence why the report cannot be read. */
export function readable<T>(answer: OrUnreadable<T>): T {
  if (typeof answer === 'object' && answer !== null && 'unreadable' in answer) throw new Fault('unreadable', answer.unreadable);
  return answer as T;
}

/** The report of a request's path as the threads want it. */
export async function reportTask(deps: Deps, pipeline: StoredPipeline, id: string): Promise<ReportTask> {
  const report = (await reportsOf(deps.store, pipeline.id)).find((each) => String(each.id) === id);
  if (!report) throw new Fault('not found', `There is no report ${id} in “${pipeline.document.name}”.`);
  return taskOf(deps, pipeline, report);
}

async function taskOf({ cacheFolder, config }: Deps, pipeline: StoredPipeline, report: StoredReport): Promise<ReportTask> {
  if (report.standing === 'gone') throw new Fault('not found', `${report.path} is no longer in the folder.`);
  if (report.standing === 'not a PDF') throw new Fault('unreadable', `${report.path} is not a PDF.`);
  // A link inside the folder must not lead out of the roots.
  const file = await withinRoots(join(pipeline.folder, report.path), pipeline.managed ? [pipeline.folder] : config.roots);
  return { file, sha256: report.sha256, cacheFolder, key: String(report.id), path: report.path };
}

/** Is it an issue of a report, also one that does not count: one that can be looked at? */
const isIssue = ({ standing }: StoredReport): boolean => ['counts', 'replaced', 'undecided', 'set aside'].includes(standing);

/** Answers with server-sent events; what works for them is aborted when the connection is closed. */
function eventsTo<Event>(response: Response) {
  const abort = new AbortController();
  response.on('close', () => abort.abort());
  response.writeHead(200, { 'Content-Type': 'text/event-stream', 'Cache-Control': 'no-store', 'X-Accel-Buffering': 'no' });
  return { abort, send: (event: Event) => void (abort.signal.aborted || response.write(`data: ${JSON.stringify(event)}\n\n`)) };
}

/** Aborts when the asker has gone. */
function whileOpen(response: Response): AbortSignal {
  const abort = new AbortController();
  response.on('close', () => abort.abort());
  return abort.signal;
}

export function reportsRouter(deps: Deps): Router {
  const { store, pool } = deps;
  const router = Router({ mergeParams: true });
  type Path = { id: string; report: string; page: string };
  const asked = async (params: unknown) => {
    const { id, report } = params as Path;
    const pipeline = await pipelineOf(deps, id);
    return { document: JSON.stringify(pipeline.document), source: await reportTask(deps, pipeline, report) };
  };

  /** Looks at the folder anew: which files are there, and what becomes of each. */
  router.get('/', async (request, response) => {
    const pipeline = await pipelineOf(deps, (request.params as Path).id);
    const before = await reportsOf(store, pipeline.id);
    const files = await inventory(pipeline.folder, new Map(before.map((report) => [report.path, report])));
    const reports: ReportsAnswer = await recordFolder(store, pipeline.id, placeFiles(files, pipeline.document.reports));
    response.json(reports);
  });

  /** Reads and carries all reports that count, as server-sent events; closing the connection cancels what is left. */
  router.get('/events', async (request, response) => {
    const pipeline = await pipelineOf(deps, (request.params as Path).id);
    const document = JSON.stringify(pipeline.document);
    const reports = (await reportsOf(store, pipeline.id)).filter((report) => isIssue(report));
    const { abort, send } = eventsTo<IntakeEvent>(response);
    await inParallel(reports, pool.threads, async (report) => {
      if (abort.signal.aborted) return;
      try {
        const source = await taskOf(deps, pipeline, report);
        const summary = await pool.run('summary', { document, source }, { signal: abort.signal, progress: ({ done, total, found }) => send({ kind: 'reading', report: report.id, page: done, pages: total, found }) });
        send({ kind: 'report', report: report.id, summary });
      } catch (error) {
        if (abort.signal.aborted) return;
        deps.log.warn(error);
        send({ kind: 'report', report: report.id, summary: { unreadable: error instanceof Fault || error instanceof OutsideRoots ? error.message : `${report.path} could not be read. The log says why.` } });
      }
    });
    send({ kind: 'done' });
    response.end();
  });

  /** Looks for a text on all pages of all reports that can be read, as server-sent events. */
  router.get('/find', async (request, response) => {
    const { text } = checked(findQuery, request.query, 'The search');
    const pipeline = await pipelineOf(deps, (request.params as Path).id);
    const reports = (await reportsOf(store, pipeline.id)).filter((report) => isIssue(report));
    const { abort, send } = eventsTo<FindEvent>(response);
    await inParallel(reports, pool.threads, async (report) => {
      if (abort.signal.aborted) return;
      try {
        const answer = await pool.run('find', { source: await taskOf(deps, pipeline, report), text }, { signal: abort.signal });
        // A report that cannot be read is named by the intake; it has no text to look through.
        if ('hits' in answer && answer.hits.length > 0) send({ kind: 'hits', report: report.id, hits: answer.hits });
      } catch (error) {
        if (!abort.signal.aborted) deps.log.warn(error);
      }
    });
    send({ kind: 'done' });
    response.end();
  });

  router.get('/:report/tables', async (request, response) => {
    const { source } = await asked(request.params);
    response.json(readable(await pool.run('read', { source })));
  });

  router.get('/:report/file', async (request, response) => {
    const { source } = await asked(request.params);
    response.type('application/pdf').setHeader('ETag', `"${source.sha256}"`);
    response.sendFile(source.file, { dotfiles: 'allow', acceptRanges: true });
  });

  router.get('/:report/pages/:page', async (request, response) => {
    const { source } = await asked(request.params);
    const answer = readable(await pool.run('page', { source, number: Number((request.params as unknown as Path).page) }));
    if (!answer.page) throw new Fault('not found', `${source.path} has no readable page ${(request.params as unknown as Path).page}; it has ${answer.pageCount} pages.`);
    response.json(answer);
  });

  router.get('/:report/sheet', async (request, response) => {
    const query = checked(sheetQuery, request.query, 'The window');
    response.json(readable(await pool.run('look', { ...(await asked(request.params)), ...query }, { signal: whileOpen(response) })));
  });

  /** How the report falls through all layers, for the stack. */
  router.get('/:report/layers', async (request, response) => {
    const query = checked(layersQuery, request.query, 'The pages');
    response.json(readable(await pool.run('layers', { ...(await asked(request.params)), ...query }, { signal: whileOpen(response) })));
  });

  router.get('/:report/errors', async (request, response) => {
    const query = checked(errorsQuery, request.query, 'The step');
    response.json(readable(await pool.run('errors', { ...(await asked(request.params)), ...query }, { signal: whileOpen(response) })));
  });

  /** The different values of some columns above a step, for the lists of its form. */
  router.post('/:report/values', async (request, response) => {
    const body = checked(valuesBody, request.body, 'The columns');
    response.json(readable(await pool.run('values', { ...(await asked(request.params)), ...body }, { signal: whileOpen(response) })));
  });

  /** Works out the types of the columns above a step over the reports named, or over all that count. */
  router.post('/work-out', async (request, response) => {
    const { step, locale, reports: named } = checked(workOutBody, request.body, 'What is to be worked out');
    const pipeline = await pipelineOf(deps, (request.params as Path).id);
    if (!zones.some((zone) => pipeline.document[zone].some((each) => each.id === step))) throw new Fault('not found', `There is no step ${step} in “${pipeline.document.name}”.`);
    const reports = (await reportsOf(store, pipeline.id)).filter((report) => (named ? named.includes(report.id) : report.standing === 'counts'));
    const sources = await Promise.all(reports.map((report) => taskOf(deps, pipeline, report)));
    response.json(await pool.run('workOutColumns', { document: JSON.stringify(pipeline.document), sources, step, locale }));
  });

  router.get('/:report/trace', async (request, response) => {
    const { row, ...query } = checked(traceQuery, request.query, 'The cell');
    response.json(readable(await pool.run('trace', { ...(await asked(request.params)), ...query, ordinal: row }, { signal: whileOpen(response) })));
  });

  router.get('/:report/word', async (request, response) => {
    const query = checked(wordQuery, request.query, 'The word');
    response.json(readable(await pool.run('word', { ...(await asked(request.params)), ...query }, { signal: whileOpen(response) })));
  });
  return router;
}
