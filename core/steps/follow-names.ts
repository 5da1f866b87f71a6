import * as v from 'valibot';
import { withColumns } from '../formula/rename';
import { noLists } from '../sheet/list';
import { nowhere } from '../sheet/origin';
import { RowBook, Rows, type RowRole } from '../sheet/row';
import { sheet as makeSheet, type Sheet } from '../sheet/sheet';
import { cellText, isError, type Cell } from '../values/cell';
import type { ColumnChoice } from './column-choice';
import type { Condition } from './conditions';
import { formOf, type Field } from './fields';
import { kindOf, type Step } from './kinds';
import { columnNames } from './step';

type Settings = Record<string, unknown>;

/** What a name has become; undefined: it is still what it was. */
export interface Renamed {
  /** Names that are known without the rows. */
  readonly known: ReadonlyMap<string, string>;
  called(name: string): string | undefined;
}

/** The sheet above a step: its columns, and its first rows where they are known: a heading among them may name the columns. */
export interface Above {
  readonly names: readonly string[];
  readonly rows?: readonly {
    readonly role: string;
    readonly cells: readonly Cell[];
    /** Of blank cells that stand under a text further left which spans them: their places, each with that of the text. */
    readonly spanned?: readonly (readonly [blank: number, text: number])[];
  }[];
}

/**
 * The names that columns bear below a step and how they are called once its settings are others, from the names above it.
 * Nothing is told when the step makes other columns then, not only other names.
 */
export function namesChanged(above: Above, before: Step, after: Step): Renamed {
  const sheet = firstRowsOf(above);
  const [old, now] = [before, after].map((step) => namesBelow(sheet, step));
  // A name that still stands below means the column that bears it now.
  const known = new Map(
    old.length !== now.length
      ? []
      : old.flatMap((name, i) => (name === now[i] || now.includes(name) ? [] : [[name, now[i]] as const])),
  );
  const byRows = renamedByRows(before, after);
  return { known, called: (name) => known.get(name) ?? (old.includes(name) ? undefined : byRows(name)) };
}

/** What becomes of names that hang on the rows, where a kind has such names. */
function renamedByRows(before: Step, after: Step): Renamed['called'] {
  const { renames, settings } = kindOf(before);
  const [old, now] = [before, after].map((step) => v.safeParse(settings, step.settings));
  return renames && before.kind === after.kind && !before.off && !after.off && old.success && now.success
    ? renames(old.output, now.output)
    : () => undefined;
}

/** The steps from top to bottom, calling the columns as they are called now; what one of them makes of names is followed by those below it. */
export function followed(steps: readonly Step[], { called }: Renamed): Step[] {
  let now = called;
  return steps.map((step) => {
    const next = withNames(step, now);
    if (next === step) return step;
    const [above, own] = [now, renamedByRows(step, next)];
    now = (name) => above(name) ?? own(name);
    return next;
  });
}

/** What a step makes of column names, as far as the first rows tell. */
function namesBelow(above: Sheet, step: Step): string[] {
  const { success, output } = v.safeParse(kindOf(step).settings, step.settings);
  const names = ({ columns }: Sheet) => columns.map(({ name }) => name);
  if (step.off || !success) return names(above);
  const nowhereElse = {
    papers: () => {
      throw new Error('There is no paper here.');
    },
    letPass: () => false,
    lists: noLists,
  };
  const given = kindOf(step).namesFromRows
    ? above
    : {
        columns: above.columns.map((column) => ({ ...column, cells: [], origins: new Int32Array(0) })),
        rows: above.rows.at([]),
      };
  return names(kindOf(step).run(given, output, nowhereElse).sheet);
}

/** The first rows as a sheet, in which every text comes from words of its own. */
function firstRowsOf({ names, rows = [] }: Above): Sheet {
  const book = new RowBook();
  const head = (row: number, at: number) => rows[row].spanned?.find(([blank]) => blank === at)?.[1] ?? at;
  const columns = names.map((name, at) => ({
    name,
    type: 'text' as const,
    cells: rows.map(({ cells }): Cell => (isError(cells[at]) ? cellText(cells[at]) : (cells[at] ?? null))),
    origins: Int32Array.from(rows, ({ cells }, row) =>
      head(row, at) === at && (cells[at] ?? null) === null
        ? nowhere
        : book.origins.intern('', 1, [row * names.length + head(row, at)]),
    ),
  }));
  const numbers = rows.map(({ role }, row) =>
    book.add({ report: '', table: '', page: 1, role: role as RowRole, indent: 0, bold: false, shaded: false }, row),
  );
  return makeSheet(columns, new Rows(book, Int32Array.from(numbers)));
}

/** A step whose settings name columns as they are called now; the same one where it names none of them. */
export function withNames(step: Step, called: Renamed['called']): Step {
  const settings = renamed(formOf(kindOf(step)), step.settings, called);
  return JSON.stringify(settings) === JSON.stringify(step.settings) ? step : { ...step, settings };
}

function renamed(fields: readonly Field[], settings: Settings, to: Renamed['called']): Settings {
  const called = (name: string) => to(name) ?? name;
  const inValue = (field: Field, value: unknown): unknown => {
    switch (field.widget) {
      case 'column':
        return called(value as string);
      case 'columns': {
        const choice = value as ColumnChoice;
        if ('names' in choice) return { ...choice, names: choice.names.map(called) };
        return 'name' in choice ? { ...choice, name: called(choice.name) } : choice;
      }
      case 'formula':
        return withColumns(value as string, to);
      case 'conditions':
        return (value as Condition[]).map(({ of, ...each }) => ({
          ...each,
          of:
            of.is === 'column'
              ? { ...of, name: called(of.name) }
              : of.is === 'formula'
                ? { ...of, formula: withColumns(of.formula, to) }
                : of,
        }));
      case 'pairs':
        return field.of === columnNames
          ? (value as { from: string[] }[]).map((pair) => ({ ...pair, from: pair.from.map(called) }))
          : value;
      case 'list':
        return (value as Settings[]).map((item) => renamed(field.fields, item, to));
      default:
        return value;
    }
  };
  return {
    ...settings,
    ...Object.fromEntries(
      fields.flatMap((field) =>
        settings[field.name] === undefined ? [] : [[field.name, inValue(field, settings[field.name])]],
      ),
    ),
  };
}
