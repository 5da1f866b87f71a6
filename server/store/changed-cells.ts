import type { ComparedRow, RowChange } from '../../core/runs/changed-cells';
import type { ChangedCell } from '../contract/answers';
import { catalogue, dataTableOf } from './data-table';
import { csvLine } from './publish';
import { batchRows, quoted, type Store } from './store';

/** The mark before the text of an error cell. */
const misfit = '✗ ';

/** The rows of two parts with the headings of both, as text. */
export async function comparedParts(
  store: Store,
  pipeline: number,
  before: number,
  after: number,
): Promise<{ headings: string[]; before: ComparedRow[]; after: ComparedRow[] }> {
  const known = await catalogue(store, pipeline);
  const identifiersOf = async (part: number) => {
    const [row] = await store.query<{ columns: string }>('select columns from part where id = $1', [part]);
    const own = new Set(JSON.parse(row?.columns ?? '[]') as string[]);
    return new Map(
      known.filter(({ identifier }) => own.has(identifier)).map(({ heading, identifier }) => [heading, identifier]),
    );
  };
  const [old, now] = [await identifiersOf(before), await identifiersOf(after)];
  const headings = [...new Set([...now.keys(), ...old.keys()])];
  const table = await dataTableOf(store, pipeline);
  return {
    headings,
    before: await rowsOf(
      store,
      table,
      before,
      headings.map((heading) => old.get(heading)),
    ),
    after: await rowsOf(
      store,
      table,
      after,
      headings.map((heading) => now.get(heading)),
    ),
  };
}

/** @param identifiers undefined: the part has no such column */
async function rowsOf(
  store: Store,
  table: string,
  part: number,
  identifiers: readonly (string | undefined)[],
): Promise<ComparedRow[]> {
  const misfits = new Map<string, string>();
  for (const { ordinal, identifier, text } of await store.query<{ ordinal: number; identifier: string; text: string }>(
    'select ordinal, identifier, text from dataset_problem where part = $1',
    [part],
  ))
    misfits.set(`${ordinal} ${identifier}`, misfit + text);
  const cells = identifiers.map(
    (identifier, at) => `${identifier === undefined ? 'null' : `${quoted(identifier)}::text`} as c${at}`,
  );
  const columns = ['ordinal', 'report', 'page', ...cells].join(', ');
  const rows: ComparedRow[] = [];
  for (let from = 0; ; from += batchRows) {
    const batch = await store.query<{ ordinal: number; report: number; page: number } & Record<string, string | null>>(
      `select ${columns} from ${quoted(table)} where part = $1 and ordinal >= $2 and ordinal < $3 order by ordinal`,
      [part, from, from + batchRows],
    );
    for (const row of batch)
      rows.push({
        report: row.report,
        page: row.page,
        cells: identifiers.map(
          (identifier, at) => misfits.get(`${row.ordinal} ${identifier}`) ?? row[`c${at}`] ?? null,
        ),
      });
    if (batch.length < batchRows) return rows;
  }
}

/** Writes down what a run changed. @param part where the rows after stand */
export async function keepChanges(
  store: Store,
  run: number,
  from: number,
  part: number,
  changes: readonly RowChange[],
): Promise<void> {
  const line = (change: RowChange, at: number) =>
    csvLine([
      run,
      from + at,
      change.report,
      change.page,
      change.kind,
      change.kind === 'cell' ? change.heading : null,
      change.kind === 'row added' ? null : change.before,
      change.kind === 'row removed' ? null : change.after,
      change.row === null ? null : part,
      change.row,
    ]);
  const names = ['run', 'position', 'report', 'page', 'kind', 'heading', 'before', 'after', 'part', 'ordinal'];
  if (changes.length > 0) await store.copyIn('changed_cell', names, changes.map(line).join(''));
}

/** What a run changed because the program is another, in the order of the dataset. `row`: its number there, as long as it is published. */
export async function changedCellsOf(
  store: Store,
  run: number,
  start: number,
  count: number,
): Promise<{ count: number; cells: ChangedCell[] }> {
  const [total] = await store.query<{ count: string }>('select count(*) as count from changed_cell where run = $1', [
    run,
  ]);
  const cells = await store.query<Omit<ChangedCell, 'row'> & { row: string | null }>(
    `select c.report, c.page, c.kind, c.heading, c.before, c.after,
       (select pp.start_row + c.ordinal + 1 from publication_part pp join run r on r.publication = pp.publication
        join pipeline p on p.publication = pp.publication where r.id = c.run and pp.part = c.part) as row
     from changed_cell c where c.run = $1 and c.position >= $2 order by c.position limit $3`,
    [run, start, count],
  );
  return {
    count: Number(total?.count ?? 0),
    cells: cells.map(({ row, ...cell }) => ({ ...cell, row: row === null ? null : Number(row) })),
  };
}
