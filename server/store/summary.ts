import { NoSelection, type Condition } from '../../core/dataset/selection';
import { merged, type SummaryAsked, type SummaryGroup, type SummaryKey } from '../../core/dataset/summary';
import { isNumeric } from '../../core/sheet/column';
import { dataTableOf, type DatasetColumn } from './data-table';
import { stretchesOf, type Publication } from './dataset';
import { asCompared, conditionsSql } from './selected-rows';
import { quoted, type Store } from './store';

/** Rows looked at in one statement. */
const pieceRows = 50_000;
/** More groups are no summary. */
const mostGroups = 20_000;

const dates = new Set(['date', 'datetime']);
const patterns = { month: 'YYYY-MM', quarter: 'YYYY-"Q"Q', year: 'YYYY' } as const;

function keySql({ by }: SummaryKey, { identifier, type, heading }: DatasetColumn): string {
  const cell = asCompared({ identifier, type });
  if (by === undefined) return type === 'decimal' || type === 'percent' ? `trim_scale(${cell})::text` : `${cell}::text`;
  if (!dates.has(type)) throw new NoSelection(`“${heading}” holds no dates: it cannot be taken by ${by}.`);
  return `to_char(${cell}, '${patterns[by]}')`;
}

/**
 * Groups of the published rows that meet some conditions, with what their values are together. The database adds up; pieces are joined exactly.
 * @throws NoSelection
 */
export async function summaryGroups(
  store: Store,
  publication: Publication,
  { rows, columns, value }: SummaryAsked,
  where: readonly Condition[],
): Promise<SummaryGroup[]> {
  const columnOf = (heading: string): DatasetColumn => {
    const found = publication.columns.find((column) => column.heading === heading);
    if (!found) throw new NoSelection(`The dataset has no column “${heading}”.`);
    return found;
  };
  const keys = [...rows, ...columns].map((key) => keySql(key, columnOf(key.column)));
  const { sql, values } = conditionsSql(where, columnOf, 3);
  const worked = value === undefined ? undefined : columnOf(value);
  if (worked && !isNumeric(worked.type))
    throw new NoSelection(`“${worked.heading}” holds no numbers: its rows can be counted only.`);
  const cell = worked && `d.${quoted(worked.identifier)}`;
  const told = cell
    ? `count(${cell}), trim_scale(sum(${cell}::numeric))::text, trim_scale(min(${cell}::numeric))::text, trim_scale(max(${cell}::numeric))::text`
    : 'count(*), null, null, null';
  let groups: SummaryGroup[] = [];
  for (const { part, rows: count } of await stretchesOf(store, publication)) {
    for (let from = 0; from < count; from += pieceRows) {
      const [{ json }] = await store.patient.transaction(async (session) =>
        session.query<{ json: string | null }>(
          `select json_agg(each)::text as json from (select json_build_array(${keys.join(', ')}, count(*), ${told}) as each from ${quoted(await dataTableOf(session, publication.pipeline))} d
           where d.part = $1 and d.ordinal >= $2 and d.ordinal < $3${sql} group by ${keys.map((_, i) => keys[i]).join(', ')}) g`,
          [part, from, from + pieceRows, ...values],
        ),
      );
      const piece = (JSON.parse(json ?? '[]') as (string | number | null)[][]).map((row): SummaryGroup => {
        const [number, numbers, sum, least, most] = row.slice(keys.length);
        return {
          keys: row.slice(0, keys.length) as (string | null)[],
          rows: number as number,
          numbers: numbers as number,
          sum: sum as string | null,
          least: least as string | null,
          most: most as string | null,
        };
      });
      groups = merged([...groups, ...piece]);
      if (groups.length > mostGroups)
        throw new NoSelection(
          `That are more than ${mostGroups.toLocaleString('en')} groups. Take columns with fewer different values, or fewer rows.`,
        );
    }
  }
  return groups;
}
