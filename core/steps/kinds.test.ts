import fc from 'fast-check';
import { readdirSync, readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { describe, expect, it } from 'vitest';
import * as v from 'valibot';
import { append } from '../pipeline/append';
import { paper, plain, around, textSheet } from '../testing/sheets';
import type { Cell } from '../values/cell';
import { rowKey } from '../sheet/row';
import type { Sheet } from '../sheet/sheet';
import * as all from './all';
import type { StepResult } from './step';
import { kinds, stepSchema } from './kinds';

/** Kinds that say every cell or every name in another way: that is what they are for. */
const restates = new Set([
  'set types',
  'promote header rows',
  'demote header',
  'summarise',
  'pivot',
  'transpose',
  'stack blocks',
  'lines to records',
]);

/** Cells that are others after a step though it does not list them as overwritten. */
function unlisted(before: Sheet, { sheet: after, overwritten = [] }: StepResult): string[] {
  const placeBefore = new Map(before.rows.map((row) => [rowKey(before.rows.id(row)), row]));
  return after.columns.flatMap((column) => {
    const old = before.columns.find(({ name }) => name === column.name);
    const listed = overwritten.filter((each) => each.column === column.name);
    return after.rows
      .map((row) => {
        const was = old?.cells[placeBefore.get(rowKey(after.rows.id(row)))!] ?? null;
        const told = listed.some(({ rows, old: own }) => rows.includes(row) && own[rows.indexOf(row)] === was);
        return !old || told || JSON.stringify(column.cells[row]) === JSON.stringify(was)
          ? []
          : [`${column.name} ${row}: ${JSON.stringify(was)} became ${JSON.stringify(column.cells[row])}`];
      })
      .flat();
  });
}

const folder = fileURLToPath(new URL('.', import.meta.url));
const fileOf = (kind: string) => `${kind.replaceAll(' ', '-')}.ts`;

/** Settings that do something on the random sheets below. */
const settings: Record<string, unknown> = {
  'close gaps': { columns: { by: 'all' } },
  'compute column': {
    columns: [
      { into: 'AC', formula: '"A" || \'/\' || coalesce("C", report.page::text)' },
      { into: 'B', formula: 'upper("B")' },
    ],
  },
  'concatenate columns': { columns: { by: 'names', names: ['A', 'C'] }, into: 'AC' },
  'constant column': { name: 'Port', value: 'Saltby' },
  'date from parts': { whole: 'A', part: 'B' },
  deduplicate: { columns: { by: 'names', names: ['A'] } },
  'drop noise': {},
  'find and replace': { columns: { by: 'all' }, text: 'x', replace: 'y' },
  'fold lines': { keys: { by: 'names', names: ['A'] } },
  'group labels': { column: 'A', groups: [{ category: 'Place', values: ['Salt*'] }] },
  'look up': {
    from: { is: 'file', name: 'species.csv' },
    keys: [{ column: 'A', of: 'Code' }],
    columns: [{ name: 'Species' }],
    missing: 'are held',
    version: 'species.csv',
  },
  'number rows': {},
  'pull text': { column: 'A', template: 'Total {N}' },
  recode: { columns: { by: 'names', names: ['B'] }, values: [{ from: ['x'], to: 'z' }] },
  sort: { by: [{ column: 'B' }] },
  'split column': { column: 'C' },
  'tidy text': { columns: { by: 'all' }, letters: 'capitals' },
  'carry values': { columns: { by: 'names', names: ['B'] } },
  'correct cells': { corrections: [{ report: 'week-24.pdf', page: 1, word: 0, column: 'A', from: 'x', to: 'y' }] },
  'demote header': {},
  'crop between marks': { from: 'Saltby', to: 'n/k' },
  'drop blank rows': { columns: { by: 'all' } },
  'hold totals': { wording: ['Total*'] },
  'lift sections': { levels: [{ into: 'Section' }] },
  'pick columns': { columns: { by: 'all but', names: ['C'] } },
  'promote header rows': { rows: 1 },
  rename: { names: [{ to: 'Z', from: ['A'] }] },
  'set types': { types: [{ columns: { by: 'names', names: ['B', 'C'] }, type: 'decimal' }] },
  'sift rows': { conditions: [{ of: { is: 'column', name: 'A' }, test: 'is', value: 'x' }] },
  stamp: { from: 'file name', template: 'week-{Week}.pdf' },
  'trim rows': { top: 1 },
  'lines to records': {
    begins: 'where a line matches',
    text: '*Salt*',
    fields: [
      { into: 'First', known: 'its place', line: 1 },
      { into: 'Rest', known: 'all other lines' },
    ],
  },
  pivot: { names: { by: 'names', names: ['A'] }, values: { by: 'names', names: ['B'] } },
  'split table': { where: 'before rows that match', text: 'Salt*', into: 'Place' },
  'stack blocks': { sides: { by: 'names', names: ['A'] }, by: 'every so many columns', columns: 1 },
  summarise: { by: { by: 'names', names: ['A'] }, values: [{ columns: { by: 'names', names: ['C'] }, how: 'list' }] },
  transpose: {},
  unpivot: { into: 'Heading', columns: { by: 'all but', names: ['A'] } },
};

const cell = fc.constantFrom<Cell>('x', 'Saltby', 'Total 3', '12', '1,234.5', null, null, 'n/k');
const sheetsOf = (report: string) =>
  fc.array(fc.array(cell, { minLength: 3, maxLength: 3 }), { maxLength: 12 }).map((rows) =>
    textSheet(
      [['A', 'B', 'C'], ...rows],
      rows.map(() => ({ report })),
    ),
  );
const sheets = sheetsOf('r1');

/** The papers of two reports. */
const both = { ...around(), papers: (report: string) => paper(report === 'r1' ? 'week-24.pdf' : 'week-25.pdf') };

describe('step kinds', () => {
  it('are one file each, named as the kind, and one line in the list', () => {
    const lines = readFileSync(`${folder}/all.ts`, 'utf8')
      .split('\n')
      .filter((line) => line.startsWith('export'));
    expect(lines).toHaveLength(Object.keys(all).length);
    for (const { kind } of Object.values(all)) {
      expect(readdirSync(folder)).toContain(fileOf(kind));
      expect(lines.filter((line) => line.includes(`'./${fileOf(kind).replace('.ts', '')}'`))).toHaveLength(1);
    }
    // No other file of the program names a kind's file: nothing else is to be edited for a new one.
    for (const name of readdirSync(folder).filter(
      (file) => file.endsWith('.ts') && !file.endsWith('.test.ts') && file !== 'all.ts',
    ))
      for (const { kind } of Object.values(all))
        expect(readFileSync(`${folder}/${name}`, 'utf8')).not.toContain(`'./${fileOf(kind).replace('.ts', '')}'`);
  });

  it('have sample settings here, all of them', () =>
    expect(Object.keys(settings).sort()).toEqual([...kinds.keys()].sort()));

  for (const [kind, declaration] of kinds) {
    const parsed = v.parse(declaration.settings, settings[kind]);

    it(`${kind}: every row passes or is held, and no cell changes unlisted`, () => {
      fc.assert(
        fc.property(sheets, (sheet) => {
          const result = declaration.run(sheet, parsed, around());
          expect(result.sheet.rows.length + (result.held?.rows.rows.length ?? 0)).toBe(
            sheet.rows.length + (result.added ?? 0),
          );
          // Every row is known by its name after the step, also one that became part of another.
          const names = (of: Sheet) => of.rows.map(of.rows.sources).flat().map(rowKey);
          const after = [...names(result.sheet), ...(result.held ? names(result.held.rows) : [])];
          expect(after.filter((name) => !name.endsWith(' -1')).every((name) => names(sheet).includes(name))).toBe(true);
          expect(names(sheet).every((name) => after.includes(name))).toBe(true);
          expect(result.held?.reasons.length ?? 0).toBe(result.held?.rows.rows.length ?? 0);
          for (const reason of result.held?.reasons ?? []) expect(reason).not.toBe('');
          if (!restates.has(kind)) expect(unlisted(sheet, result)).toEqual([]);
        }),
      );
    });

    const { commutesWithAppend } = declaration;
    if (typeof commutesWithAppend === 'function' ? commutesWithAppend(parsed) : commutesWithAppend)
      it(`${kind}: gives the same before and after the append`, () => {
        fc.assert(
          // Of two reports, as they are appended.
          fc.property(sheets, sheetsOf('r2'), (first, second) => {
            const before = append([
              declaration.run(first, parsed, both).sheet,
              declaration.run(second, parsed, both).sheet,
            ]).sheet;
            const after = declaration.run(append([first, second]).sheet, parsed, both).sheet;
            expect(plain(before)).toEqual(plain(after));
          }),
        );
      });

    it(`${kind}: says in one line what it does`, () => expect(declaration.describe(parsed)).toMatch(/^[^\n]{3,}$/));
  }

  it('refuse a step that is not theirs with a path and a reason', () => {
    const result = v.safeParse(stepSchema, { id: 'a', kind: 'trim rows', settings: { top: -1 } });
    expect(result.success).toBe(false);
    expect(v.getDotPath(result.issues![0])).toBe('settings.top');
    expect(v.safeParse(stepSchema, { id: 'a', kind: 'juggle', settings: {} }).success).toBe(false);
  });
});
