import { around } from '../../../core/page/box';
import type { Layer } from '../../../core/pipeline/carry';
import { errorsOf, type ErrorPlace } from '../../../core/pipeline/errors';
import type { Place } from '../../../core/sheet/origin';
import type { Rows } from '../../../core/sheet/row';
import { isError } from '../../../core/values/cell';
import type { Traced, TracedPlace } from '../../contract/answers';
import { contentOf, layersUntil, lookedAt, type Look, type ReportTask } from '../session';
import { partOf, type SheetPart } from './sheet';

/** A row by its name; where several rows have it (one was split into them), which of them. */
export interface NamedRow {
  readonly table: string;
  readonly ordinal: number;
  readonly nth: number;
}

interface CellPlace {
  readonly step?: string | undefined;
  readonly of: SheetPart;
  /** A row by its name. In a sheet that was shown its place there is given with it, as many rows may have one name; none: the column's own name is meant. */
  readonly row?: NamedRow | (Omit<NamedRow, 'nth'> & { readonly shownAt: number }) | undefined;
  readonly column: string;
}

/** Where on paper the words stand behind a cell, or behind the name of a column. */
export async function trace(task: Look & CellPlace): Promise<Traced> {
  const { layers } = await lookedAt(task, task.step);
  const asked = layersUntil(layers, task.step);
  const part = partOf(asked.at(-1), task.of);
  const column = part.columns.find((each) => each.name === task.column);
  const at = task.row === undefined ? -1 : rowNamed(part.rows, task.source.key, task.row);
  const origin = task.row === undefined ? column?.namedBy : column?.origins[at];
  const error = task.of === 'sheet' && column ? errorAt(asked, column.name, at) : undefined;
  const sources = new Map([task.source, ...(task.among ?? [])].map((source) => [source.key, source]));
  const places = origin === undefined ? [] : part.rows.book.origins.places(origin);
  return {
    ...(error ? { error } : {}),
    rows: at >= 0 && at < part.rows.length ? part.rows.sources(at) : [],
    places: await Promise.all(places.map((place) => onPaper(place, sources))),
  };
}

/** The place of a row by its name, which it may have moved from since it was shown; -1 where no row has it. */
export function rowNamed({ book, numbers }: Rows, report: string, row: NonNullable<CellPlace['row']>): number {
  const isNamed = (number: number) =>
    book.ordinal(number) === row.ordinal && book.tableName(number) === row.table && book.report(number) === report;
  if ('shownAt' in row && row.shownAt < numbers.length && isNamed(numbers[row.shownAt])) return row.shownAt;
  let left = 'nth' in row ? row.nth : 0;
  return numbers.findIndex((number) => isNamed(number) && left-- === 0);
}

export async function onPaper(
  { report, page, words }: Place,
  sources: ReadonlyMap<string, ReportTask>,
): Promise<TracedPlace> {
  const { content } = await contentOf(sources.get(report)!);
  const all = content.pages.find(({ number }) => number === page)!.words;
  return {
    report: Number(report),
    page,
    box: around(words.map((word) => all[word].box))!,
    words: words.map((at) => ({ text: all[at].text, box: all[at].box, at })),
  };
}

function errorAt(layers: readonly Layer[], column: string, row: number): ErrorPlace | undefined {
  const cell = layers.at(-1)?.sheet.columns.find((each) => each.name === column)?.cells[row];
  return cell !== undefined && isError(cell)
    ? errorsOf(layers, layers.length - 1).find((each) => each.row === row && each.column === column)
    : undefined;
}
