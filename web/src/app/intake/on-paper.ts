// What take rules do on the page that is shown, worked out here so that it follows the hand.
import { fitOf, onPage } from '../../../../core/intake/anchors';
import { takeTables } from '../../../../core/intake/take';
import type { Drawing, TakeRule } from '../../../../core/intake/take-rule';
import type { Box } from '../../../../core/page/box';
import { linesOf, textOf } from '../../../../core/page/lines';
import type { PageContent } from '../../../../core/page/page';
import type { FoundTable, Piece, Reading } from '../../../../core/reading/found-table';
import { separatorsOf } from '../../../../core/reading/readings/drawn';
import type { PageAnswer } from '../../../../server/contract/contract';

/** The found tables of one page, as if it were the whole report. */
export function tablesOn({ pieces }: PageAnswer): FoundTable[] {
  const tables = new Map<string, Piece[]>();
  for (const piece of pieces) tables.set(piece.table, [...(tables.get(piece.table) ?? []), piece]);
  return [...tables].map(([id, own]) => ({ id, ...(own[0].title ? { title: own[0].title } : {}), pieces: own }));
}

/** What a rule takes on one page; a page that only goes on has no heading to be known by, so its pieces are named. */
export function pieceTaken(rule: TakeRule, path: string, answer: PageAnswer, goesOn: readonly string[] = []): Piece | undefined {
  if (!answer.page) return undefined;
  const tables = tablesOn(answer);
  const own = tables.filter((table) => goesOn.includes(table.id));
  const known = own.length > 0 && !rule.join ? { ...rule, least: 0 } : rule;
  const { taken } = takeTables([{ ...known, pages: undefined }], { key: path, path, pages: [answer.page], tables: own.length > 0 && !rule.join ? own : tables });
  const first = taken[0];
  return first && 'table' in first ? first.table.pieces[0] : undefined;
}

/** The rule as if nothing were drawn: what the drawing begins from. */
export const undrawn = (rule: TakeRule): TakeRule => ({
  ...rule,
  reading: 'best',
  readingIn: [],
  ...(rule.of === 'area' ? { drawing: { ...rule.drawing!, columns: [], cuts: [], rows: 'as read' } } : { drawing: undefined }),
});

const rounded = (points: number) => Math.round(points * 10) / 10;
const roundedBox = (box: Box) => box.map(rounded) as unknown as Box;
/** More anchors than this add nothing. */
const mostAnchors = 16;

/** Words of the heading, by which a drawing finds its place; for an area also those of the line above it, and the line that ends it. */
export function anchorsOf(page: PageContent, reading: Reading | undefined, area?: Box): Pick<Drawing, 'anchors' | 'below'> {
  const heading = reading?.cells.filter((cell) => cell.row < Math.max(1, reading.headingRows)).flatMap((cell) => cell.words) ?? [];
  const lines = area ? linesOf(page.words) : [];
  const above = area && lines.findLast((line) => line.box[3] <= area[1] + 2);
  const end = area && lines.find((line) => line.box[1] >= area[3] - 2);
  const near = [...new Set([...heading, ...(above?.words ?? [])])];
  // Amounts and dates are others in the next report.
  const lasting = near.filter((w) => !/\d/.test(page.words[w].text));
  const words = (lasting.length >= 2 ? lasting : near).slice(0, mostAnchors);
  const below = end ? textOf(page.words, end.words).slice(0, 80).trim() : '';
  return { anchors: words.map((w) => ({ text: page.words[w].text, box: roundedBox(page.words[w].box) })), ...(below ? { below } : {}) };
}

/** The drawing of a rule as it lies on this page, anchored to it anew; where there is none yet, the best reading's own separators. */
export function drawingOn(rule: TakeRule, page: PageContent, base: Piece): Drawing {
  const [reading] = base.readings;
  const area = rule.of === 'area' ? base.box : undefined;
  const anchored = { ...anchorsOf(page, reading, area), ...(area ? { box: roundedBox(area) } : {}) };
  const drawn = rule.drawing;
  if (!drawn || drawn.columns.length + drawn.cuts.length === 0) return { ...anchored, columns: separatorsOf(reading), rows: 'as read', cuts: [] };
  const fit = fitOf(drawn.anchors, page, page.words.map((_, i) => i)) ?? { scale: 1, dx: 0, dy: 0, sure: 0, missing: [] };
  const { x, y } = onPage(fit);
  return { ...anchored, columns: drawn.columns.map((column) => ({ ...column, at: rounded(x(column.at)) })), rows: drawn.rows, cuts: drawn.cuts.map((cut) => rounded(y(cut))) };
}
