import { isNumeric } from '../../core/sheet/column';
import { misfitOf, NoSelection, type Condition, type Selection, type Test } from '../../core/dataset/selection';
import { dataTableOf, type DatasetColumn } from './data-table';
import { stretchesOf, type Publication } from './dataset';
import { quoted, type Param, type Store } from './store';

/** Rows looked at in one statement. */
const pieceRows = 50_000;

const operators: Partial<Record<Test, string>> = {
  is: '=',
  'is not': '<>',
  'less than': '<',
  'at most': '<=',
  'at least': '>=',
  'more than': '>',
};

/** A cell as it is compared and grouped: texts without white space at their ends, and none where nothing else stands. */
export const asCompared = ({ identifier, type }: Pick<DatasetColumn, 'identifier' | 'type'>): string =>
  type === 'text' ? `nullif(btrim(d.${quoted(identifier)}), '')` : `d.${quoted(identifier)}`;

/** A condition in SQL; its values are added to the parameters. */
function conditionSql(
  { test, values, column }: Condition,
  { identifier, type }: DatasetColumn,
  params: Param[],
): string {
  const cell = asCompared({ identifier, type });
  const error = `exists (select 1 from dataset_problem p where p.part = d.part and p.ordinal = d.ordinal and p.identifier = '${identifier}')`;
  if (test === 'is blank') return `(${cell} is null and not ${error})`;
  if (test === 'is not blank') return `(${cell} is not null or ${error})`;
  if (test === 'is an error') return error;
  const misfit = misfitOf({ column, test, values }, type);
  if (misfit) throw new NoSelection(misfit);
  const each = values.map((value) => {
    params.push(value);
    const given = `$${params.length}`;
    if (test === 'contains') return `position(lower(${given}::text) in lower(${cell}::text)) > 0`;
    return isNumeric(type)
      ? `${cell} ${operators[test]} ${given}::numeric`
      : `${cell}::text collate "C" ${operators[test]} ${given}::text`;
  });
  // Not one of them is none of them; a blank is none of any.
  if (test === 'is not') return `(${cell} is null or (${each.join(' and ')}))`;
  return `(${each.map((one) => `coalesce(${one}, false)`).join(' or ')})`;
}

/** Conditions in SQL, each with an “and” before it, and the values of their parameters. @param before parameters of the statement that come first */
export function conditionsSql(
  where: readonly Condition[],
  columnOf: (heading: string) => DatasetColumn,
  before: number,
): { sql: string; values: readonly Param[] } {
  const values: Param[] = [];
  const conditions = where.map((condition) => conditionSql(condition, columnOf(condition.column), values));
  return {
    sql: conditions
      .map((sql) => ` and ${sql.replace(/\$(\d+)/g, (_, n: string) => `$${Number(n) + before}`)}`)
      .join(''),
    values,
  };
}

/**
 * The rows of a selection by their number in the dataset, in its order; blanks and error cells come last. Rows that are alike stay in
 * the order of the dataset.
 * @param filtered one condition more, in SQL over `d`; it adds its values to the parameters
 * @throws NoSelection
 */
export async function selectedRows(
  store: Store,
  publication: Publication,
  { where, order }: Selection,
  filtered?: (params: Param[]) => string,
): Promise<Uint32Array> {
  const columnOf = (heading: string): DatasetColumn => {
    const found = publication.columns.find((column) => column.heading === heading);
    if (!found) throw new NoSelection(`The dataset has no column “${heading}”.`);
    return found;
  };
  const told = conditionsSql(where, columnOf, 3);
  // Places of its values count on behind those of the piece and the conditions.
  const params: Param[] = [null, null, null, ...told.values];
  const conditions = told.sql + (filtered ? ` and ${filtered(params)}` : '');
  const values = params.slice(3);
  const keys = order
    .map(({ column }) => columnOf(column))
    .map(({ identifier, type }) => (isNumeric(type) ? `d.${quoted(identifier)}` : `d.${quoted(identifier)}::text`));
  const rows: number[] = [];
  const keysOf: (string | number | null)[][] = order.map(() => []);
  for (const { part, startRow, rows: count } of await stretchesOf(store, publication))
    for (let from = 0; from < count; from += pieceRows) {
      const [{ json }] = await store.patient.transaction(async (session) =>
        session.query<{ json: string | null }>(
          `select json_agg(json_build_array(${['d.ordinal', ...keys].join(', ')}) order by d.ordinal)::text as json from ${quoted(await dataTableOf(session, publication.pipeline))} d where d.part = $1 and d.ordinal >= $2 and d.ordinal < $3${conditions}`,
          [part, from, from + pieceRows, ...values],
        ),
      );
      for (const [ordinal, ...own] of JSON.parse(json ?? '[]') as [number, ...(string | number | null)[]][]) {
        rows.push(startRow + ordinal);
        own.forEach((key, i) => keysOf[i].push(key));
      }
    }
  const places = Uint32Array.from(rows);
  if (order.length === 0) return places;
  const sorted = Uint32Array.from(rows.keys()).sort((a, b) => {
    for (let i = 0; i < order.length; i++) {
      const compared = compare(keysOf[i][a], keysOf[i][b], order[i].down);
      if (compared !== 0) return compared;
    }
    return a - b;
  });
  return sorted.map((at) => places[at]);
}

function compare(a: string | number | null, b: string | number | null, down: boolean): number {
  if (a === b) return 0;
  if (a === null) return 1;
  if (b === null) return -1;
  return (a < b ? -1 : 1) * (down ? -1 : 1);
}
