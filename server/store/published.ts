import type { KnownPart, PartInput } from '../../core/runs/plan';
import type { RowSpan } from '../../core/sheet/row';
import type { KeptTotal } from '../contract/answers';
import type { Build } from '../setup/build';
import { catalogue, type NewColumn } from './data-table';
import type { Session } from './store';

/** A part of the dataset as it is published, with all that is known of it beside its rows. */
export interface PublishedRows extends KnownPart {
  readonly rows: number;
  readonly held: number;
  readonly misfits: number;
  readonly columns: readonly NewColumn[];
  /** The version of the document that made them; null: a program that did not know. */
  readonly version: number | null;
  /** The build that made them; null: one that did not say. */
  readonly build: Build | null;
  /** By which reading their pages are kept in the cache; null: a program that did not know. */
  readonly reading: string | null;
  /** What was written down with them, as JSON. */
  readonly told: string;
}

/** The parts of the dataset as it is published now, in order. */
export async function publishedParts(store: Session, pipeline: number): Promise<PublishedRows[]> {
  const known = new Map((await catalogue(store, pipeline)).map(({ identifier, ...column }) => [identifier, column]));
  const rows = await store.query<{
    id: number;
    report: number | null;
    key: string;
    inputs: string;
    rows: number;
    held: number;
    misfits: number;
    columns: string;
    version: number | null;
    build: string | null;
    reading: string | null;
    told: string;
    stale: boolean;
  }>(
    `select t.id, t.report, t.result_key as key, t.inputs, t.rows, t.held, t.misfits, t.columns, t.version, t.build, t.reading, t.details as told, pp.stale
     from part t join publication_part pp on pp.part = t.id join pipeline p on p.publication = pp.publication
     where p.id = $1 order by pp.position`,
    [pipeline],
  );
  return rows.map(({ inputs, columns, build, ...part }) => ({
    ...part,
    build: build === null ? null : (JSON.parse(build) as Build),
    inputs: JSON.parse(inputs) as PartInput[],
    columns: (JSON.parse(columns) as string[]).flatMap((identifier) => known.get(identifier) ?? []),
  }));
}

/** The part that a row of the published dataset is in, with the place of the row there. @param row from 0 */
export async function partOfRow(
  store: Session,
  publication: number,
  row: number,
): Promise<{ part: number; ordinal: number } | undefined> {
  const [found] = await store.query<{ part: number; start_row: string }>(
    'select pp.part, pp.start_row from publication_part pp join part t on t.id = pp.part where pp.publication = $1 and pp.start_row <= $2 and pp.start_row + t.rows > $2',
    [publication, row],
  );
  return found && { part: found.part, ordinal: row - Number(found.start_row) };
}

/** The printed totals that the published dataset must add up to. */
export async function keptTotals(store: Session, pipeline: number): Promise<KeptTotal[]> {
  const rows = await store.query<{
    step: string;
    report: number | null;
    source_table: string;
    source_row: number;
    printed_on: number;
    reason: string;
    level: number;
    covers: string;
    differs: string;
    ties: string;
    cells: string;
  }>(
    `select k.step, k.report, k.source_table, k.source_row, k.printed_on, k.reason, k.level, k.covers, k.differs, k.ties, k.cells
     from kept_total k join publication_part pp on pp.part = k.part join pipeline p on p.publication = pp.publication
     where p.id = $1 order by pp.position, k.position`,
    [pipeline],
  );
  return rows.map((row) => ({
    step: row.step,
    row: { report: String(row.report ?? ''), table: row.source_table, ordinal: row.source_row },
    page: row.printed_on,
    reason: row.reason,
    level: row.level,
    covers: JSON.parse(row.covers) as RowSpan[],
    differs: JSON.parse(row.differs) as KeptTotal['differs'],
    ties: JSON.parse(row.ties) as KeptTotal['ties'],
    cells: JSON.parse(row.cells) as Record<string, string>,
  }));
}

/** How many printed amounts of the published dataset are off, and were not accepted. */
export async function totalsOff(store: Session, pipeline: number): Promise<number> {
  const [{ off }] = await store.query<{ off: number }>(
    `select cast(coalesce(sum(k.amounts_off), 0) as integer) as off from kept_total k join publication_part pp on pp.part = k.part join pipeline p on p.publication = pp.publication where p.id = $1`,
    [pipeline],
  );
  return off;
}
