import { monthNumber } from '../values/date';
import { asTemplate, template } from '../values/template';
import { holdsCentre } from '../page/box';
import { textOf } from '../page/lines';
import type { PageContent } from '../page/page';
import { phrasesOf } from '../reading/phrases';
import { totalWords } from '../reading/roles';
import type { PaperLine } from '../steps/step';
import { reportSheet } from './sheets-seen';
import type { Detector, SeenReport, Suggestion } from './suggestion';

/** A line is looked for on so many pages from the first. */
export const pagesLookedAt = 2;
/** So many values are proposed at most. */
const mostStamps = 4;
/** In at least this share of the reports a line must stand. */
export const inMost = 0.8;
/** A longer line is a sentence. */
const mostWords = 16;

interface Line {
  readonly text: string;
  readonly words: readonly string[];
}

/** Lines outside the tables that are the same in the reports but for a part: the part becomes a column. */
export const pageHeadings: Detector = ({ reports }) => {
  const lines = reports.map((report) => linesOutside(report, 'all tables'));
  const known = new Set(reports.length === 0 ? [] : reportSheet(reports[0]).columns.map(({ name }) => name.toLowerCase()));
  const told = new Set<string>();
  const found: Suggestion[] = [];
  for (const line of lines[0] ?? []) {
    // Values beside labels are for another detector; totals and page numbers are no heading.
    if (/\S:(?:\s|$)/.test(line.text) || totalWords.test(line.text) || pageNumber.test(line.text)) continue;
    const alike = lines.map((own) => bestMatch(line, own));
    const those = alike.filter((each) => each !== undefined);
    if (those.length < inMost * reports.length) continue;
    const varying = varyingIn(line, those, reports.length === 1);
    if (varying.length === 0 || varying.length > 2) continue;
    const holes = named(line, varying);
    const written = templateFor(line, holes);
    const parts = template(written);
    const values = lines.map((own) => valuesIn(own, parts));
    const fits = values.filter((each) => each !== undefined).length;
    const saying = JSON.stringify(values.map((each) => each && Object.values(each)));
    if (fits < inMost * reports.length || told.has(saying) || holes.some(({ name }) => known.has(name.toLowerCase()))) continue;
    told.add(saying);
    found.push({ zone: 'eachReport', kind: 'stamp', settings: { from: 'page text', template: written }, name: `Stamp ${holes.map(({ name }) => name.toLowerCase()).join(' and ')} from the paper`, reason: `“${line.text}” is printed beside the table${reports.length > 1 ? `, and a line like it in ${fits} of ${reports.length} reports` : ''}` });
    for (const { name } of holes) known.add(name.toLowerCase());
    if (found.length === mostStamps) break;
  }
  return found;
};

/** Lines of the first pages that are in no taken table, or in no found one; each once. */
export function linesOutside({ read, carried }: SeenReport, of: 'taken tables' | 'all tables'): Line[] {
  const pieces = [...carried.matches.flatMap((match) => match.pieces), ...(of === 'all tables' ? read.tables.flatMap((table) => table.pieces) : [])];
  const texts = new Set<string>();
  for (const page of read.pages.slice(0, pagesLookedAt)) {
    const boxes = pieces.filter((piece) => piece.page === page.number).map(({ box }) => box);
    for (const line of carried.paper.lines(page.number)) if (line.words.every((word) => !boxes.some((box) => holdsCentre(box, page.words[word].box)))) for (const text of phrasesIn(line, page)) texts.add(text);
  }
  return [...texts].map(lineOf).filter(({ words }) => words.length <= mostWords);
}

const lineOf = (text: string): Line => ({ text, words: text.split(/\s+/).filter(Boolean) });

/** White space of so many font sizes parts what stands on one line. */
const widest = 1.5;

/** The texts on a line, parted where there is much white space. */
export const phrasesIn = (line: PaperLine, page: PageContent): string[] => phrasesOf(page, line, widest).map(({ words }) => textOf(page.words, words));

const isMonth = (word: string) => /^\p{L}{3,}[.,]?$/u.test(word) && monthNumber(word.replace(/[.,]$/, '')) > 0;
const isChanging = (word: string) => /\d/.test(word) || isMonth(word);
const masked = (word: string) => (isMonth(word) ? 'M' : word.replace(/\d+/g, '#').toLowerCase());

/** The line of another report that says most of the same words at the same places, digits aside. */
function bestMatch(line: Line, others: readonly Line[]): Line | undefined {
  let best: Line | undefined;
  let most = 0;
  for (const other of others) {
    if (other.words.length !== line.words.length) continue;
    const same = line.words.filter((word, i) => word.toLowerCase() === other.words[i].toLowerCase()).length;
    const likely = line.words.filter((word, i) => masked(word) === masked(other.words[i])).length;
    const literal = line.words.filter((word, i) => word === other.words[i] && !isChanging(word) && /\p{L}/u.test(word)).length;
    if (literal === 0 || likely * 2 < line.words.length) continue;
    if (likely + same / 100 > most) {
      most = likely + same / 100;
      best = other;
    }
  }
  return best;
}

const pageNumber = /(?:^|[\s,(])(?:page|seite|pagina|página|sida|strona|side|str\.?|p\.)\s*\d+/i;

/** Stretches of words that are not the same in all, with what is of one date with them. */
function varyingIn(line: Line, alike: readonly Line[], alone: boolean): { from: number; to: number }[] {
  const varies = line.words.map((word, i) => (alone ? isChanging(word) : alike.some((other) => other.words[i] !== word)));
  if (!varies.some(Boolean)) return [];
  const stretches: { from: number; to: number }[] = [];
  for (let i = 0; i < line.words.length; i++) {
    if (!varies[i]) continue;
    let [from, to] = [i, i];
    while (from > (stretches.at(-1)?.to ?? -1) + 1 && isChanging(line.words[from - 1]) && isChanging(line.words[i])) from--;
    while (to + 1 < line.words.length && !/[,;]$/.test(line.words[to]) && (varies[to + 1] || (isChanging(line.words[to + 1]) && isChanging(line.words[i])))) to++;
    stretches.push({ from, to });
    i = to;
  }
  return stretches;
}

/** A line with a part as a hole: the numbers and dates in it, or else the words that were pointed at. @returns undefined where nothing of the line would stay */
export function templateAround(text: string, pointed: string): { readonly template: string; readonly names: readonly string[] } | undefined {
  const line = lineOf(text);
  const at = line.words.indexOf(pointed);
  const varying = varyingIn(line, [], true).filter(({ from, to }) => at >= from && at <= to);
  const stretches = varying.length > 0 ? varying : at >= 0 ? [{ from: at, to: at }] : [];
  if (stretches.length === 0 || line.words.length === stretches[0].to - stretches[0].from + 1) return undefined;
  const holes = named(line, stretches);
  return { template: templateFor(line, holes), names: holes.map(({ name }) => name) };
}

interface Hole {
  readonly from: number;
  readonly to: number;
  readonly name: string;
}

/** Words without the marks around them; of several parts the last. */
const bare = (words: readonly string[]) => words.join(' ').replace(/^.*[,:;–]\s+(?=\S)/u, '').replace(/[\s:.,;–-]+$/u, '').replace(/^[\s:.,;–-]+/u, '');
const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);

/** Names for the parts that vary: what they look like, what stands before them, or behind. */
function named(line: Line, stretches: readonly { from: number; to: number }[]): Hole[] {
  const taken = new Set<string>();
  return stretches.map(({ from, to }, nth) => {
    const words = line.words.slice(from, to + 1);
    const before = line.words.slice(nth === 0 ? Math.max(0, from - 3) : Math.max(stretches[nth - 1].to + 1, from - 3), from).filter((word) => /\p{L}/u.test(word));
    const after = line.words.slice(to + 1, stretches[nth + 1]?.from ?? to + 2).filter((word) => /\p{L}/u.test(word));
    const looks = words.length === 1 && /^(?:19|20)\d\d[.,]?$/.test(words[0]) ? 'Year' : words.some(isMonth) && !words.some((word) => /^\d{1,2}[.,]?$/.test(word)) ? 'Month' : undefined;
    const says = nth === 0 && looks === undefined && before.length > 0 ? bare(before) : undefined;
    const wanted = says ?? looks ?? (after.length > 0 && !after.some(isChanging) ? capital(bare(after.slice(0, 1))) : words.some(isMonth) ? 'Date' : before.length > 0 ? capital(bare(before.slice(-1))) : 'Heading');
    let name = wanted;
    for (let n = 2; taken.has(name); n++) name = `${wanted} ${n}`;
    taken.add(name);
    return { from, to, name: name.replace(/[{}[\]\\:]/g, ' ').trim() || 'Heading' };
  });
}

function templateFor(line: Line, holes: readonly Hole[]): string {
  let written = '';
  for (let i = 0; i < line.words.length; i++) {
    const hole = holes.find(({ from }) => from === i);
    // A comma behind a value is not of it.
    const behind = hole ? (/[,;.:]$/.exec(line.words[hole.to])?.[0] ?? '') : '';
    written += `${i === 0 ? '' : ' '}${hole ? `{${hole.name}}${asTemplate(behind)}` : asTemplate(line.words[i])}`;
    if (hole) i = hole.to;
  }
  return written;
}

const valuesIn = (lines: readonly Line[], parts: ReturnType<typeof template>): Record<string, string> | undefined => {
  for (const { text } of lines) {
    const found = parts.within(text);
    if (found) return found.values;
  }
  return undefined;
};
