import type { RequestHandler } from 'express';
import type { Evidence } from '../../../core/evidence/evidence';
import { evidenceQuery, totalEvidenceQuery } from '../../contract/contract';
import { publishedRow, type PublishedLook } from '../../runs/as-published';
import { publicationOf, type Publication } from '../../store/dataset';
import type { StoredPipeline } from '../../store/pipelines';
import { keptTotals } from '../../store/published';
import { Fault, checked, readable } from '../fault';
import { whileOpen } from '../looks';
import { noDataset, type Published } from './published';

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

/** The evidence of a published cell, for a slip. */
export function cellEvidence(datasets: Published): RequestHandler {
  const { store, pool } = datasets.deps;
  return async (request, response) => {
    const { row: at, column } = checked(evidenceQuery, request.query, 'The cell');
    const pipeline = await datasets.pipelineIn(request.params);
    const found = await publishedRow(store, pipeline.id, at);
    if (!found?.publication.columns.some(({ heading }) => heading === column))
      throw new Fault('not found', `The dataset has no row ${at + 1} with a column “${column}”.`);
    const look = await datasets.lookAt(pipeline, found.row.report);
    const { version: _, steps: __, ...task } = look;
    const { text, beside, ...own } = readable(
      await pool.look('evidence', { ...task, row: found.named, column }, { signal: whileOpen(response) }),
    );
    response.json({
      ...evidenceOf(pipeline, found.publication, look),
      figure: { kind: 'cell', column, text, row: found.named, beside },
      ...own,
    } satisfies Evidence);
  };
}

/** The evidence of a printed total and of the rows that it covers. */
export function totalEvidence(datasets: Published): RequestHandler {
  const { store, pool } = datasets.deps;
  return async (request, response) => {
    const { report, ...place } = checked(totalEvidenceQuery, request.query, 'The total');
    const pipeline = await datasets.pipelineIn(request.params);
    const publication = await publicationOf(store, pipeline.id);
    if (!publication) throw noDataset(pipeline);
    const look = await datasets.lookAt(pipeline, report);
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
  };
}
