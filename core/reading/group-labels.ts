import { around, type Box } from '../page/box';
import type { Line } from '../page/lines';
import type { PageContent } from '../page/page';
import { isAmount, phrasesOf } from './phrases';

/** A gap wider than this many font sizes parts the texts of a row. */
const textGap = 0.8;
/** So many lines on top may hold headings. */
const headingLines = 4;
/** A label stands in the middle of its rows if it is off by no more than this, in font sizes. */
const inMiddle = 0.3;
/** The part of the lines right of the labels that are rows, and not lines of texts that wrap. */
const mostRows = 0.8;

interface Labelled {
  readonly line: Line;
  readonly label: readonly number[];
  readonly rest: readonly number[];
}

/**
 * Labels that stand at the middle height of the rows which they name together, beside the lines of these or between two,
 * put on the line of the first. Where the labels do not stand in the middle of rows without a label of their own, one
 * group after the other down to the last line, the lines are given back as they are.
 */
export function withGroupLabels(page: PageContent, lines: readonly Line[]): readonly Line[] {
  if (lines.length < 4) return lines;
  const boxOf = (words: readonly number[]) => around(words.map((w) => page.words[w].box))!;
  const [left, { fontSize }] = [Math.min(...lines.map(({ box }) => box[0])), lines.at(-1)!];
  const withoutLabel = lines.filter((line) => line.box[0] > left + fontSize && isRow(page, line.words, line));
  if (withoutLabel.length < 2) return lines;
  const edge = Math.min(...withoutLabel.map(({ box }) => box[0])) - 1;
  const own = lines.map((line): Labelled => ({
    line,
    label: line.words.filter((w) => page.words[w].box[2] <= edge),
    rest: line.words.filter((w) => page.words[w].box[2] > edge),
  }));
  const crossing = own.findLastIndex(({ rest }) => rest.some((w) => page.words[w].box[0] < edge));
  if (crossing >= headingLines) return lines;
  for (let heads = crossing + 1; heads <= headingLines; heads++) {
    const body = own.slice(heads);
    const rows = body.filter(({ rest }) => rest.length > 0);
    const labels = body.filter(({ label }) => label.length > 0);
    if (
      labels.length < 2 ||
      rows.length < 3 ||
      rows.filter(({ line, rest }) => isRow(page, rest, line)).length < mostRows * rows.length
    )
      continue;
    const firsts = firstRows(
      rows.map(({ rest }) => boxOf(rest)),
      labels.map(({ label }) => boxOf(label)),
      fontSize,
    );
    if (!firsts) continue;
    const labelOf = new Map(firsts.map((row, i) => [rows[row], labels[i].label]));
    return [
      ...lines.slice(0, heads),
      ...rows.map((row) => {
        const words = [...(labelOf.get(row) ?? []), ...row.rest];
        const across = boxOf(words);
        return { ...row.line, words, box: [across[0], row.line.box[1], across[2], row.line.box[3]] as const };
      }),
    ];
  }
  return lines;
}

const isRow = (page: PageContent, words: readonly number[], line: Line): boolean => {
  const phrases = phrasesOf(page, { ...line, words }, textGap);
  return phrases.length > 1 || (words.length > 0 && words.every((w) => isAmount(page.words[w].text)));
};

/** For each label the first of the rows in whose middle it stands; nothing where they are not in the middle, or not of all rows, or each stands beside its own row. */
function firstRows(rows: readonly Box[], labels: readonly Box[], fontSize: number): number[] | undefined {
  const middle = (box: Box) => (box[1] + box[3]) / 2;
  const firsts: number[] = [];
  let next = 0;
  for (const label of labels) {
    if (next >= rows.length) return undefined;
    let last = next;
    const off = (to: number) => Math.abs((rows[next][1] + rows[to][3]) / 2 - middle(label));
    while (last + 1 < rows.length && off(last + 1) < off(last)) last++;
    if (off(last) > inMiddle * fontSize) return undefined;
    firsts.push(next);
    next = last + 1;
  }
  const between = labels.some((label) =>
    rows.every((row) => Math.abs(middle(row) - middle(label)) > inMiddle * fontSize),
  );
  return next === rows.length && between ? firsts : undefined;
}
