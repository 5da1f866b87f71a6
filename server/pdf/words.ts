import { extend, height, overlapX, overlapY, width, type Box } from '../../core/page/box';
import type { Word } from '../../core/page/page';
import { asIdeograph } from './ideographs';
import type { PlacedGlyph } from './typesetting';

/** A gap wider than this part of the font size ends a word. */
const wordGap = 0.17;
/** Text drawn twice within this part of the font size is drawn once, for weight. */
const sameplace = 0.15;

/** Dots of one leader stand no further apart than this many font sizes. */
const widestLeaderGap = 2;

/** Spaces that writers set inside a number: no-break, thin, narrow no-break, figure space. */
const groupingSpace = /^[\u00a0\u2009\u202f\u2007]$/;

const ligatures: Record<string, string> = { ﬀ: 'ff', ﬁ: 'fi', ﬂ: 'fl', ﬃ: 'ffi', ﬄ: 'ffl', ﬅ: 'st', ﬆ: 'st' };
const superscripts: Record<string, string> = Object.fromEntries([...'0123456789+-=()ni'].map((c, i) => [c, [...'⁰¹²³⁴⁵⁶⁷⁸⁹⁺⁻⁼⁽⁾ⁿⁱ'][i]]));
const raisedLetters: Record<string, string> = Object.fromEntries([...'abcdefghjklmoprstuvwxyz'].map((c, i) => [c, [...'ᵃᵇᶜᵈᵉᶠᵍʰʲᵏˡᵐᵒᵖʳˢᵗᵘᵛʷˣʸᶻ'][i]]));

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

function startRun(g: PlacedGlyph): Run {
  const cos = Math.cos(radians(g.angle));
  const sin = Math.sin(radians(g.angle));
  const start = g.x * cos + g.y * sin;
  return {
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
    end: start + g.advance,
    across: -g.x * sin + g.y * cos,
  };
}

const sameLine = (a: Run, b: Run) => a.angle === b.angle && Math.abs(a.across - b.across) < 0.1 * Math.max(a.fontSize, b.fontSize);
const sameSize = (a: Run, b: Run) => Math.abs(a.fontSize - b.fontSize) < 0.1 * Math.max(a.fontSize, b.fontSize);
const closeTogether = (a: Run, b: Run) => Math.abs(b.start - a.end) < wordGap * Math.max(a.fontSize, b.fontSize);
const sameText = (a: Run, b: Run) => sameLine(a, b) && sameSize(a, b) && a.text === b.text && Math.abs(a.start - b.start) < sameplace * a.fontSize;

/** Glyphs that follow each other without a gap form a run; a glyph drawn again in its place is dropped. */
function runsOf(glyphs: readonly PlacedGlyph[]): Run[] {
  const placed = glyphs
    .map((glyph) => ({ glyph, run: startRun(glyph) }))
    .sort((a, b) => a.run.angle - b.run.angle || lineKey(a.run) - lineKey(b.run) || a.run.start - b.run.start);
  const leaders = leaderDots(placed.map(({ glyph }) => glyph));
  const runs: Run[] = [];
  let open: Run | undefined;
  let last: Run | undefined;
  let mark = '';
  for (const { glyph, run } of placed) {
    if (glyph.space) {
      if (open && sameLine(open, run) && groupingSpace.test(glyph.text) && /\d$/.test(open.text)) {
        mark = glyph.text;
        continue;
      }
      // A space glyph ends a word only where there is room for one: some writers print spaces over the next glyph.
      if (open && sameLine(open, run) && glyph.advance > 0.05 * glyph.fontSize && run.end > open.end && !/^\.+$/.test(open.text)) open = undefined;
      continue;
    }
    if (last && sameText(last, run)) continue;
    last = run;
    if (open && leaders.has(glyph) !== /^\.+$/.test(open.text) && (leaders.has(glyph) || /^\.{4,}$/.test(open.text))) open = undefined;
    const leads = open && leaders.has(glyph) && /^\.+$/.test(open.text) && run.start - open.end < widestLeaderGap * open.fontSize;
    const grouped = mark !== '' && open && /^\d/.test(run.text) && run.start - open.end < 0.5 * open.fontSize;
    if (open && sameLine(open, run) && sameSize(open, run) && (grouped || leads || closeTogether(open, run))) {
      open.text += (grouped ? mark : '') + run.text;
      open.glyphs.push(...(grouped ? [mark] : []), run.text);
      open.end = Math.max(open.end, run.end);
      open.box = extend(open.box, run.box);
    } else {
      runs.push((open = run));
    }
    mark = '';
  }
  return runs;
}

/** Dots of a leader: four or more in a row, with or without spaces between, lead from a text to its page or amount. */
function leaderDots(glyphs: readonly PlacedGlyph[]): Set<PlacedGlyph> {
  const dots = new Set<PlacedGlyph>();
  let row: PlacedGlyph[] = [];
  for (const glyph of [...glyphs, undefined]) {
    if (glyph?.text === '.') row.push(glyph);
    else if (!glyph?.space) {
      if (row.length >= 4) row.forEach((dot) => dots.add(dot));
      row = [];
    }
  }
  return dots;
}

/** Baselines within a quarter of a point fall on one line whatever the order of drawing. */
const lineKey = (run: Run) => Math.round(run.across * 4);

/** Raised small text beside larger text becomes superscript characters, so that a mark never reads as a digit. */
function raise(runs: Run[]): Run[] {
  const byPlace = [...runs].sort((a, b) => a.box[1] - b.box[1]);
  const out: Run[] = [];
  for (const run of runs) {
    const base = run.text.length <= 4 && run.angle === 0 ? baseOf(run, byPlace) : undefined;
    const raised = base && [...run.text].map((c) => superscripts[c] ?? raisedLetters[c] ?? (/[*†‡§,]/.test(c) ? c : undefined));
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
      mark.fontSize < 0.85 * run.fontSize &&
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
  const reversed = [...glyphs].reverse().map((glyph) => mirrored[glyph] ?? glyph.replace(/[\ufb50-\ufdff\ufe70-\ufefc]/g, (form) => form.normalize('NFKC'))).join('');
  return reversed.replace(/[\d\u0660-\u0669\u06f0-\u06f9](?:[\d\u0660-\u0669\u06f0-\u06f9.,:/\u066b\u066c]*[\d\u0660-\u0669\u06f0-\u06f9])?/g, (number) => [...number].reverse().join(''));
}

const tidy = (text: string) => [...text.normalize('NFC')].map((c) => ligatures[c] ?? asIdeograph(c)).join('').replace(/[\u0000-\u001f\u200b\ufeff\u00ad]/g, '');

/** Words of a page in reading order of their lines, from its glyphs in any order. */
export function wordsOf(glyphs: readonly PlacedGlyph[]): Word[] {
  return raise(runsOf(glyphs).map((run) => ({ ...run, text: inOrderOfReading(run.glyphs) })))
    .map(({ start: _s, end: _e, across: _a, glyphs: _g, ...word }) => ({ ...word, text: tidy(word.text), box: word.box.map((v) => Math.round(v * 100) / 100) as unknown as Box }))
    .filter((word) => word.text !== '')
    .sort((a, b) => a.baseline - b.baseline || a.box[0] - b.box[0]);
}
