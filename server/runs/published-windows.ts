import type { DatasetRow } from '../contract/answers';
import { Recent } from '../work/recent';
import { dataTableOf } from '../store/data-table';
import {
  inDataset,
  ordinalsAt,
  partRows,
  publicationOf,
  stretchesOf,
  type PartRow,
  type Publication,
} from '../store/dataset';
import type { Session, Store } from '../store/store';

/** Rows of a part that are read and kept together. */
const blockRows = 200;
/** Cells kept; about 100 bytes each. */
const mostCells = 1_000_000;

interface Published {
  readonly publication: Publication;
  readonly parts: Awaited<ReturnType<typeof stretchesOf>>;
}

/**
 * Windows of the published datasets. Parts never change, so blocks of their rows stay in memory, also when other parts are
 * published: a page that was looked at costs one short query, which asks what is published now.
 */
export class PublishedWindows {
  private readonly publications = new Recent<Published>(100);
  private readonly blocks = new Recent<readonly PartRow[]>(
    mostCells,
    (rows) => rows.length * (rows[0]?.cells.length ?? 0),
  );

  constructor(private readonly store: Store) {}

  /** The published dataset with a window of its rows; undefined where nothing is published. @param start from 0 */
  async window(
    pipeline: number,
    start: number,
    count: number,
  ): Promise<{ publication: Publication; rows: DatasetRow[] } | undefined> {
    const [now] = await this.store.query<{ publication: number | null }>(
      'select publication from pipeline where id = $1',
      [pipeline],
    );
    const known = now?.publication ? this.publications.known(String(now.publication)) : undefined;
    const rows = known && (await this.rowsOf(known, start, count));
    if (known && rows) return { publication: known.publication, rows };
    // In one turn, so that no other publication comes between; it waits for one batch of a publish at most.
    return this.store.transaction(async (session) => {
      const publication = await publicationOf(session, pipeline);
      if (!publication) return undefined;
      const published = await this.publications.get(String(publication.id), async () => ({
        publication,
        parts: await stretchesOf(session, publication),
      }));
      return { publication, rows: (await this.rowsOf(published, start, count, session))! };
    });
  }

  /** Rows of a publication; without a session undefined where a block of them is not in memory. */
  private async rowsOf(
    { publication, parts }: Published,
    start: number,
    count: number,
    session?: Session,
  ): Promise<DatasetRow[] | undefined> {
    const result: DatasetRow[] = [];
    const columns = publication.columns.map(({ identifier }) => identifier).join();
    for (const { part, startRow, from, to } of ordinalsAt(parts, start, count))
      for (let first = from - (from % blockRows); first < to; first += blockRows) {
        const key = `${part} ${first} ${columns}`;
        const rows = session
          ? await this.blocks.get(key, async () =>
              partRows(
                session,
                await dataTableOf(session, publication.pipeline),
                publication,
                part,
                first,
                first + blockRows,
              ),
            )
          : this.blocks.known(key);
        if (!rows) return undefined;
        for (const row of rows) if (row.at >= from && row.at < to) result.push(inDataset(row, startRow));
      }
    return result;
  }
}
