import { describe, expect, it } from 'vitest';
import * as v from 'valibot';
import { formOf, initialSettings } from './fields';
import { kinds } from './kinds';

const form = (kind: string) => formOf(kinds.get(kind)!);

describe('forms from schemas', () => {
  it('have a field for every setting of every kind, with a title', () => {
    for (const [kind, declaration] of kinds) {
      expect(form(kind).map((field) => field.name)).toEqual(Object.keys(declaration.settings.entries));
      for (const field of form(kind)) expect(field.title).not.toBe('');
    }
  });

  it('choose a widget that fits', () => {
    expect(form('promote header rows').map((field) => [field.widget, field.initial])).toEqual([['number', 0], ['toggle', true], ['text', ' ']]);
    expect(form('sift rows').map((field) => field.widget)).toEqual(['pick', 'pick', 'list']);
    expect(form('sift rows')[2].fields.map((field) => field.widget)).toEqual(['subject', 'pick', 'text']);
    expect(form('set types')[1].fields.slice(0, 3).map((field) => [field.title, field.widget])).toEqual([['Columns', 'columns'], ['Type', 'pick'], ['Marks', 'pick']]);
    expect(form('hold totals')[0].widget).toBe('texts');
  });

  it('begin with settings that the schema takes, but for what only the analyst can say', () => {
    const open = [...kinds].filter(([kind, declaration]) => !v.safeParse(declaration.settings, initialSettings(form(kind))).success).map(([kind]) => kind);
    expect(open).toEqual(['lift sections']);
  });
});
