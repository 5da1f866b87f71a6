// What may be wanted of what is selected in a sheet: selecting is asking. A few steps, filled in, each with what it would do there.
import * as v from 'valibot';
import { columnsWorkedOut, type PrintedSheet } from '../pipeline/columns-worked-out';
import { cellText, isBlank } from '../values/cell';
import { locales } from '../values/locale';
import { describeFormat } from '../values/format';
import { quotedName } from '../formula/print';
import { totalWords } from '../reading/roles';
import { familyOf, isNumeric, type Column } from '../sheet/column';
import { filledColumns, type Sheet } from '../sheet/sheet';
import { kinds, type Step } from '../steps/kinds';
import { withWorkedOut } from './type-rules';
import type { Around, StepResult } from '../steps/step';
import { effectOn, type SeenEffect } from './effect-on';
import { localeOf } from './locale-of';
import { plural } from './sheets-seen';

/** Rows and columns by their places, from one to another with both. */
export interface Selected {
  readonly rows: readonly [number, number];
  readonly columns: readonly [number, number];
}

/** A step filled in for the selection, and what it would do to the sheet. */
export interface Offer extends SeenEffect {
  readonly kind: string;
  readonly settings: Step['settings'];
  /** What it does, in a few words: "hold 4 rows like this". */
  readonly says: string;
}

export interface Wanted {
  readonly kind: string;
  readonly settings: Record<string, unknown>;
  readonly says: (result: StepResult) => string;
  /** Offered also where it neither holds nor changes anything: it names or makes columns. */
  readonly makes?: boolean;
}

const mostOffers = 6;

/** The steps that fit a selection, the likeliest first. */
export function offersFor(
  sheet: Sheet,
  selected: Selected,
  around: Around,
  printed: Omit<PrintedSheet, 'sheet'>,
): Offer[] {
  const whole = selected.rows[0] === 0 && selected.rows[1] === sheet.rows.length - 1;
  const [first, last] = selected.columns;
  const one = first === last && selected.rows[0] === selected.rows[1];
  const wanted = [
    ...(whole && sheet.rows.length > 1
      ? forColumns(sheet, first, last, printed)
      : one
        ? forCell(sheet, selected.rows[0], first)
        : forRows(sheet, selected)),
  ];
  return wanted.flatMap((each) => offer(sheet, each, around) ?? []).slice(0, mostOffers);
}

/** Runs the step on the sheet. @returns nothing where it does nothing there */
export function offer(
  sheet: Sheet,
  { kind, settings, says, makes = false }: Wanted,
  around: Around,
): Offer | undefined {
  const declaration = kinds.get(kind);
  const whole = declaration && v.safeParse(declaration.settings, settings);
  if (!declaration || !whole?.success) return undefined;
  const result = declaration.run(sheet, whole.output, around);
  if ((result.problems ?? []).some((problem) => problem.kind === 'step')) return undefined;
  const effect = effectOn(sheet, sheet, {
    sheet: result.sheet,
    held: result.held?.rows,
    leftOut: result.leftOut ?? [],
    overwritten: result.overwritten ?? [],
  });
  if (!makes && effect.held.length + effect.changed.length + effect.leftOut.length === 0) return undefined;
  return { kind, settings: whole.output, says: says(result), ...effect };
}

export const heldCount = (result: StepResult) => result.held?.rows.rows.length ?? 0;
export const changedCount = (result: StepResult) =>
  (result.overwritten ?? []).reduce((sum, { rows }) => sum + rows.length, 0);
const named = (names: readonly string[]) =>
  names.length > 2 ? `${names.length} columns` : names.map((name) => `“${name}”`).join(' and ');

function* forCell(sheet: Sheet, row: number, at: number): Generator<Wanted> {
  const column = sheet.columns[at];
  const text = cellText(column.cells[row]);
  const filled = filledColumns(sheet, row);
  const isNamed = sheet.columns.some(({ namedBy }) => namedBy !== undefined);
  const depth = sheet.rows.find((each) => sheet.rows.role(each) !== 'heading');
  // The rows down to this one name the columns, where none are named yet.
  if (!isNamed && row < Math.max(1, depth))
    yield {
      kind: 'promote header rows',
      settings: { rows: Math.max(row + 1, depth), spread: true },
      makes: true,
      says: (result) => `make ${heldCount(result) === 1 ? 'this row' : `${heldCount(result)} rows`} the column names`,
    };
  if (isBlank(column.cells[row])) {
    yield {
      kind: 'carry values',
      settings: { columns: { by: 'names', names: [column.name] }, direction: 'down' },
      says: (result) => `carry values down into ${plural(changedCount(result), 'blank')}`,
    };
    yield {
      kind: 'sift rows',
      settings: { conditions: [{ of: { is: 'column', name: column.name }, test: 'is blank' }] },
      says: (result) => `hold ${plural(heldCount(result), 'row')} blank in “${column.name}”`,
    };
    yield {
      kind: 'drop blank rows',
      settings: { columns: { by: 'all' } },
      says: (result) => `hold ${plural(heldCount(result), 'row')} blank throughout`,
    };
    return;
  }
  const total = filled.map((each) => cellText(sheet.columns[each].cells[row])).find((each) => totalWords.test(each));
  if (total !== undefined || ['total', 'subtotal'].includes(sheet.rows.role(row))) {
    const words = (total ?? '').split(' ');
    const wording = total === undefined ? [] : [words.length > 1 ? `${words[0]} *` : total];
    yield {
      kind: 'hold totals',
      settings: { wording, marked: wording.length === 0, locale: localeOf([sheet]) },
      says: (result) => `hold ${plural(heldCount(result), 'printed total')}, kept to be added up`,
    };
  }
  if (filled.length === 1 && row > 0) {
    yield {
      kind: 'lift sections',
      settings: {
        levels: [
          { into: 'Section', known: sheet.rows.role(row) === 'section' ? 'marked as section' : 'one filled cell' },
        ],
      },
      says: (result) =>
        heldCount(result) === 1
          ? `put “${short(text)}” beside the rows below`
          : `put “${short(text)}” and ${heldCount(result) - 1} like it beside the rows below`,
    };
    if (at > 0)
      yield {
        kind: 'fold lines',
        settings: { keys: { by: 'names', names: [sheet.columns[0].name] } },
        says: (result) => `fold ${plural(heldCount(result), 'line')} into the row above`,
      };
  }
  yield {
    kind: 'sift rows',
    settings: { conditions: [{ of: { is: 'column', name: column.name }, test: 'is', value: text }] },
    says: (result) => `hold ${plural(heldCount(result), 'row')} with “${short(text)}”`,
  };
  const begins = /^(\S+)\s/.exec(text)?.[1];
  if (begins)
    yield {
      kind: 'sift rows',
      settings: { conditions: [{ of: { is: 'column', name: column.name }, test: 'is like', value: `${begins} *` }] },
      says: (result) => `hold ${plural(heldCount(result), 'row')} that begin with “${begins}”`,
    };
  const mark = markIn(text);
  if (mark)
    yield {
      kind: 'split column',
      settings: { column: column.name, where: 'at a mark', mark },
      makes: true,
      says: () =>
        `cut ${plural(column.cells.filter((cell) => cellText(cell).includes(mark)).length, 'text')} at “${mark}”`,
    };
  yield {
    kind: 'sift rows',
    settings: {
      hold: 'all others',
      conditions: [{ of: { is: 'column', name: column.name }, test: 'is', value: text }],
    },
    says: (result) => `keep only ${plural(result.sheet.rows.length, 'row')} with it`,
  };
  if (typeof column.cells[row] === 'string')
    yield {
      kind: 'find and replace',
      settings: { columns: { by: 'names', names: [column.name] }, find: 'the whole cell', text, replace: '' },
      says: (result) => `make ${plural(changedCount(result), 'cell')} blank`,
    };
}

function* forRows(sheet: Sheet, { rows: [from, to], columns: [first, last] }: Selected): Generator<Wanted> {
  const isNamed = sheet.columns.some(({ namedBy }) => namedBy !== undefined);
  const count = to - from + 1;
  if (!isNamed && from === 0 && count <= 5)
    yield {
      kind: 'promote header rows',
      settings: { rows: count, spread: true },
      makes: true,
      says: () => `make ${count === 1 ? 'this row' : `these ${count} rows`} the column names`,
    };
  if (from === 0)
    yield {
      kind: 'trim rows',
      settings: { top: count },
      says: (result) => `hold ${plural(heldCount(result), 'row')} at the top`,
    };
  if (to === sheet.rows.length - 1)
    yield {
      kind: 'trim rows',
      settings: { bottom: count },
      says: (result) => `hold ${plural(heldCount(result), 'row')} at the bottom`,
    };
  const roles = new Set(Array.from({ length: count }, (_, i) => sheet.rows.role(from + i)));
  const [role] = roles;
  if (roles.size === 1 && role !== 'body')
    yield {
      kind: 'drop noise',
      settings: { dashes: false, pages: false, role },
      says: (result) => `hold ${plural(heldCount(result), 'row')} marked as ${role}`,
    };
  // Selected in one column: what those cells say.
  if (first === last && count <= 20) {
    const column = sheet.columns[first];
    const values = [
      ...new Set(
        column.cells
          .slice(from, to + 1)
          .filter((cell) => !isBlank(cell))
          .map(cellText),
      ),
    ];
    if (values.length > 0) {
      yield {
        kind: 'sift rows',
        settings: { conditions: [{ of: { is: 'column', name: column.name }, test: 'is one of', values }] },
        says: (result) =>
          `hold ${plural(heldCount(result), 'row')} with one of these ${plural(values.length, 'value')}`,
      };
      yield {
        kind: 'sift rows',
        settings: {
          hold: 'all others',
          conditions: [{ of: { is: 'column', name: column.name }, test: 'is one of', values }],
        },
        says: (result) => `keep only ${plural(result.sheet.rows.length, 'row')} with them`,
      };
    }
  }
}

function* forColumns(
  sheet: Sheet,
  first: number,
  last: number,
  printed: Omit<PrintedSheet, 'sheet'>,
): Generator<Wanted> {
  const columns = sheet.columns.slice(first, last + 1);
  const names = columns.map(({ name }) => name);
  const texts = columns.filter(({ type }) => type === 'text');
  if (texts.length > 0) {
    const locale = localeOf([sheet]);
    const worked = columnsWorkedOut([{ ...printed, sheet: { ...sheet, columns: texts } }], locales[locale]).filter(
      ({ format }) => format.type !== 'text',
    );
    const [read] = worked;
    if (read)
      yield {
        kind: 'set types',
        settings: { locale, types: withWorkedOut([], worked) },
        makes: true,
        says: () =>
          worked.length === 1
            ? `read as ${describeFormat(read.format)}${read.misfits > 0 ? `, but for ${plural(read.misfits, 'cell')}` : ''}`
            : `read ${worked.length} columns as numbers or dates`,
      };
  }
  if (columns.length > 2)
    yield {
      kind: 'unpivot',
      settings: { columns: { by: 'names', names }, into: 'Heading' },
      makes: true,
      says: (result) => `turn ${columns.length} columns into ${plural(result.sheet.rows.length, 'row')}`,
    };
  yield* forReckoning(columns);
  if (columns.some(({ cells }) => cells.some((cell, row) => row > 0 && isBlank(cell))))
    yield {
      kind: 'carry values',
      settings: { columns: { by: 'names', names }, direction: 'down' },
      says: (result) => `carry values down into ${plural(changedCount(result), 'blank')}`,
    };
  if (columns.length === 1) {
    const filled = columns[0].cells.filter((cell) => !isBlank(cell)).map(cellText);
    const mark = marks.find((each) => filled.filter((text) => text.includes(each)).length >= 0.8 * filled.length);
    if (mark && filled.length > 0)
      yield {
        kind: 'split column',
        settings: { column: names[0], where: 'at a mark', mark },
        makes: true,
        says: () => `cut ${plural(filled.filter((text) => text.includes(mark)).length, 'text')} at “${mark}”`,
      };
    yield {
      kind: 'sift rows',
      settings: { conditions: [{ of: { is: 'column', name: names[0] }, test: 'is blank' }] },
      says: (result) => `hold ${plural(heldCount(result), 'row')} blank here`,
    };
  }
  if (columns.length > 1 && texts.length === columns.length && columns.length <= 5)
    yield {
      kind: 'concatenate columns',
      settings: { columns: { by: 'names', names }, into: names[0] },
      makes: true,
      says: () => `join ${named(names)} into one column`,
    };
  if (columns.length < sheet.columns.length) {
    yield {
      kind: 'pick columns',
      settings: { columns: { by: 'all but', names } },
      says: () => `leave ${named(names)} out`,
    };
    if (columns.length > 1)
      yield {
        kind: 'pick columns',
        settings: { columns: { by: 'names', names } },
        says: () => `keep only ${named(names)}`,
      };
  }
}

/** What is worked out of columns that are selected together: numbers of one kind, or two dates. */
function* forReckoning(columns: readonly Column[]): Generator<Wanted> {
  const computed = (into: string, formula: string, does: string): Wanted => ({
    kind: 'compute column',
    settings: { columns: [{ into, formula }] },
    makes: true,
    says: () => does,
  });
  const names = columns.map(({ name }) => quotedName(name));
  if (columns.length < 2) return;
  if (columns.length === 2 && columns.every(({ type }) => type === 'date'))
    yield computed(
      'Days',
      `${names[1]} - ${names[0]}`,
      `count the days from “${columns[0].name}” to “${columns[1].name}”`,
    );
  if (!columns.every(({ type }) => isNumeric(type))) return;
  if (columns.every((column) => familyOf(column) === familyOf(columns[0])))
    yield computed('Sum', names.join(' + '), `add ${named(columns.map(({ name }) => name))} up into one more`);
  if (columns.length === 2)
    yield computed(
      `${columns[0].name} per ${columns[1].name}`,
      `${names[0]} / nullif(${names[1]}, 0)`,
      `divide “${columns[0].name}” by “${columns[1].name}”`,
    );
}

const marks = [' - ', ' – ', ', ', '; ', ' / ', '/', ': ', ' | '];
const markIn = (text: string) => marks.find((mark) => text.includes(mark));
export const short = (text: string) => (text.length > 28 ? `${text.slice(0, 27)}…` : text);
