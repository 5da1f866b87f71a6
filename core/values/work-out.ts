// One file, though long: candidates, what tells between them and why, over the same counted shapes.
import type { Cell } from './cell';
import { dateOrders, type DateOrder } from './date';
import { durationWords } from './duration';
import { describeFormat, formatOf, isNumeric, readerOf, type Format, type ReadType } from './format';
import { isOneOf, type Locale } from './locale';
import { asLocale, exampleOf, markNames, marksOf, type MarkName } from './marks';
import { exactDigits, isNil } from './number';
import { withoutMarks, type Parsed } from './parsed';
import { shapesOf, type Shapes } from './shapes';
import { isUnit, scaleIn, unitBeside, unitIn, type Scale } from './unit';

/** A column as printed, and what stands around it. */
export interface PrintedColumn {
  readonly name: string;
  /** Every text of the column in all reports looked at; null for a blank. */
  readonly texts: readonly (string | null)[];
  /** Titles of the tables that it comes from. */
  readonly titles?: readonly string[];
}

export interface Misfit {
  readonly row: number;
  readonly text: string;
  readonly expected: string;
}

export interface Alternative {
  readonly format: Format;
  readonly says: string;
  readonly misfits: number;
}

/** What a column is read as, worked out over all of its values. */
export interface WorkedOut {
  readonly format: Format;
  /** Why, in a sentence or two. */
  readonly reason: string;
  readonly misfits: number;
  readonly firstMisfits: readonly Misfit[];
  /** What could be meant otherwise, how it was decided, and what would settle it. */
  readonly doubt?: string;
  /** Marks under which the values fit as well and would be other numbers, where that is the doubt. */
  readonly otherMarks?: MarkName;
  /** A value of every way in which they are printed, where they are numbers. */
  readonly examples?: readonly string[];
  readonly runnerUp?: Alternative;
  /** The values look like numbers and are codes. */
  readonly isCode?: boolean;
  /** The values under this format; a misfit is null here. */
  readonly values: readonly Cell[];
}

/** A format holds for a column when at most this share of its values is a misfit. */
const mostMisfits = 0.1;
const shownMisfits = 3;

interface Candidate {
  readonly format: Format;
  /** Values that fit, told by their shapes. */
  readonly fits: number;
}

/**
 * Works out how a column is read, from the shapes of ALL its values: each format that might hold is tried on one value
 * of every shape, from the strictest (yes or no, dates) to the loosest (text); the values are then read under the first
 * that holds. What cannot be told from the values is decided by the locale, and said.
 */
export function workOut(column: PrintedColumn, locale: Locale): WorkedOut {
  const counted = shapesOf(column.texts);
  const shapes = withoutNil(counted, locale);
  const asText = formatOf({ type: 'text' });
  if (shapes.total === 0)
    return {
      format: asText,
      reason: counted.filled === 0 ? 'Every cell is blank.' : 'Nothing but signs for nothing is printed.',
      misfits: 0,
      firstMisfits: [],
      values: column.texts,
    };
  const candidates = candidatesOf(column, shapes, locale);
  const code = codeAmong(column, shapes, candidates) ?? codeLikePeriods(column, shapes, candidates, locale);
  if (code) {
    const numeric = candidates.find(({ format }) => isNumeric(format.type));
    return {
      format: asText,
      isCode: true,
      reason: code,
      misfits: 0,
      firstMisfits: [],
      values: column.texts,
      ...(numeric ? { runnerUp: alternative(numeric, shapes) } : {}),
    };
  }
  const holding = candidates.filter(({ fits }) => shapes.total - fits <= mostMisfits * shapes.total);
  let best: { candidate: Candidate; read: ReadColumn } | undefined;
  for (const [i, candidate] of holding.entries()) {
    const read = readAll(column.texts, readerOf(candidate.format, locale));
    if (!best || read.misfits < best.read.misfits) best = { candidate, read };
    // The values may be stricter than their shapes: there is no 31 April. The next format is tried if it may do better.
    if (best.read.misfits === 0 || holding.slice(i + 1).every(({ fits }) => shapes.total - fits >= best!.read.misfits))
      break;
  }
  if (!best || best.read.misfits > mostMisfits * shapes.total) {
    const [nearest] = [...candidates].sort((a, b) => b.fits - a.fits);
    return {
      format: asText,
      reason: nearest
        ? `Only ${nearest.fits} of ${shapes.total} values are a ${describeFormat(nearest.format)}.`
        : 'The values are words.',
      misfits: 0,
      firstMisfits: [],
      values: column.texts,
      ...(nearest && nearest.fits > 0 ? { runnerUp: alternative(nearest, shapes) } : {}),
    };
  }
  const { candidate, read } = best;
  const runnerUp = candidates.find(
    (each) => each !== candidate && each.format.type !== candidate.format.type && each.fits > 0,
  );
  const marks = otherMarksOf(candidate.format, shapes, locale);
  const doubt = marks
    ? doubtOfMarks(marks.best, marks.example, locale)
    : doubtOfOrder(candidate.format, column, shapes, locale);
  return {
    format: candidate.format,
    reason: reasonFor(candidate.format, read.misfits, shapes.total, column, locale),
    misfits: read.misfits,
    firstMisfits: read.first,
    ...(doubt ? { doubt } : {}),
    ...(marks ? { otherMarks: marks.name } : {}),
    ...(isNumeric(candidate.format.type) ? { examples: shapes.shapes.map(({ example }) => example) } : {}),
    runnerUp: runnerUp ? alternative(runnerUp, shapes) : { format: asText, says: 'text', misfits: 0 },
    values: read.values,
  };
}

interface ShapesLeft extends Shapes {
  /** Values that are neither blank nor a sign for nothing. */
  readonly total: number;
}

function withoutNil(counted: Shapes, locale: Locale): ShapesLeft {
  const shapes = counted.shapes.filter(({ example }) => !isNil(withoutMarks(example), locale));
  return { ...counted, shapes, total: counted.others + shapes.reduce((sum, { count }) => sum + count, 0) };
}

const alternative = ({ format, fits }: Candidate, { total }: ShapesLeft): Alternative => ({
  format,
  says: describeFormat(format),
  misfits: total - fits,
});

const fitting = ({ shapes }: ShapesLeft, read: (text: string) => Parsed): number =>
  shapes.reduce((sum, { example, count }) => sum + ('value' in read(example) ? count : 0), 0);

/** Every format that at least one value fits, strictest first. */
function candidatesOf(column: PrintedColumn, shapes: ShapesLeft, locale: Locale): Candidate[] {
  const tried = (format: Format): Candidate => ({ format, fits: fitting(shapes, readerOf(format, locale)) });
  const has = (mark: RegExp) => shapes.shapes.some(({ example }) => mark.test(example));
  const candidates: Candidate[] = [tried(formatOf({ type: 'boolean' }))];
  const order = orderOf(column.texts, shapes, locale);
  // A shape of numbers may be a date in any order: the order was told by all values.
  const dated = (type: 'date' | 'datetime') => ({
    ...tried(formatOf({ type, order: order.name })),
    fits: fitting(shapes, anyOrder(type, locale)),
  });
  candidates.push(dated('date'), dated('datetime'));
  // Without a colon or a word a time looks like a price.
  const times = has(/:|\d\s*[ap]\.?m|\d\s?(?:h|uhr)(?:\s?\d|$)/i) ? [tried(formatOf({ type: 'time' }))] : [];
  const isWorded = shapes.shapes.some(({ example }) =>
    [...example.matchAll(/\p{L}+\.?/gu)].some(
      ([word]) => isOneOf(locale.hours, word) || (word.length > 1 && isOneOf(locale.minutes, word)),
    ),
  );
  const durations = isWorded || has(/^\d+:\d\d/) ? [tried(formatOf({ type: 'duration' }))] : [];
  // "4:12" under "Duration" lasts; under "From" it is a time of the day.
  candidates.push(...(durationWords.test(column.name) ? [...durations, ...times] : [...times, ...durations]));
  candidates.push(tried(formatOf({ type: 'period' })));
  candidates.push(...numbersAmong(column, shapes, locale));
  return candidates.filter(({ fits }) => fits > 0);
}

const anyOrder = (type: 'date' | 'datetime', locale: Locale) => {
  const readers = dateOrders.map((order) => readerOf(formatOf({ type, order }), locale));
  return (text: string): Parsed =>
    readers.map((read) => read(text)).find((parsed) => 'value' in parsed) ?? readers[0](text);
};

const numericDate = /^\D*?(\d{1,2})([./-]|\.\s)(\d{1,2})\2(?:\d{2}|\d{4})(?!\d)/;

/** The order of day and month, told by the values that have a number over 12 in one of the two places. */
function orderOf(
  texts: readonly (string | null)[],
  { shapes }: ShapesLeft,
  locale: Locale,
): { name: Format['order']; told: 'values' | 'locale' | 'not needed'; conflict: boolean } {
  if (!shapes.some(({ example }) => numericDate.test(example)))
    return { name: asLocale, told: 'not needed', conflict: false };
  let dayFirst = 0;
  let monthFirst = 0;
  for (const text of texts) {
    const parts = text === null ? null : numericDate.exec(text);
    if (!parts) continue;
    if (Number(parts[1]) > 12) dayFirst++;
    else if (Number(parts[3]) > 12) monthFirst++;
  }
  if (dayFirst === monthFirst)
    return { name: asLocale, told: dayFirst === 0 ? 'locale' : 'values', conflict: dayFirst > 0 };
  const order: DateOrder = dayFirst > monthFirst ? 'day month year' : 'month day year';
  return {
    name: order === locale.dateOrder ? asLocale : order,
    told: 'values',
    conflict: Math.min(dayFirst, monthFirst) > 0,
  };
}

/** Numbers under the marks and the unit that most values fit; whole ones before decimals. */
function numbersAmong(column: PrintedColumn, shapes: ShapesLeft, locale: Locale): Candidate[] {
  const unit = unitOfColumn(column, shapes);
  const percent = unit === '%' || unit === '‰';
  const scale = scaleOf(column, locale);
  const settings = {
    unit: percent ? '' : unit,
    ...(scale && !percent ? { scale: scaleNameOf(scale), scaleIs: 'kept beside' as const } : {}),
  };
  const type = percent ? 'percent' : 'decimal';
  const [best] = stylesFitting(shapes, locale, { type, ...settings });
  if (!best || best.fits === 0) return [];
  const decimal: Candidate = { format: formatOf({ type, marks: best.name, ...settings }), fits: best.fits };
  if (percent) return [decimal];
  const whole = formatOf({ type: 'integer', marks: best.name, ...settings });
  const readWhole = readerOf({ ...whole, scale: 'as printed' }, locale);
  const mark = marksOf(best.name, locale).decimal;
  // A fraction of nothing but zeros is a fraction: 12.0 was measured to the tenth.
  const fits = shapes.shapes.reduce(
    (sum, { example, count }) =>
      sum + ('value' in readWhole(example) && !new RegExp(`\\d\\${mark}\\d*$`).test(bareNumber(example)) ? count : 0),
    0,
  );
  return fits === decimal.fits ? [{ format: whole, fits }, decimal] : [decimal, { format: whole, fits }];
}

const bareNumber = (text: string) =>
  withoutMarks(text)
    .replace(/[^\d.,'’\s]/g, '')
    .trim();

interface StyleFitting {
  readonly name: MarkName;
  readonly fits: number;
  /** Some values would have three decimals and some none, as no column is printed: the mark parts thousands. */
  readonly isUneven: boolean;
}

/** Mark styles by how many values fit, then by how evenly, the locale's own first among equals. */
function stylesFitting(
  { shapes }: ShapesLeft,
  locale: Locale,
  settings: Partial<Format> & { type: ReadType },
): StyleFitting[] {
  return markNames
    .map((name): StyleFitting => {
      const read = readerOf(formatOf({ ...settings, marks: name }), locale);
      const fraction = new RegExp(`\\${marksOf(name, locale).decimal}(\\d+)$`);
      let fits = 0;
      const decimals = new Set<number>();
      for (const { example, count } of shapes) {
        const parsed = read(example);
        if (!('value' in parsed)) continue;
        fits += count;
        if (parsed.value !== 0) decimals.add(fraction.exec(bareNumber(example))?.[1].length ?? 0);
      }
      return { name, fits, isUneven: decimals.size === 2 && decimals.has(0) && decimals.has(3) };
    })
    .sort((a, b) => b.fits - a.fits || Number(a.isUneven) - Number(b.isUneven));
}

/** The unit that most values bear, or that the heading states. */
function unitOfColumn({ name }: PrintedColumn, { shapes, total }: ShapesLeft): string {
  const counts = new Map<string, number>();
  for (const { example, count } of shapes) {
    const unit = unitBeside(example);
    if (unit !== '') counts.set(unit, (counts.get(unit) ?? 0) + count);
  }
  const [most] = [...counts].sort((a, b) => b[1] - a[1]);
  if (most && (most[1] >= 0.8 * total || (isUnit(most[0]) && most[1] >= 0.3 * total))) return most[0];
  return unitIn(name);
}

const scaleOf = ({ name, titles = [] }: PrintedColumn, locale: Locale): Scale | undefined =>
  scaleIn(name, locale) ?? titles.map((title) => scaleIn(title, locale)).find((scale) => scale !== undefined);
const scaleNameOf = ({ exponent }: Scale): Format['scale'] =>
  exponent === 9 ? 'billions' : exponent === 6 ? 'millions' : exponent === 3 ? 'thousands' : 'hundreds';

const codeHeading =
  /(?:^|[\s.])(?:no|nr|num|number|code|id|ref|reference|account|konto|article|artikel|item|zip|plz|phone|tel)\b/i;
/** So many digits of one length, without any group mark, are hardly amounts. */
const longCode = 6;

const periodCodeHeading =
  /(?:^|[\s.])(?:sample|lot|batch|job|order|invoice|ticket|serial|muster|probe|beleg|rechnung|charge|auftrag|échantillon|facture|muestra|factura|campione|fattura)\b/i;
/** Values of one column lie in fewer years. */
const mostYears = 60;

/** The reason why values that could be read as periods (W26-2001, MAR-2044) are codes; undefined where they are periods. */
function codeLikePeriods(
  { name, texts }: PrintedColumn,
  { shapes, total }: ShapesLeft,
  candidates: readonly Candidate[],
  locale: Locale,
): string | undefined {
  const [first] = candidates;
  if (first?.format.type !== 'period') return undefined;
  const worded = shapes.find(({ example }) => /^\p{L}[\p{L}.]*[\s/–-]*\d*[\s/–-]*\d{4}$/u.test(example));
  if (!worded) return undefined;
  const read = readerOf(first.format, locale);
  const all = [...new Set(texts.filter((text) => text !== null && text !== ''))];
  const years = all.flatMap((text) => {
    const parsed = read(text!);
    return 'value' in parsed && typeof parsed.value === 'string' ? [Number(parsed.value.slice(0, 4))] : [];
  });
  const speaks = codeHeading.test(name) || periodCodeHeading.test(name);
  if (speaks && all.length > 0.8 * total)
    return `A code: the heading speaks of one, and “${worded.example}” is one of ${all.length} different ones.`;
  const span = Math.max(...years) - Math.min(...years);
  return span > mostYears
    ? `A code: as periods, “${worded.example}” and the others would lie ${span} years apart.`
    : undefined;
}

/** The reason why values that look like numbers are codes; undefined where they are numbers. */
function codeAmong(
  { name, texts }: PrintedColumn,
  { shapes, total }: ShapesLeft,
  candidates: readonly Candidate[],
): string | undefined {
  const [first] = candidates;
  const numeric = candidates.find(({ format }) => isNumeric(format.type));
  const tooLong = shapes.filter(({ example }) => /^\d+$/.test(example) && example.length > exactDigits);
  if (
    tooLong.length > 0 &&
    tooLong.reduce((sum, { count }) => sum + count, numeric?.fits ?? 0) >= (1 - mostMisfits) * total
  )
    return `A code: “${tooLong[0].example}” has more than ${exactDigits} digits, more than a number keeps.`;
  if (!numeric || !first || !isNumeric(first.format.type) || total - numeric.fits > mostMisfits * total)
    return undefined;
  const zero = shapes.find(({ example }) => /^0\d+$/.test(example));
  if (zero) return `A code: “${zero.example}” begins with a zero that a number would lose.`;
  const lengths = new Set(shapes.map(({ example }) => (/^\d+$/.test(example) ? example.length : 0)));
  const [length] = lengths;
  if (
    lengths.size === 1 &&
    total >= 5 &&
    (length >= longCode || (length >= 3 && codeHeading.test(name))) &&
    new Set(texts).size > 0.5 * total
  )
    return `A code: all ${total} values have ${length} digits${codeHeading.test(name) ? ' and the heading speaks of one' : ' and no marks between them'}.`;
  const twins = sameNumberTwice(texts, { shapes });
  return (
    twins && `A code: “${twins[0]}” and “${twins[1]}” differ only by a zero at the end, which a number would lose.`
  );
}

/** Two texts like 1.1 and 1.10 that stand for one number; fractions of several lengths only can be such. */
function sameNumberTwice(
  texts: readonly (string | null)[],
  { shapes }: Pick<ShapesLeft, 'shapes'>,
): [string, string] | undefined {
  const fractions = new Set(
    shapes.flatMap(({ example }) =>
      /^\d+[.,]\d+$/.test(example) ? [example.length - example.search(/[.,]/) - 1] : [],
    ),
  );
  if (fractions.size < 2 || !shapes.every(({ example }) => /^\d+(?:[.,]\d+)*$/.test(example))) return undefined;
  const known = new Map<string, string>();
  for (const text of texts) {
    if (text === null || !/[.,]\d+$/.test(text)) continue;
    const stripped = text.replace(/0+$/, '');
    const other = known.get(stripped);
    if (other !== undefined && other !== text) return other.length < text.length ? [other, text] : [text, other];
    known.set(stripped, text);
  }
  return undefined;
}

interface ReadColumn {
  readonly values: readonly Cell[];
  readonly misfits: number;
  readonly first: readonly Misfit[];
}

function readAll(texts: readonly (string | null)[], read: (text: string) => Parsed): ReadColumn {
  const values = new Array<Cell>(texts.length);
  const first: Misfit[] = [];
  let misfits = 0;
  for (let row = 0; row < texts.length; row++) {
    const text = texts[row];
    const parsed = text === null ? undefined : read(text);
    if (parsed === undefined) values[row] = null;
    else if ('value' in parsed) values[row] = parsed.value;
    else {
      values[row] = null;
      if (misfits++ < shownMisfits) first.push({ row, text: text!, expected: parsed.expected });
    }
  }
  return { values, misfits, first };
}

function reasonFor(format: Format, misfits: number, total: number, column: PrintedColumn, locale: Locale): string {
  const all =
    misfits === 0
      ? total === 1
        ? 'The one value is'
        : `All ${total} values are`
      : `${total - misfits} of ${total} values are`;
  const scale = format.scale === 'as printed' ? undefined : scaleOf(column, locale);
  return [
    `${all} read as ${describeFormat(format)}.`,
    scale ? `“${scale.says}” is printed ${scaleIn(column.name, locale) ? 'in the heading' : 'in the title'}.` : '',
    nothingIn(column, locale),
  ]
    .filter(Boolean)
    .join(' ');
}

const shownSigns = 4;

/** A sentence about what is printed where there is no value, each sign with its count; empty for none. */
function nothingIn({ texts }: PrintedColumn, locale: Locale): string {
  const counts = new Map<string, number>();
  for (const text of texts) {
    const bare = text === null ? '' : withoutMarks(text);
    if (bare !== '' && isNil(bare, locale)) counts.set(bare, (counts.get(bare) ?? 0) + 1);
  }
  const signs = [...counts].sort((a, b) => b[1] - a[1]);
  return signs.length === 0
    ? ''
    : `Printed for nothing: ${signs
        .slice(0, shownSigns)
        .map(([sign, count]) => `${count} × “${sign}”`)
        .join(', ')}${signs.length > shownSigns ? ' and others' : ''}.`;
}

/** What the dates leave open. */
function doubtOfOrder(format: Format, column: PrintedColumn, shapes: ShapesLeft, locale: Locale): string | undefined {
  if (format.type !== 'date' && format.type !== 'datetime') return undefined;
  const order = orderOf(column.texts, shapes, locale);
  const example = shapes.shapes.find(({ example: text }) => numericDate.test(text))?.example;
  if (order.conflict)
    return 'Some dates have the day first and some the month: those that do not fit the order of most are misfits.';
  return order.told === 'locale'
    ? `“${example}” could have the day or the month first throughout; the order of the locale was taken (${locale.dateOrder}). A day over 12 would settle it.`
    : undefined;
}

const doubtOfMarks = (best: MarkName, example: string, locale: Locale): string =>
  `“${example}” could have its decimals or its thousands after the mark; the marks of the locale were taken. A value with both marks, like ${exampleOf(marksOf(best, locale))}, would settle it.`;

const withDecimals = (format: Format): Format => ({
  ...format,
  type: format.type === 'integer' ? 'decimal' : format.type,
});

/** Marks under which as many values fit, and one of them is another number. */
function otherMarksOf(
  format: Format,
  shapes: ShapesLeft,
  locale: Locale,
): { best: MarkName; name: MarkName; example: string } | undefined {
  if (!isNumeric(format.type)) return undefined;
  const numbers = withDecimals(format);
  const own = readerOf(numbers, locale);
  const [best, ...rest] = stylesFitting(shapes, locale, numbers);
  for (const { name, fits } of rest.filter((each) => each.fits === best.fits && each.isUneven === best.isUneven)) {
    const other = readerOf({ ...numbers, marks: name }, locale);
    const differs = shapes.shapes.find(({ example }) => {
      const [a, b] = [own(example), other(example)];
      return 'value' in a && 'value' in b && a.value !== b.value;
    });
    if (differs && fits > 0) return { best: best.name, name, example: differs.example };
  }
  return undefined;
}

/** Are some texts numbers under the marks that they are read with and not under others, as 8.91 is none with points between thousands? */
export function tellMarks(texts: readonly string[], format: Format, others: MarkName, locale: Locale): boolean {
  const [own, other] = [
    readerOf(withDecimals(format), locale),
    readerOf({ ...withDecimals(format), marks: others }, locale),
  ];
  return texts.some((text) => 'value' in own(text) && !('value' in other(text)));
}
