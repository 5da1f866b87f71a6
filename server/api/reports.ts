import { Router } from 'express';
import { proposedChecks } from '../../core/checks/propose';
import { join } from 'node:path';
import { OutsideRoots, withinRoots } from '../folder/roots';
import { boundDocument } from '../lists/bind';
import { lookAtFolder } from '../runs/look-at-folder';
import { reportsOf } from '../store/reports';
import type { StoredPipeline } from '../store/pipelines';
import { inParallel } from '../work/in-parallel';
import type { ReportTask } from '../work/session';
import type { FindEvent, IntakeEvent, StoredReport } from '../contract/answers';
import { findQuery, workOutBody } from '../contract/contract';
import type { Deps } from './deps';
import { eventsTo } from './events';
import { checked, Fault, readable } from './fault';
import { addLooks, knownLayer, whileOpen } from './looks';
import { pipelineOf } from './pipelines';

/** The file of a report, if it is there: a link inside the folder must not lead out of the roots. @throws OutsideRoots */
export const fileOf = ({ config }: Deps, pipeline: StoredPipeline, path: string): Promise<string> =>
  withinRoots(join(pipeline.folder, path), pipeline.managed ? [pipeline.folder] : config.roots);

async function taskOf(
  deps: Deps,
  pipeline: StoredPipeline,
  { id, path, sha256, period, standing, standingOf }: StoredReport,
): Promise<ReportTask> {
  if (standing === 'gone') throw new Fault('not found', `${path} is no longer in the folder.`);
  if (standing === 'not a PDF') throw new Fault('unreadable', `${path} is not a PDF.`);
  if (standing === 'not readable' || standing === 'left out')
    throw new Fault('unreadable', `${path} cannot be read: ${standingOf ?? standing}.`);
  return {
    file: await fileOf(deps, pipeline, path),
    sha256,
    cacheFolder: deps.cacheFolder,
    key: String(id),
    path,
    period,
  };
}

/** Is it an issue of a report, also one that does not count: one that can be looked at? */
const isIssue = ({ standing }: StoredReport): boolean =>
  ['counts', 'replaced', 'undecided', 'set aside'].includes(standing);

/** Steps are proposed from at most so many reports: more say nothing new, and take as much longer. */
const mostLookedAt = 40;

export function reportsRouter(deps: Deps): Router {
  const { store, pool } = deps;
  const router = Router({ mergeParams: true });
  type Path = { id: string; report: string; page: string };
  const pipelineIn = (params: unknown) => pipelineOf(deps, (params as Path).id);
  /** The document as threads are given it: with the lists that it looks into now. */
  const documentOf = async (pipeline: StoredPipeline) =>
    JSON.stringify(
      (
        await boundDocument(
          {
            store,
            cacheFolder: deps.cacheFolder,
            reading: (publication, work) => deps.runs.reading(publication, work),
          },
          pipeline,
        )
      ).document,
    );
  const asked = async (params: unknown) => {
    const pipeline = await pipelineIn(params);
    const { report: id } = params as Path;
    const report = (await reportsOf(store, pipeline.id)).find((each) => String(each.id) === id);
    if (!report) throw new Fault('not found', `There is no report ${id} in “${pipeline.document.name}”.`);
    return {
      steps: pipeline.document,
      document: await documentOf(pipeline),
      source: await taskOf(deps, pipeline, report),
    };
  };

  router.get('/', async (request, response) => {
    response.json(await reportsOf(store, (await pipelineIn(request.params)).id));
  });

  /** Looks at the folder anew: which files are there, and what becomes of each. */
  router.post('/', async (request, response) => {
    response.json(
      await lookAtFolder(store, pool, await pipelineIn(request.params), deps.cacheFolder, {
        roots: deps.config.roots,
        signal: whileOpen(response),
      }),
    );
  });

  /** Reads and carries all reports that can be looked at, as server-sent events; closing the connection cancels what is left. */
  router.get('/events', async (request, response) => {
    const pipeline = await pipelineIn(request.params);
    const document = await documentOf(pipeline);
    const reports = (await reportsOf(store, pipeline.id)).filter(isIssue);
    const { signal, send, end } = eventsTo<IntakeEvent>(response);
    await inParallel(reports, pool.threads, async (report) => {
      if (signal.aborted) return;
      try {
        const source = await taskOf(deps, pipeline, report);
        const summary = await pool.run(
          'summary',
          { document, source },
          {
            signal,
            progress: ({ done, total, found }) =>
              send({ kind: 'reading', report: report.id, page: done, pages: total, found }),
          },
        );
        send({ kind: 'report', report: report.id, summary });
      } catch (error) {
        if (signal.aborted) return;
        deps.log.warn(error);
        const came =
          error instanceof Fault || error instanceof OutsideRoots
            ? error.message
            : 'a fault of the reader; the log says which';
        send({
          kind: 'report',
          report: report.id,
          summary: {
            unreadable: {
              kind: 'not read',
              report: report.path,
              expected: 'a file that can be read',
              came,
              remedy: 'The other reports are not touched by it.',
            },
          },
        });
      }
    });
    send({ kind: 'done' });
    end();
  });

  /** Looks for a text on all pages of all reports that can be read, as server-sent events. */
  router.get('/find', async (request, response) => {
    const { text } = checked(findQuery, request.query, 'The search');
    const pipeline = await pipelineIn(request.params);
    const reports = (await reportsOf(store, pipeline.id)).filter(isIssue);
    const { signal, send, end } = eventsTo<FindEvent>(response);
    await inParallel(reports, pool.threads, async (report) => {
      if (signal.aborted) return;
      try {
        const answer = await pool.run('find', { source: await taskOf(deps, pipeline, report), text }, { signal });
        // A report that cannot be read is named by the intake; it has no text to look through.
        if ('hits' in answer && answer.hits.length > 0) send({ kind: 'hits', report: report.id, hits: answer.hits });
      } catch (error) {
        if (!signal.aborted) deps.log.warn(error);
      }
    });
    send({ kind: 'done' });
    end();
  });

  router.get('/:report/tables', async (request, response) => {
    const { source } = await asked(request.params);
    response.json(readable(await pool.run('read', { source })));
  });

  router.get('/:report/file', async (request, response) => {
    const { source } = await asked(request.params);
    response.type('application/pdf').setHeader('ETag', `"${source.sha256}"`);
    response.sendFile(source.file!, { dotfiles: 'allow', acceptRanges: true });
  });

  router.get('/:report/pages/:page', async (request, response) => {
    const { source } = await asked(request.params);
    const { page: number } = request.params as unknown as Path;
    const answer = readable(await pool.run('page', { source, number: Number(number) }));
    if (!answer.page)
      throw new Fault('not found', `${source.path} has no readable page ${number}; it has ${answer.pageCount} pages.`);
    response.json(answer);
  });

  /** Works out the types of the columns above a step over the reports named, or over all that count. */
  router.post('/work-out', async (request, response) => {
    const { step, locale, reports: named } = checked(workOutBody, request.body, 'What is to be worked out');
    const pipeline = await pipelineIn(request.params);
    knownLayer(pipeline.document, step);
    const reports = (await reportsOf(store, pipeline.id)).filter((report) =>
      named ? named.includes(report.id) : report.standing === 'counts',
    );
    const sources = await Promise.all(reports.map((report) => taskOf(deps, pipeline, report)));
    response.json(await pool.run('workOut', { document: await documentOf(pipeline), sources, step, locale }));
  });

  /** Steps proposed from what the reports print: from all that count, or from so many of them, spread over all. */
  router.get('/proposals', async (request, response) => {
    const pipeline = await pipelineIn(request.params);
    const counting = (await reportsOf(store, pipeline.id)).filter(({ standing }) => standing === 'counts');
    const each = Math.max(1, Math.ceil(counting.length / mostLookedAt));
    const sources = await Promise.all(
      counting.filter((_, i) => i % each === 0).map((report) => taskOf(deps, pipeline, report)),
    );
    const signal = whileOpen(response);
    response.json(await pool.run('propose', { document: await documentOf(pipeline), sources }, { signal }));
  });

  /** Checks that hold in all reports so far, and are not there yet. */
  router.get('/checks', async (request, response) => {
    const pipeline = await pipelineIn(request.params);
    const document = await documentOf(pipeline);
    const reports = (await reportsOf(store, pipeline.id)).filter(({ standing }) => standing === 'counts');
    const signal = whileOpen(response);
    const facts = await inParallel(reports, pool.threads, async (report) => {
      const answer = await pool
        .run('facts', { document, source: await taskOf(deps, pipeline, report) }, { signal })
        .catch((error: Error) => {
          if (!signal.aborted) deps.log.warn(error);
          return undefined;
        });
      return answer && 'facts' in answer ? [answer.facts] : [];
    });
    response.json(proposedChecks(facts.flat(), pipeline.document.checks));
  });

  addLooks(router, pool, (request) => asked(request.params));
  return router;
}
