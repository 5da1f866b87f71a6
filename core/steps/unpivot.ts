import * as v from 'valibot';
import { isBlank, type Cell } from '../values/cell';
import { template, templateText } from '../values/template';
import { familyOf, freeNames, type Column, type ValueType } from '../sheet/column';
import { nowhere } from '../sheet/origin';
import type { Problem } from '../sheet/problem';
import type { Rows } from '../sheet/row';
import { rowsAt, sheet as makeSheet } from '../sheet/sheet';
import { chosen, columnChoice, describeChoice } from './column-choice';
import { between, columnNames, field, hold, step, when, widget } from './step';

const headingWays = ['one column', 'the parts of a template', 'the parts between marks'] as const;

export const unpivot = step({
  kind: 'unpivot',
  title: 'Unpivot',
  group: 'shape',
  help: 'Amounts printed across the page go down it: each becomes a row, with its heading in columns beside it. Both are traced to their words.',
  settings: {
    columns: field(
      columnChoice,
      'Columns to rows',
      'By a rule, such as all but the labels, the column of next year is taken along.',
    ),
    heading: field(v.optional(v.picklist(headingWays), 'one column'), 'Headings become'),
    into: field(when(v.optional(v.string(), 'Heading'), 'heading', 'one column'), 'Heading into'),
    template: field(
      when(
        widget(v.optional(templateText, ''), { widget: 'template', of: columnNames, whole: 'always' }),
        'heading',
        'the parts of a template',
      ),
      'Template',
      'A hole for each part: {Year} {Quarter}. Each gets a column of its own.',
    ),
    mark: field(when(between(v.optional(v.string(), ' ')), 'heading', 'the parts between marks'), 'Mark'),
    parts: field(
      when(v.optional(v.array(v.string()), []), 'heading', 'the parts between marks'),
      'Parts',
      'A name for each part; the last one takes what is left.',
    ),
    measure: field(
      when(v.optional(v.string(), ''), 'heading', 'the parts of a template', 'the parts between marks'),
      'Part that names values',
      'With the part Measure, “Weekdays Riders” and “Weekdays Runs” give the columns Riders and Runs. Blank: all values go into one column.',
    ),
    value: field(
      v.optional(v.pipe(v.string(), v.minLength(1, 'A column needs a name.')), 'Value'),
      'Values into',
      'Amounts, texts and dates are kept apart, and amounts of different units: each kind gets a column.',
    ),
    blanks: field(v.optional(v.picklist(['held', 'kept']), 'held'), 'Blanks are'),
    order: field(v.optional(v.picklist(['row by row', 'column by column']), 'row by row'), 'Order'),
  },
  // Appended first, a column that one part lacks is blank there: kept, it would be a row more.
  commutesWithAppend: ({ blanks, order }) => blanks === 'held' && order === 'row by row',
  describe: ({ columns, heading, into, template: written, parts, measure, value }) => {
    const named =
      heading === 'one column'
        ? into
        : heading === 'the parts of a template'
          ? written || '(no template yet)'
          : parts.join(', ') || '(no parts yet)';
    return `${describeChoice(columns)} to rows: ${named} and ${heading !== 'one column' && measure !== '' ? `a column for each ${measure}` : value}`;
  },
  run(sheet, { columns, order, blanks, value, ...how }, around) {
    const { columns: turned, problems } = chosen(sheet, columns);
    if (turned.length === 0) return { sheet, problems: problems.length > 0 ? problems : [nothingToTurn] };
    const cut = headingCutter(how);
    if (!('names' in cut)) return { sheet, problems: [...problems, cut] };
    const measureAt = how.heading === 'one column' ? -1 : cut.names.indexOf(how.measure);
    if (how.heading !== 'one column' && how.measure !== '' && measureAt < 0)
      return { sheet, problems: [...problems, noSuchPart(how.measure, cut.names)] };

    const left = sheet.columns.filter((column) => !turned.includes(column));
    const { lines, odd } = linesOf(turned, cut, measureAt, value);
    problems.push(...odd);
    const count = sheet.rows.length * lines.length;
    const byRow = order === 'row by row';
    const places = new Int32Array(count);
    const lineAt = new Int32Array(count);
    for (let at = 0; at < count; at++) {
      places[at] = byRow ? Math.floor(at / lines.length) : at % sheet.rows.length;
      lineAt[at] = byRow ? at % lines.length : Math.floor(at / sheet.rows.length);
    }
    const repeated = rowsAt(makeSheet(left, sheet.rows), places);
    const free = freeNames(left);
    const partNames = cut.names.filter((_, part) => part !== measureAt);
    const words = headingWords(sheet.rows, lines);
    const heads = partNames.map((name, part): Column => {
      const texts = lines.map(({ parts }): Cell => parts[part] || null);
      const cells = new Array<Cell>(count);
      const origins = new Int32Array(count);
      for (let at = 0; at < count; at++) {
        const line = lineAt[at];
        cells[at] = texts[line];
        origins[at] = isBlank(cells[at]) ? nowhere : words(places[at], line);
      }
      return { name: free(name), type: 'text', cells, origins };
    });
    const values = valueColumns(lines).map(({ name, of, type, unit }): Column => {
      const cells = new Array<Cell>(count);
      const origins = new Int32Array(count);
      for (let at = 0; at < count; at++) {
        const column = of[lineAt[at]];
        cells[at] = column ? column.cells[places[at]] : null;
        origins[at] = column ? column.origins[places[at]] : nowhere;
      }
      const namedBy =
        measureAt < 0 ? nowhere : sheet.rows.book.origins.union(of.flatMap((column) => column?.namedBy ?? []));
      return {
        name: free(name),
        type,
        cells,
        origins,
        ...(unit === undefined ? {} : { unit }),
        ...(namedBy === nowhere ? {} : { namedBy }),
      };
    });
    const made = makeSheet([...repeated.columns, ...heads, ...values], repeated.rows);
    const result = hold(made, around, (row) =>
      blanks === 'held' && values.every((column) => isBlank(column.cells[row]))
        ? 'blank: no value stands under this heading'
        : undefined,
    );
    return { ...result, added: count - sheet.rows.length, turned: turned.length, problems };
  },
});

const nothingToTurn: Problem = {
  kind: 'step',
  expected: 'columns to turn into rows',
  came: 'none',
  remedy: 'Choose the columns, or a rule that takes them.',
};
const noSuchPart = (measure: string, parts: readonly string[]): Problem => ({
  kind: 'step',
  expected: `a part “${measure}” of the headings`,
  came: `the parts ${parts.map((part) => `“${part}”`).join(', ')}`,
  remedy: 'Name one of these as the part that names values, or none.',
});

interface Cut {
  /** Of the parts. */
  readonly names: readonly string[];
  /** Every way in which a heading can be taken apart, the usual one first; none where it does not fit. */
  ways(heading: string): readonly (readonly string[])[];
  /** What a heading should look like. */
  readonly expected: string;
}

interface HeadingHow {
  readonly heading: (typeof headingWays)[number];
  readonly into: string;
  readonly template: string;
  readonly mark: string;
  readonly parts: readonly string[];
}

/** The same list of parts is one way, however it came about. */
const distinct = (ways: readonly (readonly string[])[]): (readonly string[])[] => [
  ...new Map(ways.map((way) => [JSON.stringify(way), way])).values(),
];

/** How headings are taken apart, or why they cannot be. */
function headingCutter({ heading, into, template: written, mark, parts }: HeadingHow): Cut | Problem {
  if (heading === 'one column') return { names: [into || 'Heading'], ways: (text) => [[text]], expected: '' };
  if (heading === 'the parts of a template') {
    const { holes } = template(written);
    if (holes.length === 0)
      return {
        kind: 'step',
        expected: 'a template with a hole for each part of the headings',
        came: `“${written}”`,
        remedy: 'Write it like {Year} {Quarter}.',
      };
    // “First half-year Plan” fits {Period} {Measure} in two ways: each hole may take as little or as much as it can.
    const readings = Array.from({ length: 2 ** Math.min(holes.length, 4) }, (_, bits) =>
      template(written, (hole) => (bits & (1 << hole)) !== 0),
    );
    const ways = (text: string) =>
      distinct(
        readings.flatMap(({ whole }) => {
          const values = whole(text);
          return values ? [holes.map((hole) => values[hole] ?? '')] : [];
        }),
      );
    return { names: holes, ways, expected: `a heading like “${written}”` };
  }
  const names = parts.length > 0 ? parts : ['Heading 1', 'Heading 2'];
  const ways = (text: string) => {
    const cut = mark === '' ? [text] : text.split(mark);
    // One of the parts holds what is more: usually the last.
    const more = cut.length - names.length;
    return more < 0
      ? []
      : distinct(
          names
            .map((_, i) => names.length - 1 - i)
            .map((long) =>
              [...cut.slice(0, long), cut.slice(long, long + more + 1).join(mark), ...cut.slice(long + more + 1)].map(
                (part) => part.trim(),
              ),
            ),
        );
  };
  return { names, ways, expected: `a heading of ${names.length} parts with “${mark}” between them` };
}

/** The parts of each heading. One that can be taken apart in several ways is taken apart as those that can in one way only. */
function partsOf(
  turned: readonly Column[],
  cut: Cut,
): { readonly parts: readonly string[] | undefined; readonly unsure: boolean }[] {
  const all = turned.map(({ name }) => cut.ways(name));
  const seen = cut.names.map((_, part) => new Set(all.flatMap((ways) => (ways.length === 1 ? [ways[0][part]] : []))));
  const decided = () =>
    all.map((ways) => {
      const scores = ways.map((way) => way.filter((text, part) => seen[part].has(text)).length);
      const best = Math.max(0, ...scores);
      const at = scores.indexOf(best);
      return {
        parts: ways[Math.max(0, at)],
        unsure: ways.length > 1 && (best === 0 || scores.lastIndexOf(best) !== at),
      };
    });
  // What one heading tells, such as that there is a “First half-year”, may tell of the next.
  for (let known = -1; known !== seen.reduce((sum, texts) => sum + texts.size, 0);) {
    known = seen.reduce((sum, texts) => sum + texts.size, 0);
    for (const { parts, unsure } of decided())
      if (parts && !unsure) parts.forEach((text, part) => seen[part].add(text));
  }
  return decided();
}

/** What one row becomes: the parts of a heading beside the values of all columns that share them, by the column they go into. */
interface Line {
  readonly parts: readonly string[];
  readonly values: Map<string, Column>;
}

/** The lines that each row becomes, in the order of the columns; a heading that does not fit stands whole in the first part. */
function linesOf(
  turned: readonly Column[],
  cut: Cut,
  measureAt: number,
  value: string,
): { lines: Line[]; odd: Problem[] } {
  const lines: Line[] = [];
  const odd: Problem[] = [];
  const taken = partsOf(turned, cut);
  for (const [at, column] of turned.entries()) {
    const { parts, unsure } = taken[at];
    if (unsure)
      odd.push({
        kind: 'step',
        column: column.name,
        expected: `${cut.expected} that can be taken apart in one way`,
        came: `“${column.name}”, taken apart as ${parts!.map((part) => `“${part}”`).join(' and ')}`,
        remedy:
          'Write more of what stands between the parts, rename the column above, or promote the heading rows with a mark between them.',
      });
    if (!parts)
      odd.push({
        kind: 'step',
        column: column.name,
        expected: cut.expected,
        came: `“${column.name}”`,
        remedy:
          'Its values are there, under the whole heading; leave the column out above, rename it, or say how its heading is taken apart.',
      });
    const own = parts ?? [column.name, ...cut.names.slice(1).map(() => '')];
    const into = (measureAt >= 0 && parts?.[measureAt]) || value;
    const others = parts
      ? own.filter((_, part) => part !== measureAt)
      : own.slice(0, Math.max(1, own.length - (measureAt < 0 ? 0 : 1)));
    const shared = measureAt < 0 ? [] : lines.filter((line) => line.parts.every((part, i) => part === others[i]));
    const line = shared.find((each) => !each.values.has(into));
    if (!line && shared.length > 0)
      odd.push({
        kind: 'step',
        column: column.name,
        expected: `one “${into}” for each ${cut.names.filter((_, part) => part !== measureAt).join(' and ')}`,
        came: `another one under “${column.name}”`,
        remedy: 'Both stand in rows of their own; rename one of the columns above.',
      });
    if (line) line.values.set(into, column);
    else lines.push({ parts: others, values: new Map([[into, column]]) });
  }
  return { lines, odd };
}

interface ValueColumn {
  readonly name: string;
  readonly type: ValueType;
  readonly unit: string | undefined;
  /** Of each line the column whose cells go here. */
  readonly of: readonly (Column | undefined)[];
}

/** The columns that the values go into: the first family of numbers, or of all, bears the name alone. */
function valueColumns(lines: readonly Line[]): ValueColumn[] {
  return [...new Set(lines.flatMap(({ values }) => [...values.keys()]))].flatMap((name) => {
    const sources = lines.map(({ values }) => values.get(name));
    const all = sources.filter((column) => column !== undefined);
    const families = [
      ...new Set([...all.filter(({ type }) => type === 'integer' || type === 'decimal'), ...all].map(familyOf)),
    ];
    return families.map((family, i) => {
      const of = sources.map((column) => (column && familyOf(column) === family ? column : undefined));
      const own = of.filter((column) => column !== undefined);
      return {
        name: i === 0 ? name : `${name} ${family}`,
        type: own.every(({ type }) => type === own[0].type) ? own[0].type : 'decimal',
        unit: own[0].unit,
        of,
      };
    });
  });
}

/** The words that head a line where a row is printed: those of its own page, else of the nearest page before it in its report. */
function headingWords(rows: Rows, lines: readonly Line[]): (row: number, line: number) => number {
  const { origins } = rows.book;
  const ids = lines.map(({ values }) => origins.union([...values.values()].flatMap(({ namedBy }) => namedBy ?? [])));
  const places = ids.map((id) => origins.places(id));
  const known = new Map<string, number>();
  return (row, line) => {
    if (places[line].length <= 1) return ids[line];
    const [report, page] = [rows.report(row), rows.page(row)];
    const key = `${line} ${page} ${report}`;
    let words = known.get(key);
    if (words === undefined) {
      const own = places[line].filter((place) => place.report === report);
      const near = Math.max(...own.map((place) => place.page).filter((each) => each <= page));
      const here = own.filter((place) => place.page === near);
      words =
        here.length === 0
          ? ids[line]
          : origins.union(here.map((place) => origins.intern(place.report, place.page, place.words)));
      known.set(key, words);
    }
    return words;
  };
}
