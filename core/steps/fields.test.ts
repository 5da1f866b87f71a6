import { describe, expect, it } from 'vitest';
import * as v from 'valibot';
import { formOf, initialSettings, type Field } from './fields';
import { kinds } from './kinds';

const form = (kind: string) => formOf(kinds.get(kind)!);
const inner = (kind: string, at: number) => (form(kind)[at] as Extract<Field, { fields: unknown }>).fields;

describe('forms from schemas', () => {
  it('have a field for every setting of every kind, with a title', () => {
    for (const [kind, declaration] of kinds) {
      expect(form(kind).map((field) => field.name)).toEqual(Object.keys(declaration.settings.entries));
      for (const field of form(kind)) expect(field.title).not.toBe('');
    }
  });

  it('choose a widget that fits', () => {
    expect(form('promote header rows').map((field) => [field.widget, field.initial])).toEqual([
      ['number', 0],
      ['toggle', true],
      ['between', ' '],
      ['text', ''],
    ]);
    expect(form('sift rows').map((field) => field.widget)).toEqual(['pick', 'pick', 'conditions']);
    expect(inner('sift rows', 2).map((field) => field.widget)).toEqual(['subject', 'pick', 'text', 'texts']);
    expect(form('recode')[1]).toMatchObject({ widget: 'pairs', of: 'columns' });
    expect(
      form('split column')
        .slice(0, 1)
        .concat(form('split column').slice(5, 7))
        .map((field) => [field.widget, 'of' in field ? field.of : '']),
    ).toEqual([
      ['column', ''],
      ['pattern', 'column'],
      ['cuts', 'column'],
    ]);
    expect(
      inner('set types', 1)
        .slice(0, 3)
        .map((field) => [field.title, field.widget]),
    ).toEqual([
      ['Columns', 'columns'],
      ['Type', 'pick'],
      ['Marks', 'pick'],
    ]);
    expect(form('hold totals')[0].widget).toBe('texts');
  });

  it('begin with settings that the schema takes, but for what only the analyst can say', () => {
    const open = [...kinds]
      .filter(([kind, declaration]) => !v.safeParse(declaration.settings, initialSettings(form(kind))).success)
      .map(([kind]) => kind);
    expect(open).toEqual([]);
  });
});
