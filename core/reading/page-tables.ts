import { around } from '../page/box';
import { textOf } from '../page/lines';
import type { PageContent } from '../page/page';
import { boxTurnedBack, quarterTurn, turnsToUpright } from '../page/turn';
import { readingsOfOtherExtents } from './extents';
import { plainRows, type Piece, type ReadRegion, type Reading } from './found-table';
import { otherwiseAligned, readAligned } from './readings/aligned';
import { readColumnAfterColumn } from './readings/column-after-column';
import { readLineByLine } from './readings/line-by-line';
import { readRuled } from './readings/ruled';
import { readTagged } from './readings/tagged';
import { regionsOf, type Region } from './regions/regions';
import { partsStacked } from './stacked';
import { captionOf } from './tagged-words';
import { titleOf } from './titles';

/** The strategies of reading; each that reads a region unlike the others is offered. */
const strategies: readonly ReadRegion[] = [readTagged, readRuled, readAligned, ...otherwiseAligned, readLineByLine];

const mostReadings = 5;

/** Readings by every strategy that a region bears. */
const readAll = (page: PageContent, region: Region): Reading[] =>
  strategies.flatMap((read) => read(page, region.words, region.box) ?? []);

/** At most five of the readings, best first, no two with the same grid, the last resort among them. */
function bestOf(readings: readonly Reading[]): Reading[] {
  const best = new Map<string, Reading>();
  for (const reading of readings) {
    const grid = JSON.stringify(plainRows(reading));
    const same = best.get(grid);
    if (!same || same.score < reading.score) best.set(grid, reading);
  }
  const order = [...best.values()].sort((a, b) => b.score - a.score);
  return order.length <= mostReadings ? order : [...order.slice(0, mostReadings - 1), order.at(-1)!];
}

/** The readings of a region by itself, best first: see `bestOf`. */
export const readingsOf = (page: PageContent, region: Region): Reading[] => bestOf(readAll(page, region));

/** The whole page as a table of its own: read by white space, column after column, and line by line. */
export function wholePage(page: PageContent): Piece | undefined {
  const words = page.words.map((_, i) => i);
  const box = around(page.words.map((word) => word.box));
  if (!box) return undefined;
  const found = [readAligned, readColumnAfterColumn, readLineByLine]
    .map((read) => read(page, words, box))
    .filter((r): r is Reading => r !== undefined);
  return found.length > 0
    ? { id: `p${page.number}w`, page: page.number, box, titleWords: [], continues: null, readings: found }
    : undefined;
}

/** The tables of one page, top to bottom, not yet linked over pages. Ids are `p{page}t{n}`. */
export function piecesOfPage(printed: PageContent, furniture: ReadonlySet<number>): Piece[] {
  const turns = turnsToUpright(printed);
  let page = printed;
  for (let turn = 0; turn < turns; turn++) page = quarterTurn(page);
  const whole = regionsOf(page, furniture).map((region) => ({ region, readings: readingsOf(page, region) }));
  const parts = whole.flatMap(({ region, readings }) => {
    const stacked = readings[0] && isTable(readings[0]) ? partsStacked(page, region, readings[0]) : [region];
    return stacked.length === 1
      ? [{ region, readings }]
      : stacked.map((each) => ({ region: each, readings: readingsOf(page, each) }));
  });
  const regions = parts.map(({ region }) => region);
  const own = new Map(parts.map(({ region, readings }) => [region, readings]));
  const tables = regions.filter((region) => {
    const [first] = own.get(region)!;
    return first && isTable(first);
  });
  const titles = tables.map((region) => {
    const caption = captionOf(page, region.words);
    return caption.length > 0
      ? { text: textOf(page.words, caption), words: caption }
      : titleOf(
          page,
          region.box,
          furniture,
          tables.filter((other) => other !== region).map(({ box }) => box),
        );
  });
  const outside = new Set([...furniture, ...titles.flatMap((title) => title?.words ?? [])]);
  return tables.map((region, n): Piece => {
    const title = titles[n];
    const readings = bestOf([...own.get(region)!, ...readingsOfOtherExtents(page, region, tables, outside)]);
    return {
      id: `p${page.number}t${n + 1}`,
      page: page.number,
      box: boxTurnedBack(region.box, turns, printed),
      ...(title ? { title: title.text } : {}),
      titleWords: title?.words ?? [],
      continues: null,
      readings: turns === 0 ? readings : readings.map((reading) => turnedBack(reading, turns, printed)),
    };
  });
}

const turnedBack = (reading: Reading, turns: number, printed: PageContent): Reading => ({
  ...reading,
  rows: reading.rows.map((row) => ({ ...row, box: boxTurnedBack(row.box, turns, printed) })),
  cells: reading.cells.map((cell) => ({ ...cell, box: boxTurnedBack(cell.box, turns, printed) })),
});

const isTable = (reading: Reading) => reading.columns.length >= 2 && reading.rows.length >= 2;
