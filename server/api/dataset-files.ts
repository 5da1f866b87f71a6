// The published dataset as files: what is asked for in the address, and how it is sent.
import type { Request, Response } from 'express';
import { createHash } from 'node:crypto';
import { Readable } from 'node:stream';
import { pipeline as stream } from 'node:stream/promises';
import * as v from 'valibot';
import {
  columnsFrom,
  conditionFrom,
  isEverything,
  NoSelection,
  orderFrom,
  type Selection,
} from '../../core/dataset/selection';
import { csvDialect, formatFacts, type Format } from '../../core/dataset/file-options';
import { datasetFile } from '../export/dataset-file';
import { publicationOf, type Publication } from '../store/dataset';
import type { StoredPipeline } from '../store/pipelines';
import type { Deps } from './deps';
import type { Downloads } from './downloads';
import { checked, Fault } from './fault';
import { nextPage, queryAddress } from './query-address';

const several = v.optional(
  v.union([
    v.pipe(
      v.string(),
      v.transform((one) => [one]),
    ),
    v.array(v.string()),
  ]),
  [],
);
const fileQuery = v.object({
  columns: v.optional(v.string()),
  where: several,
  order: v.optional(v.string(), ''),
  limit: v.optional(
    v.pipe(v.string(), v.regex(/^[1-9]\d{0,5}$/, 'A page has from 1 to 999999 rows.'), v.transform(Number)),
  ),
  after: v.optional(
    v.pipe(v.string(), v.regex(/^[\w-]{1,80}\.\d{1,10}$/, 'Take the address of the next page as it was given.')),
  ),
});

/** What an address asks of the dataset. */
export function askedOf(query: unknown, publication: Publication) {
  const { columns, where, order, limit, after } = checked(fileQuery, query, 'The address');
  const headings = publication.columns.map(({ heading }) => heading);
  const selection: Selection = {
    where: where.map((text) => conditionFrom(text, headings)),
    order: orderFrom(order, headings),
  };
  const identifiers =
    columns === undefined
      ? undefined
      : columnsFrom(columns, headings).map(
          (heading) => publication.columns.find((column) => column.heading === heading)!.identifier,
        );
  const from = after === undefined ? 0 : Number(after.split('.').at(-1));
  if (after !== undefined && after.slice(0, after.lastIndexOf('.')) !== publication.token)
    throw new Fault(
      'changed meanwhile',
      'The dataset was published anew since the first page was asked for: begin again, so that no row comes twice or not at all.',
    );
  return { selection, columns: identifiers, limit, from };
}

/** Does whoever asks have it already? A tag goes before a date (RFC 9110, 13.2.2). */
function isKnown({ headers }: Request, etag: string, published: Date): boolean {
  const tags = headers['if-none-match'];
  if (tags !== undefined) return tags.split(/\s*,\s*/).some((tag) => tag === '*' || tag.replace(/^W\//, '') === etag);
  const since = Date.parse(headers['if-modified-since'] ?? '');
  return !Number.isNaN(since) && Math.floor(published.getTime() / 1000) * 1000 <= since;
}

/**
 * Sends the published dataset as a file; conditional requests are answered by its publication.
 * @param downloads where it can be asked how far the file is, if the address has a ticket
 */
export async function sendDataset(
  { store, runs, selections }: Deps,
  pipeline: StoredPipeline,
  format: Format,
  request: Request,
  response: Response,
  downloads?: Downloads,
): Promise<void> {
  const publication = await publicationOf(store, pipeline.id);
  if (!publication)
    throw new Fault('not found', `“${pipeline.document.name}” has no published dataset yet. Run a refresh first.`);
  const { key: _, ticket, ...query } = request.query;
  const dialect = checked(csvDialect, query, 'How the file is written');
  try {
    const { selection, columns, limit, from } = askedOf(query, publication);
    const address = queryAddress(query);
    const etag = `"${publication.token}${address.size === 0 ? '' : `-${createHash('sha256').update(address.toString()).digest('hex').slice(0, 12)}`}-${format}"`;
    const published = new Date(publication.publishedAt);
    response
      .setHeader('ETag', etag)
      .setHeader('Last-Modified', published.toUTCString())
      .setHeader('Cache-Control', 'no-cache')
      .setHeader('X-Misfits', String(publication.misfits));
    if (isKnown(request, etag, published)) return void response.status(304).end();
    await runs.reading(publication.id, async () => {
      const selected = isEverything(selection) ? undefined : await selections.placesOf(publication, selection);
      const all = selected?.length ?? publication.rows;
      const to = Math.min(all, limit === undefined ? all : from + limit);
      const places =
        limit === undefined
          ? selected
          : (selected?.subarray(from, to) ??
            Uint32Array.from({ length: Math.max(0, to - from) }, (_, at) => from + at));
      if (to < all) {
        const { ticket: _, ...asked } = request.query;
        const next = nextPage(asked, 'after', `${publication.token}.${to}`);
        response.setHeader('Link', `<${request.baseUrl}${request.path}?${next}>; rel="next"`);
      }
      const { type, extension } = formatFacts[format];
      const rows = places?.length ?? publication.rows;
      response.type(type).setHeader('X-Rows', String(rows));
      response.attachment(`${pipeline.viewName}.${extension}`);
      if (request.method === 'HEAD') return void response.end();
      const taken = typeof ticket === 'string' ? downloads?.begin(ticket, rows, response) : undefined;
      await stream(
        Readable.from(datasetFile(store, pipeline, publication, { format, dialect, columns, places, taken })),
        response,
      ).catch((error: NodeJS.ErrnoException) => {
        // Who asked has gone.
        if (error.code !== 'ERR_STREAM_PREMATURE_CLOSE') throw error;
      });
    });
  } catch (error) {
    throw error instanceof NoSelection ? new Fault('bad input', error.message) : error;
  }
}
