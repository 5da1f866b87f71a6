import { extend, height, overlapY, type Box } from '../page/box';
import { linesOf, type Line } from '../page/lines';
import type { PageContent } from '../page/page';
import { phrasesInColumns, type Layout } from './columns';

/** A row of a table: one line of print or several that belong together. */
export interface Band {
  box: Box;
  lines: Line[];
}

/** Rows between drawn lines or shading: every line of print goes to the band that holds its middle. */
export function bandsBetween(page: PageContent, words: readonly number[], cuts: readonly number[]): Band[] {
  const lines = linesOf(page.words, words);
  const bands = cuts.slice(1).map((cut, i): Band => ({ box: [-Infinity, cuts[i], Infinity, cut], lines: [] }));
  for (const line of lines) {
    const middle = (line.box[1] + line.box[3]) / 2;
    const band = bands.find((b) => middle >= b.box[1] && middle < b.box[3]) ?? (middle < cuts[0] ? bands[0] : bands.at(-1));
    band?.lines.push(line);
  }
  return bands.filter((band) => band.lines.length > 0);
}

const pitches = (lines: readonly Line[]) => lines.slice(1).map((line, i) => line.box[3] - lines[i].box[3]);

/**
 * Rows from lines of print. Lines join only when the leading says so: where some lines follow closely (the leading of
 * running text) and the rows stand clearly further apart, a close line that fills fewer columns goes on from the line
 * above. When in doubt lines stay rows of their own.
 */
export function bandsByLeading(page: PageContent, lines: readonly Line[], layout: Layout): Band[] {
  const filled = lines.map((line) => new Set(phrasesInColumns(page, line, layout).map((p) => p.column)));
  const gaps = pitches(lines);
  const tight = [...gaps].sort((a, b) => a - b)[0] ?? 0;
  const wide = gaps.filter((gap) => gap > 1.2 * tight);
  const wrapped = wide.length >= 0.3 * gaps.length && gaps.length >= 2;
  const bands: Band[] = [];
  lines.forEach((line, i) => {
    const open = bands.at(-1);
    const close = i > 0 && gaps[i - 1] <= 1.12 * tight && gaps[i - 1] < 1.5 * line.fontSize;
    if (open && overlapY(open.box, line.box) > 0.3 * height(line.box)) return join(open, line);
    if (open && wrapped && close && filled[i].size < filled[i - 1].size + open.lines.length && filled[i].size < layout.columns.length) return join(open, line);
    bands.push({ box: line.box, lines: [line] });
  });
  return bands;
}

function join(band: Band, line: Line) {
  band.lines.push(line);
  band.box = extend(band.box, line.box);
}
