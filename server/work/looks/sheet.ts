import type { Layer } from '../../../core/pipeline/carry';
import { overwrittenCells } from '../../../core/pipeline/overwritten-cells';
import type { Column } from '../../../core/sheet/column';
import { nowhere } from '../../../core/sheet/origin';
import { emptySheet, type Sheet } from '../../../core/sheet/sheet';
import { rowSays } from '../../../core/steps/let-pass';
import { printedLine } from '../../../core/pipeline/printed-line';
import { cellText, isBlank, isError } from '../../../core/values/cell';
import { decimalsOf } from '../../../core/values/plain-number';
import type { SheetExtent, SheetWindow } from '../../contract/answers';
import { layersUntil, lookedAt, type Look } from '../session';

export type SheetPart = 'sheet' | 'held' | 'left out' | 'overwritten';

/** The sheet of a layer that is asked for: as it leaves the step, or what the step held, left out or overwrote. */
export function partOf(layer: Layer | undefined, of: SheetPart): Sheet {
  if (!layer) return emptySheet;
  switch (of) {
    case 'sheet':
      return layer.sheet;
    case 'held':
      return layer.held.rows;
    case 'left out':
      return layer.leftOut;
    case 'overwritten':
      return overwrittenCells(layer);
  }
}

/** A window of the sheet as it leaves a step, of what the step held, or of the cells that it overwrote. @param task `beside`: a row that is told too */
export async function sheet(
  task: Look & {
    step?: string | undefined;
    of: SheetPart;
    start: number;
    count: number;
    beside?: { readonly table: string; readonly ordinal: number } | undefined;
  },
): Promise<SheetWindow> {
  const { layers, content } = await lookedAt(task, task.step);
  const pages = new Map(content.pages.map((page) => [page.number, page]));
  const asked = layersUntil(layers, task.step);
  const layer = asked.at(-1);
  const part = partOf(layer, task.of);
  const { rows } = part;
  const window = Array.from(
    { length: Math.max(0, Math.min(rows.length - task.start, task.count)) },
    (_, i) => task.start + i,
  );
  const shown = (row: number): SheetWindow['window'][number] => {
    const line = rows.report(row) === task.source.key ? printedLine(part, row, pages) : undefined;
    return {
      id: rows.id(row),
      page: rows.page(row),
      ...(line === undefined ? {} : { line }),
      role: rows.role(row),
      ...(task.of === 'sheet' && layer?.begins?.includes(row) ? { begins: true } : {}),
      table: rows.table(row),
      ...(layer && task.of === 'held' ? { reason: layer.held.reasons[row], says: saysAbove(asked, layer, row) } : {}),
      cells: part.columns.map((column) => column.cells[row]),
      ...spansIn(part, row),
    };
  };
  const beside = task.beside
    ? rows.find((row) => rows.table(row) === task.beside!.table && rows.id(row).ordinal === task.beside!.ordinal)
    : -1;
  return {
    ...(beside < 0 ? {} : { beside: shown(beside) }),
    rows: rows.length,
    columns: part.columns.map(columnFacts),
    start: task.start,
    window: window.map((row) => shown(row)),
    leftOut: extentOf(layer?.leftOut),
    overwritten: layer?.overwritten.reduce((sum, each) => sum + each.rows.length, 0) ?? 0,
    held: extentOf(layer?.held.rows),
  };
}

/** Which blank cells of a row come from the words of a text further left. */
function spansIn({ columns }: Sheet, row: number): Pick<SheetWindow['window'][number], 'spanned'> {
  const spanned = columns.flatMap(({ cells, origins }, at) => {
    if (!isBlank(cells[row]) || origins[row] === nowhere) return [];
    const text = columns
      .slice(0, at)
      .findLastIndex((left) => left.origins[row] === origins[row] && !isBlank(left.cells[row]));
    return text < 0 ? [] : [[at, text] as const];
  });
  return spanned.length > 0 ? { spanned } : {};
}

const extentOf = (of?: Sheet): SheetExtent => ({
  rows: of?.rows.length ?? 0,
  columns: of?.columns.map(({ name, type, unit }) => ({ name, type, ...(unit ? { unit } : {}) })) ?? [],
});

/** What a held row said in the sheet above the step, which may have named or put in columns. */
function saysAbove(layers: readonly Layer[], layer: Layer, row: number): string {
  const above = layers.at(-2)?.sheet;
  const at = above ? above.rows.numbers.indexOf(layer.held.rows.rows.numbers[row]) : -1;
  const { columns } = above && at >= 0 ? above : layer.held.rows;
  return rowSays(columns.map((column) => cellText(column.cells[at < 0 ? row : at])));
}

/** What was counted in columns already: a step shares the columns that it leaves alone. */
const countedIn = new WeakMap<Column, { misfits: number; decimals: number }>();

function columnFacts(column: Column): SheetWindow['columns'][number] {
  const { name, type, unit, cells } = column;
  // In a text column every text fits.
  let counted = type === 'text' ? { misfits: 0, decimals: 0 } : countedIn.get(column);
  if (counted === undefined) {
    counted = { misfits: 0, decimals: decimalsOf(cells) };
    for (let row = 0; row < cells.length; row++) if (isError(cells[row])) counted.misfits++;
    countedIn.set(column, counted);
  }
  const { misfits, decimals } = counted;
  return { name, type, ...(unit ? { unit } : {}), ...(decimals > 0 ? { decimals } : {}), misfits };
}
