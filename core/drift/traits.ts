import { linesOf, textOf } from '../page/lines';
import type { PageContent } from '../page/page';
import type { TakeMatch } from '../intake/take';
import { cellText, isBlank, isError } from '../values/cell';
import { locales } from '../values/locale';
import { isUnit, scaleIn, unitBeside, unitIn } from '../values/unit';
import type { Column } from '../sheet/column';
import type { Sheet } from '../sheet/sheet';
import { printedNumber, type PrintedNumber } from './printed-number';

/** What a column of a report looks like, as it was printed: enough to tell it from another, little enough to be kept. */
export interface ColumnTraits {
  readonly name: string;
  /** Where its heading stands. */
  readonly page?: number;
  readonly words?: readonly number[];
  /** Cells that were looked at, those that are not blank, and how many of these print a number. */
  readonly cells: number;
  readonly filled: number;
  readonly numbers: number;
  /** Quartiles of the sizes of its numbers, as powers of ten; zeros left out. */
  readonly sizes?: readonly [number, number, number];
  /** What its numbers sum up to, signs left out; about so where not all rows are looked at. */
  readonly sum?: number;
  /** Digits after the decimal mark that most of its numbers have. */
  readonly decimals?: number;
  /** What stands beside most of its numbers: "kg", "€". */
  readonly unit?: string;
  /** How more of its texts that are no numbers look than in any other way, letters as "a", digits as "9", and how large a part that is. */
  readonly shape?: string;
  readonly shaped?: number;
  /** The smallest hashes of its distinct texts: a sample of values that is the same for the same values. */
  readonly sample: readonly number[];
}

/** What one take rule found in a report. */
export interface TableTraits {
  readonly rule: string;
  readonly tables: number;
  readonly headingRows: number;
  readonly rows: number;
  readonly columns: readonly ColumnTraits[];
  /** Pairs of columns, by their places, the first of which has the smaller number in nearly every row that has both; and by how much: the middle of the ratios, as a power of ten. */
  readonly smaller: readonly (readonly [number, number, ratio: number])[];
  /** Numbers that show beyond doubt a point, or a comma, as their decimal mark. */
  readonly points: number;
  readonly commas: number;
  /** What lines above the table state of its numbers, as printed: a scale ("in thousands") and a unit ("t"); "" for none. */
  readonly scale: string;
  readonly unit: string;
}

export interface ReportTraits {
  readonly tables: readonly TableTraits[];
  /** Tables found in it that no rule takes. */
  readonly others: number;
  /** Texts that did not fit the type of their column in the end: some of each column. */
  readonly misfits: readonly { readonly column: string; readonly texts: readonly string[] }[];
}

/** More rows than these are not looked at, but for every nth. */
const mostRows = 400;
const sampleSize = 24;
const mostTexts = 50;

export interface LookedAt {
  readonly matches: readonly TakeMatch[];
  /** The tables as their columns were first named: one sheet a table, or all of a report in one. */
  readonly sheets: readonly Sheet[];
  /** The tables as they were taken. */
  readonly taken: readonly Sheet[];
  readonly pages: readonly PageContent[];
  /** Tables found in the report. */
  readonly found: number;
  /** Its rows as they enter the dataset. */
  readonly last: Sheet;
}

/** What a report looks like to each take rule, before the steps change anything but the names of columns. */
export function traitsOf({ matches, sheets, taken, pages, found, last }: LookedAt): ReportTraits {
  const rules = [...new Set(matches.map(({ rule }) => rule))];
  const used = new Set(matches.flatMap((match) => match.found));
  return {
    tables: rules.map((rule) => {
      const own = matches.filter((match) => match.rule === rule);
      const tables = new Set(own.map(({ table }) => table));
      const parts = sheets.flatMap((sheet) => rowsOf(sheet, tables));
      const heading = taken.find((sheet) => sheet.rows.length > 0 && tables.has(sheet.rows.table(0)));
      return {
        rule,
        tables: own.length,
        headingRows: heading ? headingRows(heading) : 0,
        rows: parts.reduce((sum, { places }) => sum + places.length, 0),
        ...columnsOf(parts),
        ...statedAbove(own[0], pages),
      };
    }),
    others: Math.max(0, found - used.size),
    misfits: last.columns.flatMap(({ name, cells }) => {
      const texts = cells.flatMap((cell) => (isError(cell) ? [cell.text] : []));
      return texts.length > 0 ? [{ column: name, texts: [...new Set(texts)].slice(0, mostTexts) }] : [];
    }),
  };
}

/** Rows of a sheet that are of some tables. */
interface Part {
  readonly sheet: Sheet;
  readonly places: readonly number[];
}

function rowsOf(sheet: Sheet, tables: ReadonlySet<string>): Part[] {
  const places: number[] = [];
  for (let row = 0; row < sheet.rows.length; row++)
    if (tables.has(sheet.rows.table(row)) && sheet.rows.role(row) !== 'heading') places.push(row);
  return places.length > 0 ? [{ sheet, places }] : [];
}

function headingRows({ rows }: Sheet): number {
  const body = rows.find((row) => rows.role(row) !== 'heading');
  return body < 0 ? rows.length : body;
}

/** The cells of a column that are looked at, each with the number that it prints. Columns of one table have theirs in the same rows. */
interface Sampled {
  readonly texts: readonly string[];
  readonly numbers: readonly (PrintedNumber | undefined)[];
}

function columnsOf(parts: readonly Part[]): Pick<TableTraits, 'columns' | 'smaller' | 'points' | 'commas'> {
  const marks = { '.': 0, ',': 0 };
  const names = [...new Set(parts.flatMap(({ sheet }) => sheet.columns.map(({ name }) => name)))];
  const stride = Math.ceil(Math.max(0, ...parts.map(({ places }) => places.length)) / mostRows);
  const sampled = parts.map(({ sheet, places }) => {
    return { sheet, places: stride === 1 ? places : places.filter((_, i) => i % stride === 0) };
  });
  const there: { traits: ColumnTraits; sample: Sampled }[] = [];
  for (const name of names) {
    const texts: string[] = [];
    let cells = 0;
    let named: { column: Column; sheet: Sheet } | undefined;
    for (const { sheet, places } of sampled) {
      const column = sheet.columns.find((each) => each.name === name);
      if (column) named ??= { column, sheet };
      if (column) cells += places.length;
      for (const place of places)
        texts.push(column && !isBlank(column.cells[place]) ? cellText(column.cells[place]).trim() : '');
    }
    const sample = { texts, numbers: texts.map((text) => (text === '' ? undefined : printedNumber(text))) };
    const heading =
      named?.column.namedBy === undefined ? [] : named.sheet.rows.book.origins.places(named.column.namedBy);
    const first = heading[0]?.page;
    const traits = {
      name,
      ...(first === undefined
        ? {}
        : { page: first, words: heading.flatMap(({ page, words }) => (page === first ? [...words] : [])) }),
      cells,
      ...traitsOfTexts(sample, marks),
      ...sumOf(sample, stride),
    };
    if (traits.words !== undefined || traits.filled > 0) there.push({ traits, sample });
  }
  return {
    columns: there.map(({ traits }) => traits),
    smaller: smallerOf(there),
    points: marks['.'],
    commas: marks[','],
  };
}

/** Columns of numbers of which more are not held against each other, and rows with both that are needed. */
const mostPaired = 12;
const leastRows = 8;
const nearlyAll = 0.95;

function smallerOf(
  columns: readonly { readonly traits: ColumnTraits; readonly sample: Sampled }[],
): [number, number, number][] {
  const places = columns
    .flatMap(({ traits: { numbers, filled } }, place) =>
      numbers >= leastRows && numbers >= nearlyAll * filled ? [place] : [],
    )
    .slice(0, mostPaired);
  const pairs: [number, number, number][] = [];
  places.forEach((a, n) => {
    const own = columns[a].sample.numbers;
    for (const b of places.slice(n + 1)) {
      const others = columns[b].sample.numbers;
      let [less, more] = [0, 0];
      const ratios: number[] = [];
      for (let row = 0; row < own.length; row++) {
        const [size, other] = [own[row]?.size, others[row]?.size];
        if (size === undefined || other === undefined || size === other) continue;
        if (size < other) less++;
        else more++;
        if (size > 0 && other > 0) ratios.push(Math.abs(Math.log10(other / size)));
      }
      if (less + more < leastRows || ratios.length === 0) continue;
      const ratio = Math.round(1000 * ratios.sort((x, y) => x - y)[ratios.length >> 1]) / 1000;
      if (less >= nearlyAll * (less + more)) pairs.push([a, b, ratio]);
      else if (more >= nearlyAll * (less + more)) pairs.push([b, a, ratio]);
    }
  });
  return pairs;
}

function sumOf({ numbers }: Sampled, stride: number): Pick<ColumnTraits, 'sum'> {
  const sizes = numbers.flatMap((number) => number?.size ?? []);
  return sizes.length === 0
    ? {}
    : { sum: Number((stride * sizes.reduce((sum, size) => sum + size, 0)).toPrecision(6)) };
}

/** The column's texts in short; counts the decimal marks that it meets. */
function traitsOfTexts(
  { texts, numbers: printed }: Sampled,
  marks: Record<'.' | ',', number>,
): Omit<ColumnTraits, 'name' | 'cells'> {
  const sizes: number[] = [];
  const decimals = new Map<number, number>();
  const units = new Map<string, number>();
  const shapes = new Map<string, number>();
  const hashes = new Set<number>();
  let [filled, numbers] = [0, 0];
  texts.forEach((text, i) => {
    if (text === '') return;
    filled++;
    hashes.add(hashOf(text));
    const number = printed[i];
    if (!number) return count(shapes, shapeOf(text));
    numbers++;
    if (number.size > 0) sizes.push(Math.log10(number.size));
    if (number.mark) marks[number.mark]++;
    count(decimals, number.decimals);
    count(units, number.plain ? '' : unitBeside(text));
  });
  sizes.sort((a, b) => a - b);
  const at = (part: number) => rounded(sizes[Math.floor(part * (sizes.length - 1))]);
  const unit = most(units, numbers);
  const [shape] = [...shapes].sort((a, b) => b[1] - a[1]);
  return {
    filled,
    numbers,
    ...(sizes.length > 0 ? { sizes: [at(0.25), at(0.5), at(0.75)] as const } : {}),
    ...(numbers > 0 ? { decimals: most(decimals, numbers, 0) ?? -1 } : {}),
    ...(unit ? { unit } : {}),
    ...(shape === undefined ? {} : { shape: shape[0], shaped: rounded(shape[1] / (filled - numbers)) }),
    sample: [...hashes].sort((a, b) => a - b).slice(0, sampleSize),
  };
}

const rounded = (n: number) => Math.round(n * 100) / 100;
const count = <Key>(counts: Map<Key, number>, key: Key) => void counts.set(key, (counts.get(key) ?? 0) + 1);

/** What most of so many have; undefined where no one thing is in so large a part. */
function most<Key>(counts: ReadonlyMap<Key, number>, of: number, part = 0.8): Key | undefined {
  const [first] = [...counts].sort((a, b) => b[1] - a[1]);
  return first && first[1] >= part * of ? first[0] : undefined;
}

const shapeOf = (text: string): string => text.replace(/\p{L}+/gu, 'a').replace(/\d+/g, '9');

/** FNV-1a of a text, 31 bits. */
function hashOf(text: string): number {
  let hash = 0x811c9dc5;
  for (let i = 0; i < text.length; i++) hash = Math.imul(hash ^ text.charCodeAt(i), 0x01000193);
  return hash >>> 1;
}

/** In points above a table; a line longer than so many words is prose. */
const near = 90;
const mostWords = 10;

/** The scale and the unit that lines above a table state: those nearest to it. */
function statedAbove(
  { pieces: [piece] }: TakeMatch,
  pages: readonly PageContent[],
): Pick<TableTraits, 'scale' | 'unit'> {
  const page = pages.find(({ number }) => number === piece?.page);
  const above = page
    ? linesOf(page.words)
        .filter(
          (line) =>
            line.box[3] <= piece.box[1] + 2 && line.box[3] >= piece.box[1] - near && line.words.length <= mostWords,
        )
        .map((line) => textOf(page.words, line.words))
        .reverse()
    : [];
  return {
    scale: firstOf(above, (line) => firstOf(Object.values(locales), (locale) => scaleIn(line, locale)?.says)) ?? '',
    unit: firstOf(above, statedUnit) ?? '',
  };
}

function firstOf<Of, Found>(all: readonly Of[], find: (one: Of) => Found | undefined): Found | undefined {
  for (const one of all) {
    const found = find(one);
    if (found !== undefined) return found;
  }
  return undefined;
}

/** A unit in brackets, or behind "in". */
function statedUnit(line: string): string | undefined {
  const named = /(?:^|\s)(?:in|en|em|w|i)\s+(\S+?)[.,;:)]?(?=\s|$)/iu.exec(line)?.[1];
  if (named !== undefined && isUnit(named)) return named;
  const bracketed = /[([]/.test(line) ? unitIn(line) : '';
  return bracketed === '' || bracketed === '%' ? undefined : bracketed;
}
