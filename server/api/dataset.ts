import { Router, type Request } from 'express';
import { reconciledWords } from '../../core/checks/reconcile';
import type { Evidence } from '../../core/evidence/evidence';
import { nothingTold, type CarriedTold } from '../../core/pipeline/told';
import { comparedWith } from '../runs/dataset-checks';
import { asPublished, MadeByAnother, NotExplained, publishedRow, type PublishedLook } from '../runs/as-published';
import type { ToldOfWhole } from '../../core/runs/run';
import { soughtFrom } from '../../core/sheet/find-cell';
import { formatFacts, formats } from '../../core/dataset/file-options';
import { conditionFrom, isEverything, NoSelection, orderFrom, type Selection } from '../../core/dataset/selection';
import * as v from 'valibot';
import { shows, summaryAsked } from '../../core/dataset/summary';
import { summaryGroups } from '../store/summary';
import type { ColumnCard } from '../../core/dataset/column-card';
import { columnCard } from '../store/column-card';
import { publicationOf, rowsAt, type Publication } from '../store/dataset';
import { publishedFind, publishedMeasure } from '../store/published-cells';
import { buildWords, thisBuild } from '../setup/build';
import type { StoredPipeline } from '../store/pipelines';
import { keptTotals, publishedParts } from '../store/published';
import type {
  DatasetAnswer,
  DatasetTrace,
  PublishedAnswer,
  ReconciledAnswer,
  SelectedAnswer,
} from '../contract/answers';
import {
  columnCardQuery,
  datasetTraceQuery,
  evidenceQuery,
  reconcileQuery,
  totalEvidenceQuery,
  publishedFindBody,
  publishedMeasureBody,
  selectionQuery,
  windowQuery,
} from '../contract/contract';
import { sendDataset } from './dataset-files';
import type { Downloads } from './downloads';
import type { Deps } from './deps';
import { checked, Fault, readable } from './fault';
import { addLooks, whileOpen } from './looks';
import { isId, pipelineOf } from './pipelines';
import { fileOf } from './reports';

/** So many differences from a list are told one by one. */
const mostUnlike = 500;

export function datasetRouter(deps: Deps, downloads: Downloads): Router {
  const { store, pool, runs, selections, cacheFolder } = deps;
  const router = Router({ mergeParams: true });
  const pipelineIn = (params: unknown) => pipelineOf(deps, (params as { id: string }).id);
  const none = (pipeline: StoredPipeline) =>
    new Fault('not found', `“${pipeline.document.name}” has no published dataset yet. Run a refresh first.`);

  /** What is asked of the published rows in several pieces: they stay until all have come. */
  async function ofPublished<Answer>(
    pipeline: StoredPipeline,
    work: (publication: Publication) => Promise<Answer>,
  ): Promise<Answer> {
    const publication = await publicationOf(store, pipeline.id);
    if (!publication) throw none(pipeline);
    let answer: Answer;
    await runs.reading(publication.id, async () => {
      answer = await work(publication);
    });
    return answer!;
  }

  /** The look at a report with what it was published with. */
  async function lookAt(pipeline: StoredPipeline, report: number): Promise<PublishedLook> {
    const look = await asPublished(
      { store, cacheFolder, fileOf: (path) => fileOf(deps, pipeline, path) },
      pipeline,
      report,
    ).catch((error: Error) => {
      throw error instanceof NotExplained || error instanceof MadeByAnother
        ? new Fault('conflict', error.message)
        : error;
    });
    if (!look)
      throw new Fault('not found', `There is no report ${report} in the dataset of “${pipeline.document.name}”.`);
    return look;
  }

  router.get('/dataset', async (request, response) => {
    const { start, count } = checked(windowQuery, request.query, 'The window');
    // The common case is asked for first: pages are turned faster than anything else is done.
    const { id: asked } = request.params as { id: string };
    const found = isId(asked) ? await deps.windows.window(Number(asked), start, count) : undefined;
    if (!found) throw none(await pipelineIn(request.params));
    const { id, publishedAt, version, rows, misfits, columns } = found.publication;
    response.json({
      publication: id,
      publishedAt,
      version: version ?? 0,
      rows,
      misfits,
      columns,
      start,
      window: found.rows,
    } satisfies DatasetAnswer);
  });

  const selectionIn = (
    publication: Publication,
    { where, order }: { readonly where: readonly string[]; readonly order: string },
  ): Selection => {
    const headings = publication.columns.map(({ heading }) => heading);
    return { where: where.map((text) => conditionFrom(text, headings)), order: orderFrom(order, headings) };
  };
  /** What cannot be selected is the asker's fault, told in a sentence. */
  const selecting = <Answer>(work: Promise<Answer>): Promise<Answer> =>
    work.catch((error: Error) => {
      throw error instanceof NoSelection ? new Fault('bad input', error.message) : error;
    });

  /** Rows of the dataset that meet conditions, in an order, by windows. */
  router.get('/dataset/selected', async (request, response) => {
    const { start, count, ...asked } = checked(selectionQuery, request.query, 'The rows');
    const pipeline = await pipelineIn(request.params);
    const answer = await selecting(
      ofPublished(pipeline, async (publication): Promise<SelectedAnswer> => {
        const places = await selections.placesOf(publication, selectionIn(publication, asked));
        const window = await store.transaction((session) =>
          rowsAt(session, publication, places.subarray(start, start + count)),
        );
        return { publication: publication.id, rows: places.length, start, window };
      }),
    );
    response.json(answer);
  });

  /** What some published cells hold together, and where a text stands in them. */
  router.post('/dataset/measure', async (request, response) => {
    const { ranges, ...asked } = checked(publishedMeasureBody, request.body, 'The cells');
    const pipeline = await pipelineIn(request.params);
    response.json(
      await selecting(
        ofPublished(pipeline, async (publication) => {
          const selection = selectionIn(publication, asked);
          return isEverything(selection)
            ? publishedMeasure(store, publication, ranges)
            : selections.measure(publication, selection, ranges);
        }),
      ),
    );
  });
  router.post('/dataset/find-cell', async (request, response) => {
    const { text, back, where, order, ...from } = checked(publishedFindBody, request.body, 'The search');
    const pipeline = await pipelineIn(request.params);
    response.json(
      await selecting(
        ofPublished(pipeline, async (publication) => {
          const selection = selectionIn(publication, { where, order });
          return isEverything(selection)
            ? publishedFind(store, publication, soughtFrom(text), from, back)
            : selections.find(publication, selection, soughtFrom(text), from, back);
        }),
      ),
    );
  });

  /** The dataset summed up by some of its columns. */
  router.post('/dataset/summary', async (request, response) => {
    const asked = checked(summaryAsked, request.body, 'The summary');
    const pipeline = await pipelineIn(request.params);
    const groups = await selecting(
      ofPublished(pipeline, async (publication) =>
        summaryGroups(store, publication, asked, selectionIn(publication, { where: asked.where, order: '' }).where),
      ),
    );
    response.json(groups);
  });

  /** The same as a workbook. */
  router.post('/dataset/summary.xlsx', async (request, response) => {
    const { show, ...asked } = checked(
      v.object({ ...summaryAsked.entries, show: v.optional(v.picklist(shows), 'values') }),
      request.body,
      'The summary',
    );
    const pipeline = await pipelineIn(request.params);
    const bytes = await selecting(
      ofPublished(pipeline, async (publication) =>
        (await import('../export/summary-xlsx')).summaryWorkbook(
          pipeline.document.name,
          publication,
          asked,
          show,
          await summaryGroups(
            store,
            publication,
            asked,
            selectionIn(publication, { where: asked.where, order: '' }).where,
          ),
        ),
      ),
    );
    response.attachment(`${pipeline.viewName}_summary.xlsx`).send(Buffer.from(bytes));
  });

  /** What one column holds, at a glance. */
  router.get('/dataset/column', async (request, response) => {
    const { column: heading, values } = checked(columnCardQuery, request.query, 'The column');
    const pipeline = await pipelineIn(request.params);
    const card = await ofPublished(pipeline, async (publication): Promise<ColumnCard> => {
      const column = publication.columns.find((each) => each.heading === heading);
      if (!column) throw new Fault('not found', `The dataset has no column “${heading}”.`);
      return columnCard(store, publication, column, values);
    });
    response.json(card);
  });

  /** The dataset as a file, for whoever works on the pipeline; other programs have it under its name. */
  router.get('/dataset.:extension', async (request, response) => {
    const { extension } = request.params;
    const format = formats.find((each) => formatFacts[each].extension === extension);
    if (!format) throw new Fault('not found', `A dataset is had as ${formats.join(', ')}, not as “${extension}”.`);
    await sendDataset(deps, await pipelineIn(request.params), format, request, response, downloads);
  });

  /** From a row (counted from 0) and heading of the published dataset to the words on paper, by the document that published it. */
  router.get('/dataset/trace', async (request, response) => {
    const { row: at = 0, column } = checked(datasetTraceQuery, request.query, 'The cell');
    const pipeline = await pipelineIn(request.params);
    const found = await publishedRow(store, pipeline.id, at);
    if (!found) {
      const publication = await publicationOf(store, pipeline.id);
      throw publication
        ? new Fault('not found', `The dataset has ${publication.rows} rows; there is no row ${at + 1}.`)
        : none(pipeline);
    }
    const { publication, row, named } = found;
    if (!publication.columns.some((each) => each.heading === column))
      throw new Fault('not found', `The dataset has no column “${column}”.`);
    const { version, steps: _, ...look } = await lookAt(pipeline, row.report);
    const traced = readable(
      await pool.look('trace', { ...look, of: 'sheet', row: named, column }, { signal: whileOpen(response) }),
    );
    response.json({
      report: row.report,
      file: look.source.path,
      version,
      build: buildWords(thisBuild),
      ...traced,
    } satisfies DatasetTrace);
  });

  const evidenceOf = (
    pipeline: StoredPipeline,
    publication: Publication,
    look: PublishedLook,
  ): Pick<Evidence, 'format' | 'version' | 'pipeline' | 'publishedAt' | 'reader' | 'file'> => ({
    format: 'able-sieve/evidence',
    version: 1,
    pipeline: { name: pipeline.document.name, version: look.version, document: JSON.parse(look.document) as unknown },
    publishedAt: publication.publishedAt,
    reader: look.source.reading ?? '',
    file: { path: look.source.path, sha256: look.source.sha256, period: look.source.period ?? null },
  });

  /** The published dataset beside the list that a check compares it with. */
  router.get('/dataset/reconciled', async (request, response) => {
    const { check: id } = checked(reconcileQuery, request.query, 'The check');
    const pipeline = await pipelineIn(request.params);
    const check = pipeline.document.checks.find((each) => each.id === id);
    if (check?.kind !== 'agrees with')
      throw new Fault('not found', `“${pipeline.document.name}” compares the dataset with no list under “${id}”.`);
    const answer = await ofPublished(pipeline, async (): Promise<ReconciledAnswer> => {
      const parts = (await publishedParts(store, pipeline.id)).map((part) => part.id);
      const compared = await comparedWith(
        { store, cacheFolder, reading: (publication, work) => runs.reading(publication, work) },
        pipeline.id,
        check,
        parts,
      );
      if (typeof compared === 'string') return { because: compared, same: 0, unlike: [], more: 0 };
      const { same, unlike, lacks } = compared;
      return {
        same,
        unlike: unlike.slice(0, mostUnlike),
        more: Math.max(0, unlike.length - mostUnlike),
        ...(lacks.length > 0 ? { because: reconciledWords(compared)! } : {}),
      };
    });
    response.json(answer);
  });

  /** The evidence of a published cell, for a slip. */
  router.get('/dataset/evidence', async (request, response) => {
    const { row: at, column } = checked(evidenceQuery, request.query, 'The cell');
    const pipeline = await pipelineIn(request.params);
    const found = await publishedRow(store, pipeline.id, at);
    if (!found?.publication.columns.some(({ heading }) => heading === column))
      throw new Fault('not found', `The dataset has no row ${at + 1} with a column “${column}”.`);
    const look = await lookAt(pipeline, found.row.report);
    const { version: _, steps: __, ...task } = look;
    const { text, beside, ...own } = readable(
      await pool.look('evidence', { ...task, row: found.named, column }, { signal: whileOpen(response) }),
    );
    response.json({
      ...evidenceOf(pipeline, found.publication, look),
      figure: { kind: 'cell', column, text, row: found.named, beside },
      ...own,
    } satisfies Evidence);
  });

  /** The evidence of a printed total and of the rows that it covers. */
  router.get('/dataset/evidence/total', async (request, response) => {
    const { report, ...place } = checked(totalEvidenceQuery, request.query, 'The total');
    const pipeline = await pipelineIn(request.params);
    const publication = await publicationOf(store, pipeline.id);
    if (!publication) throw none(pipeline);
    const look = await lookAt(pipeline, report);
    const kept = (await keptTotals(store, pipeline.id)).find(
      ({ step, row }) =>
        step === place.step &&
        row.report === String(report) &&
        row.table === place.table &&
        row.ordinal === place.ordinal,
    );
    const tie = kept?.ties.find(({ column }) => column === place.column);
    if (!kept || !tie) throw new Fault('not found', `The dataset keeps no printed total of “${place.column}” there.`);
    const { version: _, steps: __, ...task } = look;
    const traced = readable(await pool.look('total', { ...task, ...place }, { signal: whileOpen(response) }));
    const told = { ...tie, step: kept.step, page: kept.page };
    response.json({
      ...evidenceOf(pipeline, publication, look),
      figure: {
        kind: 'total',
        row: { table: place.table, ordinal: place.ordinal },
        tie: told,
        covers: traced.rows.map(({ label, amount, page }) => ({ label, amount, page })),
        more: traced.more,
      },
      print: traced.places.map(({ page, box, words }) => ({
        page,
        box: [...box],
        words: words.map((word) => ({ text: word.text, box: [...word.box] })),
      })),
      passed: [],
      held: [],
      corrections: [],
      ties: [told],
    } satisfies Evidence);
  });

  /** What the published rows were made of: versions, files, what was held and what needs a look, and the printed totals. */
  router.get('/dataset/made-of', async (request, response) => {
    const pipeline = await pipelineIn(request.params);
    const publication = await publicationOf(store, pipeline.id);
    if (!publication) throw none(pipeline);
    const parts = await publishedParts(store, pipeline.id);
    const whole = parts.find((part) => part.report === null);
    const told = whole && (JSON.parse(whole.told) as ToldOfWhole);
    const answer: PublishedAnswer = {
      version: publication.version ?? 0,
      whole: told?.whole ?? null,
      totals: await keptTotals(store, pipeline.id),
      reports: parts.flatMap((part) =>
        part.inputs.map((input) => {
          const own =
            part.report === null
              ? (told?.reports[String(input.report)] ?? { ...nothingTold, rows: 0, held: 0, misfits: 0 })
              : { ...(JSON.parse(part.told) as CarriedTold), rows: part.rows, held: part.held, misfits: part.misfits };
          return { ...own, ...input, stale: part.stale, version: part.version ?? 0 };
        }),
      ),
    };
    response.json(answer);
  });

  const looks = Router({ mergeParams: true });
  addLooks(looks, pool, async (request: Request) => {
    const { version: _, ...look } = await lookAt(
      await pipelineIn(request.params),
      Number((request.params as { report: string }).report),
    );
    return look;
  });
  router.use('/dataset/reports', looks);
  return router;
}
