import type { Evidence } from '../../../core/evidence/evidence';
import type { Layer } from '../../../core/pipeline/carry';
import { splitAllReports } from '../../../core/pipeline/document';
import { passedThrough, whereChanged } from '../../../core/pipeline/passed-through';
import type { Tie } from '../../../core/ties/tied';
import { cellText } from '../../../core/values/cell';
import { carriedOf, lookedAt, pipelineFrom, type Look } from '../session';
import { onPaper, rowNamed, type NamedRow } from './trace';

/** What a slip says of a cell beyond where it stands in the dataset. */
export type CellEvidence = Pick<Evidence, 'print' | 'passed' | 'held' | 'corrections' | 'ties'> & {
  readonly text: string;
  readonly beside: { column: string; text: string }[];
};

/** Rows held so near on paper are told. */
const near = 3;

/** Where a cell of the dataset comes from: its words, what each step made of it, what was held beside it, and how it ties out. */
export async function evidence(task: Look & { row: NamedRow; column: string }): Promise<CellEvidence> {
  const { layers } = await lookedAt(task);
  const { result } = await carriedOf(task.document, task.source, { pulse: task.pulse });
  const { sheet } = layers.at(-1)!;
  const at = rowNamed(sheet.rows, task.source.key, task.row);
  const column = sheet.columns.find(({ name }) => name === task.column);
  if (at < 0 || !column) return { text: '', beside: [], print: [], passed: [], held: [], corrections: [], ties: [] };
  const sources = new Map([task.source, ...(task.among ?? [])].map((source) => [source.key, source]));
  const places = sheet.rows.book.origins.places(column.origins[at]);
  const print = (await Promise.all(places.map((place) => onPaper(place, sources)))).map(({ page, box, words }) => ({
    page,
    box: [...box] as [number, number, number, number],
    words: words.map((word) => ({ text: word.text, box: [...word.box] as [number, number, number, number] })),
  }));
  const first = places[0];
  const taken = sheet.rows.sources(at)[0] ?? task.row;
  const cells = first
    ? passedThrough(layers, { report: first.report, page: first.page, word: first.words[0] }, taken, task.column)
    : [];
  const whole = new Set(splitAllReports(await pipelineFrom(task.document)).whole.map(({ id }) => id));
  return {
    text: cellText(column.cells[at]),
    beside: sheet.columns.map(({ name, cells: own }) => ({ column: name, text: cellText(own[at]) })),
    print,
    passed: whereChanged(cells).map(({ layer, column: own, text }) => ({
      title: layer.title,
      column: own,
      text,
      ...(whole.has(layer.id) ? { whole: true } : {}),
    })),
    held: layers.flatMap((layer) => heldNear(layer, taken)),
    corrections: cells.flatMap(({ layer, row, column: name }) =>
      layer.overwritten.flatMap(({ column: own, rows, old, why }) =>
        own === name && rows.includes(row)
          ? [{ title: layer.title, column: own, old: cellText(old[rows.indexOf(row)]), why }]
          : [],
      ),
    ),
    ties: result.ties.filter((tie) => coversCell(layers, tie, cells)).map(({ row: _, ...tie }) => tie),
  };
}

function heldNear({ title, held }: Layer, { table, ordinal }: { table: string; ordinal: number }): Evidence['held'] {
  const { rows, columns } = held.rows;
  return held.reasons.flatMap((reason, at) => {
    const id = rows.id(at);
    if (id.table !== table || Math.abs(id.ordinal - ordinal) > near) return [];
    return [
      {
        title,
        reason,
        page: rows.page(at),
        text: columns.flatMap(({ cells }) => (cells[at] === null ? [] : [cellText(cells[at])])).join(' '),
      },
    ];
  });
}

/** Is a cell among the rows of a printed total, in its column? */
function coversCell(layers: readonly Layer[], tie: Tie, cells: ReturnType<typeof passedThrough>): boolean {
  const layer = layers.find(({ id }) => id === tie.step);
  const cell = cells.find((each) => each.layer === layer);
  if (!layer || !cell || cell.column !== tie.column) return false;
  const total = layer.held.reasons.findIndex(
    (_, at) =>
      layer.held.rows.rows.id(at).table === tie.row.table && layer.held.rows.rows.id(at).ordinal === tie.row.ordinal,
  );
  return layer.held.covers?.[total]?.rows.includes(layer.sheet.rows.numbers[cell.row]) ?? false;
}
