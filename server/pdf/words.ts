import { extend, height, overlapX, overlapY, width, type Box } from '../../core/page/box';
import type { Word } from '../../core/page/page';
import { withAccents } from './accents';
import { asIdeograph } from './ideographs';
import type { PlacedGlyph } from './typesetting';

/** A gap wider than this part of the font size ends a word. */
const wordGap = 0.17;
/** Kerning draws a point below the letter before it by up to this part of the font size. */
const widestKerning = 0.3;
/** Text drawn twice within this part of the font size is drawn once, for weight. */
const sameplace = 0.15;

/** Dots of one leader stand no further apart than this many font sizes. */
const widestLeaderGap = 2;

/** Spaces that writers set inside a number: no-break, thin, narrow no-break, figure space. */
const groupingSpace = /^[\u00a0\u2009\u202f\u2007]$/;

const ligatures: Record<string, string> = { ﬀ: 'ff', ﬁ: 'fi', ﬂ: 'fl', ﬃ: 'ffi', ﬄ: 'ffl', ﬅ: 'st', ﬆ: 'st' };
const superscripts: Record<string, string> = Object.fromEntries(
  [...'0123456789+-=()ni'].map((c, i) => [c, [...'⁰¹²³⁴⁵⁶⁷⁸⁹⁺⁻⁼⁽⁾ⁿⁱ'][i]]),
);
const raisedLetters: Record<string, string> = Object.fromEntries(
  [...'abcdefghjklmoprstuvwxyz'].map((c, i) => [c, [...'ᵃᵇᶜᵈᵉᶠᵍʰʲᵏˡᵐᵒᵖʳˢᵗᵘᵛʷˣʸᶻ'][i]]),
);

interface Run extends Omit<Word, 'box'> {
  box: Box;
  /** Position of the run's end along its own baseline, and how far the baseline lies across it. */
  readonly start: number;
  end: number;
  readonly across: number;
  text: string;
  /** The text glyph by glyph, left to right. */
  readonly glyphs: string[];
}

const radians = (degrees: number) => (degrees * Math.PI) / 180;

function boxOf(g: PlacedGlyph): Box {
  if (g.angle === 0) return [g.x, g.y - g.ascent, g.x + g.advance, g.y + g.descent];
  const cos = Math.cos(radians(g.angle));
  const sin = Math.sin(radians(g.angle));
  const corners = [
    [0, -g.ascent],
    [g.advance, -g.ascent],
    [0, g.descent],
    [g.advance, g.descent],
  ].map(([along, across]) => [g.x + along * cos - across * sin, g.y + along * sin + across * cos]);
  const xs = corners.map(([x]) => x);
  const ys = corners.map(([, y]) => y);
  return [Math.min(...xs), Math.min(...ys), Math.max(...xs), Math.max(...ys)];
}

/** A glyph with its place along its baseline and across it, in points. */
interface OnBaseline {
  readonly glyph: PlacedGlyph;
  readonly start: number;
  readonly end: number;
  readonly across: number;
  readonly key: number;
}

function onBaseline(glyph: PlacedGlyph): OnBaseline {
  const { x, y, angle, advance } = glyph;
  const cos = angle === 0 ? 1 : Math.cos(radians(angle));
  const sin = angle === 0 ? 0 : Math.sin(radians(angle));
  const start = x * cos + y * sin;
  const across = -x * sin + y * cos;
  // Baselines within a quarter of a point fall on one line whatever the order of drawing.
  return { glyph, start, end: start + advance, across, key: Math.round(across * 4) };
}

const startRun = ({ glyph: g, start, end, across }: OnBaseline): Run => ({
  text: g.text,
  glyphs: [g.text],
  box: boxOf(g),
  baseline: g.y,
  fontSize: g.fontSize,
  weight: g.bold ? 700 : 400,
  italic: g.italic,
  angle: g.angle,
  ...(g.tag === undefined ? {} : { tag: g.tag }),
  start,
  end,
  across,
});

interface Placed {
  readonly angle: number;
  readonly across: number;
  readonly fontSize: number;
}

const sameLine = (a: Placed, angle: number, across: number, fontSize: number) =>
  a.angle === angle && Math.abs(a.across - across) < 0.1 * Math.max(a.fontSize, fontSize);
const sameSize = (a: number, b: number) => Math.abs(a - b) < 0.1 * Math.max(a, b);

/** Is a glyph the one before it drawn again in the same place, for weight? */
const drawnAgain = (last: OnBaseline, next: OnBaseline) =>
  last.glyph.text === next.glyph.text &&
  last.glyph.angle === next.glyph.angle &&
  Math.abs(last.start - next.start) < sameplace * last.glyph.fontSize &&
  Math.abs(last.across - next.across) < 0.1 * Math.max(last.glyph.fontSize, next.glyph.fontSize) &&
  sameSize(last.glyph.fontSize, next.glyph.fontSize);

/** Glyphs that follow each other without a gap form a run; a glyph drawn again in its place is dropped. */
function runsOf(glyphs: readonly PlacedGlyph[]): Run[] {
  const placed = withAccents(glyphs)
    .map(onBaseline)
    .sort((a, b) => a.glyph.angle - b.glyph.angle || a.key - b.key || a.start - b.start);
  const { leaders, rests } = leaderDots(placed);
  const runs: Run[] = [];
  let open: Run | undefined;
  let last: OnBaseline | undefined;
  /** The run that a space ended just now. */
  let left: Run | undefined;
  let mark = '';
  for (const next of placed) {
    const { glyph, start, end, across } = next;
    const onLine = open !== undefined && sameLine(open, glyph.angle, across, glyph.fontSize);
    if (glyph.space) {
      if (open && onLine && groupingSpace.test(glyph.text) && /\d$/.test(open.text)) {
        mark = glyph.text;
        continue;
      }
      // A space glyph ends a word only where there is room for one: some writers print spaces over the next glyph.
      if (
        open &&
        onLine &&
        glyph.advance > 0.05 * glyph.fontSize &&
        end > open.end &&
        !(last && leaders.has(last.glyph))
      ) {
        left = open;
        open = undefined;
      }
      continue;
    }
    if ((last && drawnAgain(last, next)) || rests.has(glyph)) continue;
    last = next;
    const leads = leaders.has(glyph);
    const dots = open !== undefined && open.text.endsWith('.') && /^\.+$/.test(open.text);
    if (open && leads !== dots && (leads || open.text.length >= 4)) open = undefined;
    const gap = open ? start - open.end : Infinity;
    const follows =
      open !== undefined &&
      onLine &&
      sameSize(open.fontSize, glyph.fontSize) &&
      ((gap < wordGap * Math.max(open.fontSize, glyph.fontSize) && gap > -widestKerning * open.fontSize) ||
        (mark !== '' && /^\d/.test(glyph.text) && gap < 0.5 * open.fontSize) ||
        (leads && dots && gap < widestLeaderGap * open.fontSize));
    if (open && follows) {
      open.text += mark + glyph.text;
      if (mark !== '') open.glyphs.push(mark);
      open.glyphs.push(glyph.text);
      open.end = Math.max(open.end, end);
      open.box = extend(open.box, boxOf(glyph));
    } else {
      // Kerning may draw words together until only the space between them tells that they are two.
      const afterSpace =
        left !== undefined &&
        sameLine(left, glyph.angle, across, glyph.fontSize) &&
        start - left.end < 0.25 * glyph.fontSize;
      runs.push((open = { ...startRun(next), ...(afterSpace ? { afterSpace } : {}) }));
    }
    left = undefined;
    mark = '';
  }
  return runs;
}

/**
 * Dots of a leader: four or more in a row, with or without spaces between, lead from a text to its page or amount. Where
 * there was room for two or three only, they end where the other leaders do: rests, which are no text.
 */
function leaderDots(placed: readonly OnBaseline[]): { leaders: Set<PlacedGlyph>; rests: Set<PlacedGlyph> } {
  const rows: PlacedGlyph[][] = [];
  let row: PlacedGlyph[] = [];
  for (const glyph of [...placed.map((each) => each.glyph), undefined]) {
    if (glyph?.text === '.') row.push(glyph);
    else if (!glyph?.space) {
      if (row.length >= 2) rows.push(row);
      row = [];
    }
  }
  const endOf = (own: readonly PlacedGlyph[]) => own.at(-1)!.x + own.at(-1)!.advance;
  const long = rows.filter((own) => own.length >= 4);
  const ends = long.map(endOf);
  const short = rows.filter(
    (own) => own.length < 4 && ends.filter((end) => Math.abs(end - endOf(own)) < 0.3 * own[0].fontSize).length >= 2,
  );
  return { leaders: new Set(long.flat()), rests: new Set(short.flat()) };
}

/** Raised text is smaller than this part of the text that it stands beside. */
const raisedSize = 0.85;

/** Raised small text beside larger text becomes superscript characters, so that a mark never reads as a digit. */
function raise(runs: Run[]): Run[] {
  const byPlace = [...runs].sort((a, b) => a.box[1] - b.box[1]);
  const largest = runs.reduce((most, run) => Math.max(most, run.fontSize), 0);
  const out: Run[] = [];
  for (const run of runs) {
    const base =
      run.text.length <= 4 && run.angle === 0 && run.fontSize < raisedSize * largest ? baseOf(run, byPlace) : undefined;
    const raised =
      base && [...run.text].map((c) => superscripts[c] ?? raisedLetters[c] ?? (/[*†‡§,]/.test(c) ? c : undefined));
    if (base && raised && raised.every((c) => c !== undefined)) {
      const text = raised.join('');
      if (run.start - base.end < wordGap * base.fontSize && run.start > base.start) {
        base.text += text;
        base.box = extend(base.box, run.box);
        base.end = Math.max(base.end, run.end);
      } else {
        out.push({ ...run, text, baseline: base.baseline });
      }
    } else {
      out.push(run);
    }
  }
  return out;
}

function baseOf(mark: Run, runs: readonly Run[]): Run | undefined {
  return runs.find(
    (run) =>
      run !== mark &&
      run.angle === 0 &&
      mark.fontSize < raisedSize * run.fontSize &&
      mark.baseline < run.baseline - 0.15 * run.fontSize &&
      mark.baseline > run.baseline - run.fontSize &&
      overlapY(run.box, mark.box) > 0.3 * height(mark.box) &&
      -overlapX(run.box, mark.box) < 0.6 * run.fontSize &&
      width(mark.box) < 3 * run.fontSize,
  );
}

/** Letters of scripts written from right to left, Arabic presentation forms among them. */
const rightToLeft = /[\u0590-\u08ff\ufb1d-\ufdff\ufe70-\ufefc]/;

/** The letters of a run in the order of reading: glyphs stand left to right, a right-to-left script reads the other way, its numbers not. */
function inOrderOfReading(glyphs: readonly string[]): string {
  if (!glyphs.some((glyph) => rightToLeft.test(glyph))) return glyphs.join('');
  const mirrored: Record<string, string> = { '(': ')', ')': '(', '[': ']', ']': '[' };
  const reversed = [...glyphs]
    .reverse()
    .map((glyph) => mirrored[glyph] ?? glyph.replace(/[\ufb50-\ufdff\ufe70-\ufefc]/g, (form) => form.normalize('NFKC')))
    .join('');
  return reversed.replace(
    /[\d\u0660-\u0669\u06f0-\u06f9](?:[\d\u0660-\u0669\u06f0-\u06f9.,:/\u066b\u066c]*[\d\u0660-\u0669\u06f0-\u06f9])?/g,
    (number) => [...number].reverse().join(''),
  );
}

const tidy = (text: string) =>
  [...text.normalize('NFC')]
    .map((c) => ligatures[c] ?? asIdeograph(c))
    .join('')
    .replace(/[\u0000-\u001f\u200b\ufeff\u00ad]/g, '');

/** Words of a page in reading order of their lines, from its glyphs in any order. */
export function wordsOf(glyphs: readonly PlacedGlyph[]): Word[] {
  return raise(runsOf(glyphs).map((run) => ({ ...run, text: inOrderOfReading(run.glyphs) })))
    .map(({ start: _s, end: _e, across: _a, glyphs: _g, ...word }) => ({
      ...word,
      text: tidy(word.text),
      box: word.box.map((v) => Math.round(v * 100) / 100) as unknown as Box,
    }))
    .filter((word) => word.text !== '')
    .sort((a, b) => a.baseline - b.baseline || a.box[0] - b.box[0]);
}
