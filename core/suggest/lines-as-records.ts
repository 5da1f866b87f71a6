import { cellText, isBlank } from '../values/cell';
import type { Sheet } from '../sheet/sheet';
import { plural, reportSheet } from './sheets-seen';
import type { Detector, Suggestion } from './suggestion';

/** Fewer records are no directory. */
const fewestRecords = 8;
/** Lines that a record has. */
const [fewestLines, mostLines] = [2, 15];
/** A label heads a line in so many records. */
const usual = 0.5;

/**
 * Lines printed under one another in one column, such as those of a directory: several that begin alike are a record. So are cards of
 * labels with a value beside each.
 */
export const linesAsRecords: Detector = ({ reports, pipeline }) => {
  const sheets = reports.map(reportSheet).filter(({ rows }) => rows.length > 0);
  const cards = pipeline.eachReport.length === 0 ? cardsIn(sheets) : undefined;
  if (cards) return [cards];
  if (sheets.length === 0 || !sheets.every(({ columns }) => columns.length === 1)) return [];
  for (const begins of [byCode(sheets), bySpace(sheets), byRule(sheets)]) {
    if (!begins) continue;
    const records = sheets.flatMap((sheet) => recordsIn(sheet, begins.starts));
    const fields = records.length >= fewestRecords ? fieldsOf(records) : undefined;
    if (fields)
      return [
        {
          zone: 'eachReport',
          kind: 'lines to records',
          settings: { ...begins.settings, fields },
          reason: `${plural(records.length, 'stretch', 'stretches')} of lines ${begins.says}, and have the same in them`,
        },
      ];
  }
  return [];
};

/** So many cards of so many labels are no table of two columns in which a name comes again. */
const fewestCards = 4;
const fewestLabels = 3;

/** Labels in the first of two columns that come again and again, in one order, each with its value. */
function cardsIn(sheets: readonly Sheet[]): Suggestion | undefined {
  if (sheets.length === 0 || !sheets.every(({ columns }) => columns.length === 2)) return undefined;
  const first = cellText(sheets[0].columns[0].cells[0]).trim();
  const records = sheets.flatMap(({ columns: [labels], rows }) => {
    const found: string[][] = [];
    for (let row = 0; row < rows.length; row++) {
      const label = cellText(labels.cells[row]).trim();
      if (label === first || found.length === 0) found.push([]);
      found.at(-1)!.push(label);
    }
    return found;
  });
  const labels = [...new Set(records.flat())];
  const inOrder = (record: readonly string[]) =>
    record[0] === first &&
    record.every((label, i) => label !== '' && (i === 0 || labels.indexOf(label) > labels.indexOf(record[i - 1])));
  if (
    records.length < fewestCards ||
    labels.length < fewestLabels ||
    labels.length > mostLines ||
    !/\p{L}/u.test(first) ||
    !records.every(inOrder)
  )
    return undefined;
  // A label is known by how its line begins.
  if (
    labels.some((label) =>
      labels.some((other) => other !== label && other.toLowerCase().startsWith(label.toLowerCase())),
    )
  )
    return undefined;
  const counts = labels.map((label) => records.filter((record) => record.includes(label)).length);
  if (counts.some((count) => count < usual * records.length)) return undefined;
  const fields = labels.map((label, i) => ({
    into: label.replace(/\s*:$/, ''),
    known: 'a label',
    label,
    missing: counts[i] < records.length,
  }));
  return {
    zone: 'eachReport',
    kind: 'lines to records',
    settings: { begins: 'where a line matches', text: `${first} *`, fields },
    reason: `${plural(records.length, 'card')} of labels from “${first}” to “${labels.at(-1)}”, each with its value beside it`,
  };
}

interface Begins {
  readonly settings: Record<string, unknown>;
  readonly says: string;
  readonly starts: (sheet: Sheet, row: number) => boolean;
}

const textAt = ({ columns: [column] }: Sheet, row: number) => cellText(column.cells[row]).trim();

/** The letters before the digits of a code that begins a line. */
const codeBefore = (text: string): string | undefined => /^(\p{Lu}[\p{L}.-]{0,5}[-/. ]?)\d/u.exec(text)?.[1];

function byCode(sheets: readonly Sheet[]): Begins | undefined {
  const code = codeBefore(textAt(sheets[0], 0));
  // Every report begins with one, so that no line stands before the first record.
  if (code === undefined || !sheets.every((sheet) => codeBefore(textAt(sheet, 0)) === code)) return undefined;
  return {
    settings: { begins: 'where a line matches', text: `${code}*` },
    says: `begin with “${code}” and a number`,
    starts: (sheet, row) => codeBefore(textAt(sheet, row)) === code,
  };
}
const bySpace = (sheets: readonly Sheet[]): Begins | undefined =>
  sheets.every(({ columns: [{ cells }], rows }) =>
    cells.some((cell, row) => row > 0 && (isBlank(cell) || rows.spaced(row))),
  )
    ? {
        settings: { begins: 'after a blank line' },
        says: 'stand under white space',
        starts: ({ columns: [{ cells }], rows }, row) => row === 0 || rows.spaced(row) || isBlank(cells[row - 1]),
      }
    : undefined;
const byRule = (sheets: readonly Sheet[]): Begins | undefined =>
  sheets.every(({ rows }) => rows.map((row) => row > 0 && rows.ruled(row)).some(Boolean))
    ? {
        settings: { begins: 'below a rule' },
        says: 'stand below a rule',
        starts: ({ rows }, row) => row === 0 || rows.ruled(row),
      }
    : undefined;

function recordsIn(sheet: Sheet, starts: Begins['starts']): string[][] {
  const records: string[][] = [];
  for (let row = 0; row < sheet.rows.length; row++) {
    if (textAt(sheet, row) === '') continue;
    if (records.length === 0 || starts(sheet, row)) records.push([]);
    records.at(-1)!.push(textAt(sheet, row));
  }
  return records;
}

/** What a line begins with, up to its colon. */
const labelOf = (line: string): string | undefined => /^(\p{L}[\p{L} .]{0,24}):(?=\s|$)/u.exec(line)?.[1];

/** Which line goes into which column: those with a label by it, the first ones by their place, others together; undefined where the lines have too little in common. */
function fieldsOf(records: readonly (readonly string[])[]): Record<string, unknown>[] | undefined {
  if (records.some(({ length }) => length < fewestLines || length > mostLines)) return undefined;
  const counts = new Map<string, number>();
  for (const record of records)
    for (const label of new Set(record.flatMap((line) => labelOf(line) ?? [])))
      counts.set(label, (counts.get(label) ?? 0) + 1);
  const labels = [...counts].filter(([, count]) => count >= usual * records.length).map(([label]) => label);
  const free = records.map((record) => {
    // A label that comes twice has but one line; the other is free.
    const open = new Set(labels);
    return record.filter((line) => !open.delete(labelOf(line) ?? '')).length;
  });
  const [fewest, most] = [Math.min(...free), Math.max(...free)];
  if (fewest === 0) return undefined;
  // Lines of prose have nothing in common: neither a label nor a number of lines.
  const placed = fewest === most ? fewest : fewest - 1;
  if (labels.length === 0 && fewest !== most) return undefined;
  return [
    ...Array.from({ length: Math.max(1, placed) }, (_, at) => ({
      into: `Line ${at + 1}`,
      known: 'its place',
      line: at + 1,
    })),
    ...(most > Math.max(1, placed) ? [{ into: 'Other lines', known: 'all other lines' }] : []),
    ...labels.map((label) => ({
      into: label,
      known: 'a label',
      label: `${label}:`,
      missing: counts.get(label)! < records.length,
    })),
  ];
}
