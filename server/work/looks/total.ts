import { localeOfStep } from '../../../core/ties/tied';
import type { Place } from '../../../core/sheet/origin';
import { labelOf, wouldTie } from '../../../core/ties/would-tie';
import { isBlank, cellText } from '../../../core/values/cell';
import type { TotalTraced } from '../../contract/answers';
import { carriedOf, type Look } from '../session';
import { onPaper, rowNamed } from './trace';

/** So many rows of a total are told one by one. */
const mostRows = 500;

/** A printed total as a step kept it, in one column, and the rows that it covers, each with its place on paper. */
export async function total(
  task: Look & { step: string; table: string; ordinal: number; column: string },
): Promise<TotalTraced> {
  const {
    pipeline,
    content,
    result: { layers, matches },
  } = await carriedOf(task.document, task.source, { pulse: task.pulse });
  const at = layers.findIndex(({ id }) => id === task.step);
  const layer = layers[at];
  const { rows: totals, covers = [] } = layer?.held ?? { rows: undefined };
  const row = totals
    ? rowNamed(totals.rows, task.source.key, { table: task.table, ordinal: task.ordinal, nth: 0 })
    : -1;
  if (!layer || !totals || row < 0) return { places: [], rows: [], more: 0, wouldTie: [] };
  const { rows: book, columns } = layer.sheet;
  const onPapers = (places: readonly Place[]) =>
    Promise.all(places.map((place) => onPaper(place, new Map([[task.source.key, task.source]]))));
  const placesOf = (origin: number | undefined) =>
    onPapers(origin === undefined || origin < 0 ? [] : book.book.origins.places(origin));
  const found = new Set(matches.flatMap((match) => match.found));
  const notTaken = content.tables.filter(({ id }) => !found.has(id));
  const placeOf = new Map(Array.from(book.numbers, (number, place) => [number, place]));
  const column = columns.find(({ name }) => name === task.column);
  const covered = (covers[row]?.rows ?? [])
    .flatMap((number) => placeOf.get(number) ?? [])
    .filter((place) => column && !isBlank(column.cells[place]));
  return {
    places: await placesOf(totals.columns.find(({ name }) => name === task.column)?.origins[row]),
    rows: await Promise.all(
      covered.slice(0, mostRows).map(async (place) => ({
        label: labelOf(columns, place, task.column),
        amount: cellText(column!.cells[place]),
        page: book.page(place),
        places: await placesOf(column!.origins[place]),
      })),
    ),
    more: Math.max(0, covered.length - mostRows),
    wouldTie: await Promise.all(
      wouldTie(layers, at, row, task.column, localeOfStep(pipeline, task.step), notTaken).map(
        async ({ places, ...would }) => ({ ...would, places: await onPapers(places) }),
      ),
    ),
  };
}
