import * as v from 'valibot';
import { cellText, isBlank, type Cell } from '../values/cell';
import { rowOf, wordsOf } from '../sheet/joined-rows';
import { nowhere } from '../sheet/origin';
import type { Problem } from '../sheet/problem';
import { Rows } from '../sheet/row';
import { freeNames, type Column } from '../sheet/column';
import { rowsAt, sheet as makeSheet, type Sheet } from '../sheet/sheet';
import { between, field, step, when } from './step';
import { wildcard } from './wildcard';

const begins = ['after a blank line', 'below a rule', 'where a line matches', 'every so many lines'] as const;
const knownBy = ['its place', 'a label', 'all other lines'] as const;

const recordField = v.object({
  into: field(v.optional(v.string(), 'Field'), 'Into column'),
  known: field(v.optional(v.picklist(knownBy), 'its place'), 'Known by'),
  line: field(
    when(v.optional(v.pipe(v.number(), v.integer()), 1), 'known', 'its place'),
    'Line',
    '1 is the first, -1 the last; lines with a label and the others are not counted.',
  ),
  label: field(
    when(v.optional(v.string(), ''), 'known', 'a label'),
    'Label',
    'What the line begins with, such as Phone:',
  ),
  missing: field(when(v.optional(v.boolean(), false), 'known', 'its place', 'a label'), 'May be missing'),
  joiner: field(when(between(v.optional(v.string(), '; ')), 'known', 'all other lines'), 'Joined with'),
});
type RecordField = v.InferOutput<typeof recordField>;

export const linesToRecords = step({
  kind: 'lines to records',
  title: 'Lines to records',
  group: 'shape',
  help: 'Lines printed under one another, as in a directory, become one row for each record. A record with other lines than expected is named and held.',
  settings: {
    begins: field(v.optional(v.picklist(begins), 'after a blank line'), 'A record begins'),
    lines: field(
      when(v.optional(v.pipe(v.number(), v.integer(), v.minValue(1)), 3), 'begins', 'every so many lines'),
      'Lines',
    ),
    text: field(
      when(v.optional(v.string(), ''), 'begins', 'where a line matches'),
      'Line with the text',
      'A * stands for any text.',
    ),
    fields: field(v.optional(v.array(recordField), []), 'Fields'),
  },
  // A record that the page cuts goes on below it, but none goes on in another report.
  commutesWithAppend: true,
  describe: ({ begins: how, lines, text, fields }) =>
    `${how === 'every so many lines' ? `Every ${lines} lines` : how === 'where a line matches' ? `From “${text}” on` : how === 'below a rule' ? 'Below each rule' : 'After each blank line'}: ${fields.map(({ into }) => into).join(', ') || 'no fields yet'}`,
  run(sheet, settings, { letPass }) {
    if (settings.fields.length === 0)
      return {
        sheet,
        problems: [
          {
            kind: 'step',
            expected: 'fields of a record',
            came: 'none',
            remedy: 'Say which line goes into which column.',
          },
        ],
      };
    const lines = sheet.rows.map((row) => lineOf(sheet, row));
    const { records, blanks, before } = recordsOf(sheet, lines, settings);
    const problems: Problem[] = [];
    const passing: { rows: readonly number[]; filled: readonly (readonly number[])[] }[] = [];
    const held = new Map<number, string>([
      ...blanks.map((row): [number, string] => [row, 'blank: it parts two records']),
      ...before.map((row): [number, string] => [row, 'stands before the first record']),
    ]);
    for (const rows of records) {
      const filled = settings.fields.map((): number[] => []);
      const wrong = share(rows, lines, settings.fields, filled);
      if (wrong === undefined) passing.push({ rows, filled });
      else if (rows.some((row) => letPass(sheet, row))) {
        // Lines that no field asks for stand in the last one: none is lost.
        const taken = new Set(filled.flat());
        filled.at(-1)!.push(...rows.filter((row) => !taken.has(row)));
        passing.push({ rows, filled });
      } else {
        problems.push({
          kind: 'step',
          report: sheet.rows.report(rows[0]),
          page: sheet.rows.page(rows[0]),
          row: sheet.rows.id(rows[0]),
          expected: `a record with ${settings.fields.map(({ into }) => into).join(', ')}`,
          came: `${wrong} (“${lines[rows[0]].text.slice(0, 60)}”)`,
          remedy:
            'Its lines are held. Say that a field may be missing, that a field takes all other lines, or how a record begins.',
        });
        for (const row of rows) held.set(row, `${wrong}: its lines are held together`);
      }
    }
    const free = freeNames();
    const { book, numbers } = sheet.rows;
    const columns = settings.fields.map((each, at): Column => ({
      name: free(each.into || 'Field'),
      type: 'text',
      cells: passing.map(
        ({ filled }): Cell => filled[at].map((row) => textFor(each, lines[row].text)).join(each.joiner) || null,
      ),
      origins: Int32Array.from(passing, ({ filled }) =>
        wordsOf(
          book,
          filled[at].map((row) => lines[row].origin),
        ),
      ),
    }));
    const places = [...held.keys()].sort((a, b) => a - b);
    return {
      sheet: makeSheet(
        columns,
        new Rows(
          book,
          Int32Array.from(passing, ({ rows }) =>
            rowOf(
              book,
              rows.map((row) => numbers[row]),
            ),
          ),
        ),
      ),
      ...(places.length > 0
        ? { held: { rows: rowsAt(sheet, places), reasons: places.map((row) => held.get(row)!) } }
        : {}),
      records: true,
      added: passing.length + places.length - sheet.rows.length,
      problems,
    };
  },
});

interface Line {
  readonly text: string;
  readonly origin: number;
}

/** The texts of a row as one line. */
function lineOf({ columns, rows }: Sheet, row: number): Line {
  const filled = columns.filter((column) => !isBlank(column.cells[row]));
  return {
    text: filled.map((column) => cellText(column.cells[row]).trim()).join(' '),
    origin:
      filled.length === 0
        ? nowhere
        : wordsOf(
            rows.book,
            filled.map((column) => column.origins[row]),
          ),
  };
}

/** The rows of each record; a record never goes on in another report. */
function recordsOf(
  sheet: Sheet,
  lines: readonly Line[],
  { begins: how, lines: count, text }: { begins: (typeof begins)[number]; lines: number; text: string },
) {
  const records: number[][] = [];
  const blanks: number[] = [];
  const before: number[] = [];
  const pattern = wildcard(text);
  let open: number[] | undefined;
  lines.forEach((line, row) => {
    if (row > 0 && !sheet.rows.inSameReport(row, row - 1)) open = undefined;
    if (line.text === '') {
      blanks.push(row);
      if (how === 'after a blank line') open = undefined;
      return;
    }
    // White space is a blank line that was not set.
    if ((how === 'after a blank line' && sheet.rows.spaced(row)) || (how === 'below a rule' && sheet.rows.ruled(row)))
      open = undefined;
    const starts =
      how === 'where a line matches'
        ? text !== '' && pattern.test(line.text)
        : how === 'every so many lines'
          ? !open || open.length === count
          : !open;
    if (starts) records.push((open = []));
    if (open) open.push(row);
    else before.push(row);
  });
  return { records, blanks, before };
}

const labelled = ({ known, label }: RecordField, text: string): boolean =>
  known === 'a label' && label !== '' && text.toLowerCase().startsWith(label.trim().toLowerCase());
const textFor = (of: RecordField, text: string): string =>
  of.known === 'a label' ? text.slice(of.label.trim().length).trim() : text;

/** Shares the lines of a record out among the fields. @returns what is wrong with it, if something is */
function share(
  rows: readonly number[],
  lines: readonly Line[],
  fields: readonly RecordField[],
  filled: number[][],
): string | undefined {
  const free = rows.filter((row) => {
    const at = fields.findIndex((each, i) => labelled(each, lines[row].text) && filled[i].length === 0);
    if (at < 0) return true;
    filled[at].push(row);
    return false;
  });
  const rest = fields.findIndex(({ known }) => known === 'all other lines');
  // Places are counted among the lines without a label: from the front, and below zero from the end.
  const placed = fields.flatMap(({ known, line }, at) => (known === 'its place' ? [{ at, line }] : []));
  const taken = new Set<number>();
  const needed = placed.filter(({ at }) => !fields[at].missing).length;
  if (free.length < needed)
    return `${rows.length} ${rows.length === 1 ? 'line' : 'lines'}, ${needed - free.length} too few`;
  for (const { at, line } of placed) {
    const row = free[line > 0 ? line - 1 : free.length + line];
    if (row === undefined || taken.has(row)) {
      if (!fields[at].missing) return `no line for “${fields[at].into}”`;
      continue;
    }
    taken.add(row);
    filled[at].push(row);
  }
  const left = free.filter((row) => !taken.has(row));
  if (rest >= 0) filled[rest].push(...left);
  else if (left.length > 0) return `${rows.length} ${rows.length === 1 ? 'line' : 'lines'}, ${left.length} too many`;
  const lacking = fields.find((each, at) => each.known === 'a label' && !each.missing && filled[at].length === 0);
  return lacking && `no line that begins with “${lacking.label}”`;
}
