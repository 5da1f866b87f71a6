import * as v from 'valibot';
import { noLists } from '../sheet/list';
import { noRows } from '../sheet/row';
import { sheet as makeSheet } from '../sheet/sheet';
import type { ColumnChoice } from './column-choice';
import type { Condition } from './conditions';
import { formOf, type Field } from './fields';
import { kindOf, type Step } from './kinds';
import { columnNames } from './step';

type Settings = Record<string, unknown>;

/**
 * The names that columns bear below a step and how they are called once its settings are others, from the names above it.
 * Nothing is told when the step makes other columns then, not only other names.
 */
export function namesChanged(above: readonly string[], before: Step, after: Step): ReadonlyMap<string, string> {
  const [old, now] = [before, after].map((step) => namesBelow(above, step));
  if (old.length !== now.length) return new Map();
  // A name that still stands below means the column that bears it now.
  return new Map(old.flatMap((name, i) => (name === now[i] || now.includes(name) ? [] : [[name, now[i]] as const])));
}

/** What a step makes of column names, as far as it can be told without rows. */
function namesBelow(above: readonly string[], step: Step): string[] {
  const { success, output } = v.safeParse(kindOf(step).settings, step.settings);
  if (step.off || !success) return [...above];
  const empty = makeSheet(above.map((name) => ({ name, type: 'text', cells: [], origins: new Int32Array(0) })), noRows);
  const nowhere = { papers: () => { throw new Error('There are no rows.'); }, letPass: () => false, lists: noLists };
  return kindOf(step).run(empty, output, nowhere).sheet.columns.map(({ name }) => name);
}

/** A step whose settings name columns as they are called now. */
export const withNames = (step: Step, names: ReadonlyMap<string, string>): Step => (names.size === 0 ? step : { ...step, settings: renamed(formOf(kindOf(step)), step.settings, names) });

function renamed(fields: readonly Field[], settings: Settings, names: ReadonlyMap<string, string>): Settings {
  const called = (name: string) => names.get(name) ?? name;
  const inValue = (field: Field, value: unknown): unknown => {
    switch (field.widget) {
      case 'column':
        return called(value as string);
      case 'columns': {
        const choice = value as ColumnChoice;
        if ('names' in choice) return { ...choice, names: choice.names.map(called) };
        return 'name' in choice ? { ...choice, name: called(choice.name) } : choice;
      }
      case 'conditions':
        return (value as Condition[]).map((each) => (each.of.is === 'column' ? { ...each, of: { ...each.of, name: called(each.of.name) } } : each));
      case 'pairs':
        return field.of === columnNames ? (value as { from: string[] }[]).map((pair) => ({ ...pair, from: pair.from.map(called) })) : value;
      case 'list':
        return (value as Settings[]).map((item) => renamed(field.fields, item, names));
      default:
        return value;
    }
  };
  return { ...settings, ...Object.fromEntries(fields.flatMap((field) => (settings[field.name] === undefined ? [] : [[field.name, inValue(field, settings[field.name])]]))) };
}
