import { isNumeric } from '../../core/sheet/column';
import type { ColumnCard } from '../../core/dataset/column-card';
import { dataTableOf, type DatasetColumn } from './data-table';
import { stretchesOf, type Publication } from './dataset';
import { quoted, type Store } from './store';

/** Rows looked at in one statement. */
const pieceRows = 50_000;
/** More different values are not counted one by one. */
const mostValues = 50_000;
const bins = 24;

/** What one column holds. @param told how many of its values are told, those that come most often */
export async function columnCard(
  store: Store,
  publication: Publication,
  { identifier, type }: DatasetColumn,
  told: number,
): Promise<ColumnCard> {
  const cell = `d.${quoted(identifier)}`;
  const isNumber = isNumeric(type);
  const ends = isNumber
    ? [`min(${cell})::text`, `max(${cell})::text`, `sum(${cell})::text`]
    : [`min(${cell}::text collate "C")`, `max(${cell}::text collate "C")`, 'null'];
  const counts = new Map<string, { count: number; reports: Set<number> }>();
  let many = false;
  let [cells, filled, errors] = [0, 0, 0];
  const sums: string[] = [];
  const [leasts, mosts]: [string[], string[]] = [[], []];
  const stretches = await stretchesOf(store, publication);
  const inPieces = async (ask: (from: string, params: [number, number, number]) => Promise<void>) => {
    for (const { part, rows } of stretches)
      for (let from = 0; from < rows; from += pieceRows)
        await ask('d.part = $1 and d.ordinal >= $2 and d.ordinal < $3', [part, from, from + pieceRows]);
  };
  // Which table it is may change between two pieces, never within one.
  const asked = <Row>(sql: (table: string) => string, params: readonly (string | number)[]) =>
    store.patient.transaction(async (session) =>
      session.query<Row>(sql(quoted(await dataTableOf(session, publication.pipeline))), params),
    );
  await inPieces(async (where, params) => {
    const [row] = await asked<{
      cells: string;
      filled: string;
      least: string | null;
      most: string | null;
      sum: string | null;
    }>(
      (table) =>
        `select count(*) as cells, count(${cell}) as filled, ${ends[0]} as least, ${ends[1]} as most, ${ends[2]} as sum from ${table} d where ${where}`,
      params,
    );
    cells += Number(row.cells);
    filled += Number(row.filled);
    if (row.least !== null) leasts.push(row.least);
    if (row.most !== null) mosts.push(row.most);
    if (row.sum !== null) sums.push(row.sum);
    const [{ wrong }] = await store.patient.query<{ wrong: string }>(
      `select count(*) as wrong from dataset_problem d where ${where} and d.identifier = $4`,
      [...params, identifier],
    );
    errors += Number(wrong);
    if (many) return;
    const groups = await asked<{ value: string; report: number; count: string }>(
      (table) =>
        `select ${isNumber ? `trim_scale(${cell}::numeric)` : cell}::text as value, d.report, count(*) as count from ${table} d where ${where} and ${cell} is not null group by 1, 2 limit ${mostValues + 1}`,
      params,
    );
    for (const { value, report, count } of groups) {
      const known = counts.get(value) ?? { count: 0, reports: new Set<number>() };
      known.count += Number(count);
      known.reports.add(report);
      counts.set(value, known);
    }
    many = counts.size > mostValues || groups.length > mostValues;
  });
  const order = (a: string, b: string) => (isNumber ? Number(a) - Number(b) : a < b ? -1 : a > b ? 1 : 0);
  const [least, most] = [leasts.sort(order)[0], mosts.sort(order).at(-1)];
  // Added up by the database: it counts exactly.
  const [{ sum, mean }] =
    sums.length > 0
      ? await store.query<{ sum: string | null; mean: string | null }>(
          `select trim_scale(sum(each::numeric))::text as sum, trim_scale(round(sum(each::numeric) / $2::numeric, 6))::text as mean from json_array_elements_text($1::json) each`,
          [JSON.stringify(sums), filled],
        )
      : [{ sum: null, mean: null }];
  const spread: { from: number; to: number; count: number }[] = [];
  if (isNumber && least !== undefined && most !== undefined && Number(least) < Number(most)) {
    const [low, high] = [Number(least), Number(most)];
    const width = (high - low) / bins;
    for (let n = 0; n < bins; n++) spread.push({ from: low + n * width, to: low + (n + 1) * width, count: 0 });
    await inPieces(async (where, params) => {
      const rows = await asked<{ bin: number; count: string }>(
        (table) =>
          `select width_bucket(${cell}::numeric, $4::numeric, $5::numeric, ${bins}) as bin, count(*) as count from ${table} d where ${where} and ${cell} is not null group by 1`,
        [...params, least, most],
      );
      // The most itself stands in the last.
      for (const { bin, count } of rows) spread[Math.min(bins, bin) - 1].count += Number(count);
    });
  }
  const values = many
    ? []
    : [...counts]
        .sort((a, b) => b[1].count - a[1].count || order(a[0], b[0]))
        .slice(0, told)
        .map(([value, { count, reports }]) => ({ value, count, reports: reports.size }));
  return {
    cells,
    blank: cells - filled - errors,
    errors,
    ...(many ? {} : { distinct: counts.size }),
    ...(least === undefined ? {} : { least, most: most! }),
    ...(sum === null ? {} : { sum, mean: mean! }),
    values,
    spread,
  };
}
