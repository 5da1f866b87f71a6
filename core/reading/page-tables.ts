import { around } from '../page/box';
import { textOf } from '../page/lines';
import type { PageContent } from '../page/page';
import { boxTurnedBack, quarterTurn, turnsToUpright } from '../page/turn';
import { plainRows, type Piece, type ReadRegion, type Reading } from './found-table';
import { otherwiseAligned, readAligned } from './readings/aligned';
import { readLineByLine } from './readings/line-by-line';
import { readRuled } from './readings/ruled';
import { readTagged } from './readings/tagged';
import { regionsOf, type Region } from './regions/regions';
import { captionOf } from './tagged-words';
import { titleOf } from './titles';

/** The strategies of reading; each that reads a region unlike the others is offered. */
const strategies: readonly ReadRegion[] = [readTagged, readRuled, readAligned, ...otherwiseAligned, readLineByLine];

const mostReadings = 5;

/** The readings of a region, best first, no two with the same grid: at most five, the last resort among them. */
export function readingsOf(page: PageContent, region: Region): Reading[] {
  const best = new Map<string, Reading>();
  for (const read of strategies) {
    const reading = read(page, region.words, region.box);
    if (!reading) continue;
    const grid = JSON.stringify(plainRows(reading));
    const same = best.get(grid);
    if (!same || same.score < reading.score) best.set(grid, reading);
  }
  const order = [...best.values()].sort((a, b) => b.score - a.score);
  return order.length <= mostReadings ? order : [...order.slice(0, mostReadings - 1), order.at(-1)!];
}

/** The whole page as a table of its own: read by white space and line by line. */
export function wholePage(page: PageContent): Piece | undefined {
  const words = page.words.map((_, i) => i);
  const box = around(page.words.map((word) => word.box));
  if (!box) return undefined;
  const found = [readAligned, readLineByLine].map((read) => read(page, words, box)).filter((r): r is Reading => r !== undefined);
  return found.length > 0 ? { id: `p${page.number}w`, page: page.number, box, titleWords: [], continues: null, readings: found } : undefined;
}

/** The tables of one page, top to bottom, not yet linked over pages. Ids are `p{page}t{n}`. */
export function piecesOfPage(printed: PageContent, furniture: ReadonlySet<number>): Piece[] {
  const turns = turnsToUpright(printed);
  let page = printed;
  for (let turn = 0; turn < turns; turn++) page = quarterTurn(page);
  const regions = regionsOf(page, furniture);
  const read = regions
    .map((region) => ({ region, readings: readingsOf(page, region) }))
    .filter(({ readings }) => readings.length > 0 && isTable(readings[0]));
  const boxes = read.map(({ region }) => region.box);
  return read.map(({ region, readings }, n): Piece => {
    const caption = captionOf(page, region.words);
    const title = caption.length > 0 ? { text: textOf(page.words, caption), words: caption } : titleOf(page, region.box, furniture, boxes.filter((box) => box !== region.box));
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
