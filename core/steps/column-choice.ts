import * as v from 'valibot';
import type { Problem } from '../sheet/problem';
import { columnNamed, missingColumn, sameName, valueTypes, type Column } from '../sheet/column';
import type { Sheet } from '../sheet/sheet';
import { widget } from './step';
import { wildcard } from './wildcard';

/** Which columns a step means: named ones, or a rule that also takes columns yet to come. */
export const columnChoice = widget(
  v.variant('by', [
    v.object({ by: v.literal('all') }),
    v.object({ by: v.literal('names'), names: v.array(v.string()) }),
    v.object({ by: v.literal('all but'), names: v.array(v.string()) }),
    v.object({ by: v.literal('all after'), name: v.string() }),
    v.object({ by: v.literal('names matching'), pattern: v.string() }),
    v.object({ by: v.literal('type'), type: v.picklist(valueTypes) }),
  ]),
  { widget: 'columns' },
);
export type ColumnChoice = v.InferOutput<typeof columnChoice>;

export function describeChoice(choice: ColumnChoice): string {
  switch (choice.by) {
    case 'all':
      return 'all columns';
    case 'names':
      return choice.names.join(', ');
    case 'all but':
      return `all but ${choice.names.join(', ')}`;
    case 'all after':
      return `all after ${choice.name}`;
    case 'names matching':
      return `names matching ${choice.pattern}`;
    case 'type':
      return `all of type ${choice.type}`;
  }
}

/** The names that a choice takes of those there are; a choice by type cannot be told by names and takes all. */
export function namesChosen(names: readonly string[], choice: ColumnChoice = { by: 'all' }): string[] {
  const named = (wanted: readonly string[]) => (name: string) => wanted.some((each) => sameName(each, name));
  switch (choice.by) {
    case 'names':
      return names.filter(named(choice.names));
    case 'all but':
      return names.filter((name) => !named(choice.names)(name));
    case 'all after':
      return names.some(named([choice.name])) ? names.slice(names.findIndex(named([choice.name])) + 1) : [];
    case 'names matching':
      return names.filter((name) => wildcard(choice.pattern).test(name));
    case 'all':
    case 'type':
      return [...names];
  }
}

/** The columns chosen, in the order of the sheet (named ones in the order given), and a problem for each that is gone. */
export function chosen(sheet: Sheet, choice: ColumnChoice): { columns: readonly Column[]; problems: Problem[] } {
  const find = (name: string) => columnNamed(sheet, name);
  const named = (names: readonly string[]) => ({
    columns: names.flatMap((name) => find(name) ?? []),
    problems: names.filter((name) => !find(name)).map((name) => missingColumn(sheet, name)),
  });
  switch (choice.by) {
    case 'all':
      return { columns: sheet.columns, problems: [] };
    case 'names':
      return named(choice.names);
    case 'all but': {
      const { columns, problems } = named(choice.names);
      return { columns: sheet.columns.filter((column) => !columns.includes(column)), problems };
    }
    case 'all after': {
      const column = find(choice.name);
      return column
        ? { columns: sheet.columns.slice(sheet.columns.indexOf(column) + 1), problems: [] }
        : { columns: [], problems: [missingColumn(sheet, choice.name)] };
    }
    case 'names matching': {
      const pattern = wildcard(choice.pattern);
      return { columns: sheet.columns.filter((column) => pattern.test(column.name)), problems: [] };
    }
    case 'type':
      return { columns: sheet.columns.filter((column) => column.type === choice.type), problems: [] };
  }
}
