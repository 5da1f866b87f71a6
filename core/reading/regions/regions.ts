import { around, grow, height, holdsCentre, middleY, overlapX, overlaps, width, type Box } from '../../page/box';
import { linesOf, textOf, type Line } from '../../page/lines';
import type { PageContent, Rule } from '../../page/page';
import { looksNumeric } from '../../values/numeric';
import { connected, joined, near, positions } from '../rules';
import { phrasesOf } from '../phrases';
import { wordsOfTagged } from '../tagged-words';
import { blocksOf } from './blocks';
import { isLeader, isTypedRule } from './print';
import { stacksOfRules } from './rule-stacks';
import { stacksOfShading } from './shaded-stacks';
import type { Run } from './breaks';
import { grown } from './runs';
import { stripsOf } from './strips';
import { isChart, readsAsTable } from './table-test';
import { zonesOf, type Zone } from './zones';

/** Where a table may stand, and which marks speak for it. */
export interface Region {
  readonly box: Box;
  readonly words: readonly number[];
  readonly by: 'tags' | 'grid' | 'rules' | 'shading' | 'space';
}

/**
 * Proposes the regions of a page: what the file's tags tell and closed grids of rules, then in each zone of the page the
 * tables that grow from rules across, shaded rows, and lines parted by white space. Words once claimed are not proposed again.
 */
export function regionsOf(page: PageContent, furniture: ReadonlySet<number>): Region[] {
  const dashes = typedLines(page);
  const free = new Set(
    page.words.flatMap((word, i) =>
      furniture.has(i) || word.angle !== 0 || isLeader(word.text) || dashes.has(i) ? [] : [i],
    ),
  );
  const regions: Region[] = [];
  const claim = (words: readonly number[], box: Box, by: Region['by']) => {
    words.forEach((i) => free.delete(i));
    const whole = around([...words.map((i) => page.words[i].box), box])!;
    // Headings may be turned on their side to save room.
    const turned = page.words.flatMap((word, i) =>
      (word.angle === 90 || word.angle === 270) && holdsCentre(whole, word.box) ? [i] : [],
    );
    regions.push({ box: whole, words: [...words, ...turned], by });
  };
  for (const { words, box } of taggedRegions(page, free)) claim(words, box, 'tags');
  const groups = gridsStacked(connected(joined([...page.rules, ...typedRules(page, dashes)])));
  const closed = partsJoined(
    page,
    free,
    groups.filter((group) => isClosedGrid(group)),
  );
  for (const group of closed) {
    const words = [...free].filter((i) => holdsCentre(grow(group.box, 1), page.words[i].box));
    if (words.length >= 2) claim(words, group.box, 'grid');
  }
  const rules = groups.filter((group) => !isClosedGrid(group)).flatMap((group) => group.rules);
  const fills = page.fills.filter(({ box }) => !closed.some((group) => holdsCentre(group.box, box)));
  for (const strip of stripsOf(page, [...free], rules))
    for (const zone of zonesOf(
      page,
      strip,
      fills.filter((fill) => overlaps(fill.box, strip.box)),
    )) {
      const lines = linesOf(page.words, zone.words);
      for (const { from, to } of grown(page, zone, lines, seedsOf(page, zone, lines))) {
        const own = lines.slice(from, to);
        const box = around(own.map((line) => line.box))!;
        if (readsAsTable(page, own, markedBy(zone, box)) && !isChart(page, box))
          claim(
            own.flatMap((line) => line.words),
            grow(box, 1),
            markedBy(zone, box),
          );
      }
    }
  return regions.sort((a, b) => a.box[1] - b.box[1] || a.box[0] - b.box[0]);
}

/** A cell of more words than this holds a text, not a value: tags that arrange a page, not a table. */
const longestCell = 60;

/** Tables by the file's own tags, when they hold what a table holds: several rows and columns of short texts. */
function taggedRegions(page: PageContent, free: ReadonlySet<number>): { words: number[]; box: Box }[] {
  return (page.tagged ?? []).flatMap((table) => {
    const rows = wordsOfTagged(page, table);
    const words = rows
      .flat()
      .flatMap((cell) => cell.words)
      .filter((w) => free.has(w));
    const filled = rows.map((row) => row.filter((cell) => cell.words.length > 0).length);
    const box = around(words.map((w) => page.words[w].box));
    const tagged = new Set(words);
    const strangers = box ? [...free].filter((w) => !tagged.has(w) && holdsCentre(box, page.words[w].box)) : [];
    if (!box || rows.length < 2 || Math.max(...filled) < 2 || strangers.length > 0.1 * words.length) return [];
    // Words that the tags do not know stand in the table all the same.
    return rows.flat().some((cell) => cell.words.length > longestCell)
      ? []
      : [{ words: [...words, ...strangers], box: grow(box, 1) }];
  });
}

/** The words that draw a rule: long rows of dashes, and short ones on a line of nothing else. */
function typedLines(page: PageContent): Set<number> {
  const among = page.words.flatMap((word, i) => (word.angle === 0 && /^[-=_─━═]{2,}$/.test(word.text) ? [i] : []));
  const typed = among.filter((w) => isTypedRule(page.words[w].text));
  if (among.length === typed.length) return new Set(typed);
  const upright = page.words.flatMap((word, i) => (word.angle === 0 ? [i] : []));
  const short = linesOf(page.words, upright).filter(
    ({ words }) =>
      words.length > 1 && words.every((w) => among.includes(w)) && words.some((w) => page.words[w].text.length > 2),
  );
  return new Set([...typed, ...short.flatMap(({ words }) => words)]);
}

/** Typed rules with more room between them than this, in font sizes, belong to tables beside each other. */
const betweenTyped = 2.4;

/** Rules typed as rows of dashes. A row of several is one rule from the first dash to the last, but for wide gaps. */
function typedRules(page: PageContent, dashes: ReadonlySet<number>): Rule[] {
  return linesOf(page.words, [...dashes]).flatMap((line) =>
    phrasesOf(page, line, betweenTyped).map(({ box }): Rule => ({
      direction: 'across',
      at: (box[1] + box[3]) / 2,
      from: box[0],
      to: box[2],
      thickness: 0.05 * line.fontSize,
    })),
  );
}

/** Room within a double rule, in points: the grids above and below it are one. */
const doubleRule = 5;

type Group = ReturnType<typeof connected>[number];

function gridsStacked(groups: readonly Group[]): Group[] {
  const out: Group[] = [];
  for (const group of [...groups].sort((a, b) => a.box[1] - b.box[1])) {
    const above = out.find(
      ({ box, rules }) =>
        group.box[1] >= box[3] - 1 &&
        group.box[1] - box[3] < doubleRule &&
        Math.abs(group.box[0] - box[0]) < 2 &&
        Math.abs(group.box[2] - box[2]) < 2 &&
        [rules, group.rules].every((set) => set.some((r) => r.direction === 'down')),
    );
    if (above)
      out[out.indexOf(above)] = { rules: [...above.rules, ...group.rules], box: around([above.box, group.box])! };
    else out.push(group);
  }
  return out;
}

/** A blank row between two parts of a grid is no higher than this, in points. */
const blankRow = 22;

/** Closed grids, those as one that only a blank row parts: the same rules down, nothing between, and no heading anew. */
function partsJoined(page: PageContent, free: ReadonlySet<number>, grids: readonly Group[]): Group[] {
  const edges = ({ rules }: Group) => positions(rules.flatMap((rule) => (rule.direction === 'down' ? [rule.at] : [])));
  const linesIn = (box: Box) =>
    linesOf(
      page.words,
      [...free].filter((i) => holdsCentre(box, page.words[i].box)),
    );
  const goesOn = (above: Group, grid: Group) => {
    const gap = grid.box[1] - above.box[3];
    const [own, other] = [edges(grid), edges(above)];
    const alike =
      own.length > 2 && own.length === other.length && own.every((at, i) => Math.abs(at - other[i]) <= 2 * near);
    if (
      gap < -1 ||
      gap > blankRow ||
      !alike ||
      linesIn([grid.box[0], above.box[3], grid.box[2], grid.box[1]]).length > 0
    )
      return false;
    const [first, before] = [linesIn(grid.box)[0], linesIn(above.box)[0]];
    return (
      first !== undefined &&
      before !== undefined &&
      first.words.slice(1).some((w) => looksNumeric(page.words[w].text)) &&
      textOf(page.words, first.words) !== textOf(page.words, before.words)
    );
  };
  return grids.reduce<Group[]>((out, grid) => {
    const above = out.at(-1);
    if (!above || !goesOn(above, grid)) return [...out, grid];
    return [...out.slice(0, -1), { rules: [...above.rules, ...grid.rules], box: around([above.box, grid.box])! }];
  }, []);
}

/** A grid whose sides are drawn and which is divided by rules down: its words are those between its rules. */
function isClosedGrid({ rules, box }: Group): boolean {
  const down = rules.filter((rule) => rule.direction === 'down');
  const side = (at: number) =>
    down.some((rule) => Math.abs(rule.at - at) <= near && rule.to - rule.from > 0.8 * height(box));
  const inner = down.filter((rule) => rule.at > box[0] + 2 * near && rule.at < box[2] - 2 * near);
  return (
    side(box[0]) && side(box[2]) && inner.length > 0 && rules.filter((rule) => rule.direction === 'across').length >= 2
  );
}

/** A rule this long, as part of the zone's width, tells where a table stands; shorter ones stand over sums and headings. */
const longRule = 0.6;

/** Where tables may stand in a zone: between long rules across, in shaded rows, in lines parted by white space. */
function seedsOf(page: PageContent, zone: Zone, lines: readonly Line[]): Run[] {
  const long = zone.rules.filter(
    (rule) => rule.direction === 'across' && rule.to - rule.from > longRule * width(zone.box),
  );
  const marked = [
    ...stacksOfRules(page, long, zone.words),
    ...framed(zone, lines),
    ...stacksOfShading(zone.fills).filter((box) => overlapX(box, zone.box) > 0.8 * width(box)),
  ];
  const seeds = marked.flatMap((box): Run[] => {
    const inside = lines.flatMap((line, i) => (middleY(line.box) > box[1] && middleY(line.box) < box[3] ? [i] : []));
    return inside.length > 1 ? [{ from: inside[0], to: inside.at(-1)! + 1 }] : [];
  });
  return [
    ...seeds,
    ...blocksOf(page, lines).map((block): Run => ({
      from: lines.indexOf(block[0]),
      to: lines.indexOf(block.at(-1)!) + 1,
    })),
  ];
}

/** A heading, a body and the end of it are told by so many rules. */
const leastRules = 3;

/** Boxes between rules of one and the same extent, above, within and below lines that keep to it: a table narrower than its zone. */
function framed({ rules, box }: Zone, lines: readonly Line[]): Box[] {
  const short = rules.filter(
    (rule) => rule.direction === 'across' && rule.to - rule.from > 60 && rule.to - rule.from <= longRule * width(box),
  );
  const alike = new Map<string, Rule[]>();
  for (const rule of short) {
    const key =
      [...alike.keys()].find(
        (own) => Math.abs(alike.get(own)![0].from - rule.from) < 1 && Math.abs(alike.get(own)![0].to - rule.to) < 1,
      ) ?? `${rule.from} ${rule.to}`;
    alike.set(key, [...(alike.get(key) ?? []), rule]);
  }
  return [...alike.values()].flatMap((own): Box[] => {
    const ats = own.map(({ at }) => at).sort((a, b) => a - b);
    const [top, bottom] = [ats[0], ats.at(-1)!];
    const inside = lines.filter((line) => middleY(line.box) > top && middleY(line.box) < bottom);
    const keeps =
      inside.every((line) => line.box[0] > own[0].from - 4 && line.box[2] < own[0].to + 4) &&
      inside.some((line) => line.box[0] < own[0].from + 14);
    return ats.length >= leastRules && inside.length >= 2 && keeps ? [[own[0].from, top, own[0].to, bottom]] : [];
  });
}

/** What marks a run of lines has: rules as long as it is wide, or shading. */
function markedBy(zone: Zone, box: Box): Region['by'] & ('rules' | 'shading' | 'space') {
  const across = zone.rules.filter(
    (rule) =>
      rule.direction === 'across' &&
      rule.at > box[1] - 6 &&
      rule.at < box[3] + 6 &&
      rule.to - rule.from > longRule * width(box),
  );
  if (across.length >= 2) return 'rules';
  return zone.fills.filter((fill) => overlaps(fill.box, box)).length >= 2 ? 'shading' : 'space';
}
