import { describe, expect, it } from 'vitest';
import * as v from 'valibot';
import { followed, namesChanged, withNames } from './follow-names';
import { stepSchema, type Step } from './kinds';

const step = (kind: string, settings: object): Step =>
  v.parse(stepSchema, { id: kind.replaceAll(' ', '-'), kind, settings });
const rename = (to: string) => step('rename', { names: [{ from: ['Boxes'], to }] });

describe('a rename above is followed below', () => {
  it('by every setting that names a column, and by nothing else', () => {
    const names = namesChanged({ names: ['Item', 'Boxes'] }, rename('Crates'), rename('Cases'));
    expect([...names.known]).toEqual([['Crates', 'Cases']]);
    const followed = (kind: string, settings: object) => withNames(step(kind, settings), names.called).settings;
    expect(followed('pick columns', { columns: { by: 'all but', names: ['Crates', 'Item'] } })).toEqual({
      columns: { by: 'all but', names: ['Cases', 'Item'] },
    });
    expect(followed('carry values', { columns: { by: 'all after', name: 'Crates' }, stopAt: 'Crates' })).toMatchObject({
      columns: { name: 'Cases' },
      stopAt: 'Cases',
    });
    expect(
      followed('sift rows', { conditions: [{ of: { is: 'column', name: 'Crates' }, test: 'is', value: 'Crates' }] }),
    ).toMatchObject({ conditions: [{ of: { name: 'Cases' }, value: 'Crates' }] });
    expect(followed('sort', { by: [{ column: 'Crates' }] })).toMatchObject({ by: [{ column: 'Cases' }] });
    expect(
      followed('set types', { types: [{ columns: { by: 'names', names: ['Crates'] }, type: 'integer' }] }),
    ).toMatchObject({ types: [{ columns: { names: ['Cases'] } }] });
    expect(followed('rename', { names: [{ from: ['Crates'], to: 'Crates' }] })).toMatchObject({
      names: [{ from: ['Cases'], to: 'Crates' }],
    });
    expect(followed('recode', { columns: { by: 'all' }, values: [{ from: ['Crates'], to: 'x' }] })).toMatchObject({
      values: [{ from: ['Crates'] }],
    });
  });

  it('also when the step is switched off, or names the columns that it makes otherwise', () => {
    expect([...namesChanged({ names: ['Boxes'] }, rename('Crates'), { ...rename('Crates'), off: true }).known]).toEqual(
      [['Crates', 'Boxes']],
    );
    const lift = (into: string) => step('lift sections', { levels: [{ into }] });
    expect([...namesChanged({ names: ['Item'] }, lift('Quay'), lift('Landing place')).known]).toEqual([
      ['Quay', 'Landing place'],
    ]);
  });

  it('not when other columns come of it, or the name belongs to another now', () => {
    expect(
      namesChanged(
        { names: ['A', 'B'] },
        step('pick columns', { columns: { by: 'names', names: ['A'] } }),
        step('pick columns', { columns: { by: 'all' } }),
      ).known.size,
    ).toBe(0);
    expect([
      ...namesChanged(
        { names: ['A', 'B'] },
        step('pick columns', { columns: { by: 'names', names: ['A', 'B'] } }),
        step('pick columns', { columns: { by: 'names', names: ['B', 'A'] } }),
      ).known,
    ]).toEqual([]);
  });

  describe('below a pivot, whose names hang on the rows', () => {
    const pivot = (values: string[], more: object = {}) =>
      step('pivot', { names: { by: 'names', names: ['Quarter'] }, values: { by: 'names', names: values }, ...more });
    const above = { names: ['Quay', 'Quarter', 'Boxes', 'Value'] };
    const sort = (...columns: string[]) => step('sort', { by: columns.map((column) => ({ column })) });
    const columnsOf = ({ settings }: Step) => (settings['by'] as { column: string }[]).map(({ column }) => column);

    it('by what stands between the parts of a name', () => {
      const names = namesChanged(above, pivot(['Boxes', 'Value']), pivot(['Boxes', 'Value'], { joiner: '/' }));
      expect(columnsOf(followed([sort('Q1 2025 Boxes', 'Q2 2025 Value', 'Quay', 'Other')], names)[0])).toEqual([
        'Q1 2025/Boxes',
        'Q2 2025/Value',
        'Quay',
        'Other',
      ]);
      const several = (joiner: string) =>
        pivot(['Boxes'], { names: { by: 'names', names: ['Year', 'Quarter'] }, joiner });
      expect(namesChanged(above, several(' '), several('-')).called('2025 Q1')).toBe('2025-Q1');
    });

    it('by a rename above it, which the pivot follows itself', () => {
      const names = namesChanged(
        { names: ['No.', 'Quarter', 'Value'] },
        step('rename', { names: [{ from: ['No.'], to: 'Boxes' }] }),
        step('rename', { names: [{ from: ['No.'], to: 'Crates' }] }),
      );
      const [turned, sorted] = followed([pivot(['Boxes', 'Value']), sort('Q1 Boxes', 'Q1 Value')], names);
      expect(turned.settings).toMatchObject({ values: { names: ['Crates', 'Value'] } });
      expect(columnsOf(sorted)).toEqual(['Q1 Crates', 'Q1 Value']);
    });

    it('not where the names are only those of the rows, or other values go across', () => {
      expect(namesChanged(above, pivot(['Boxes']), pivot(['Value'])).called('Q1')).toBeUndefined();
      expect(namesChanged(above, pivot(['Boxes', 'Value']), pivot(['Boxes'])).called('Q1 Boxes')).toBeUndefined();
      expect(
        namesChanged(above, pivot(['Boxes', 'Value']), {
          ...pivot(['Boxes', 'Value'], { joiner: '/' }),
          off: true,
        }).called('Q1 Boxes'),
      ).toBeUndefined();
    });
  });

  describe('below header rows, which stand in the first rows', () => {
    const row = (cells: (string | null)[], spanned: [number, number][] = []) => ({ role: 'heading', cells, spanned });
    const above = {
      names: ['Column 1', 'Column 2', 'Column 3', 'Column 4'],
      rows: [
        row([null, 'Weekdays', null, 'Nights'], [[2, 1]]),
        row(['Line', 'Riders', 'Runs', 'Riders']),
        { ...row(['12', '1,204', '18', '77']), role: 'body' },
      ],
    };
    const promote = (settings: object) => step('promote header rows', settings);
    const sort = (...columns: string[]) => step('sort', { by: columns.map((column) => ({ column })) });
    const columnsOf = ({ settings }: Step) => (settings['by'] as { column: string }[]).map(({ column }) => column);
    const below = (before: object, after: object, ...columns: string[]) =>
      columnsOf(followed([sort(...columns)], namesChanged(above, promote(before), promote(after)))[0]);

    it('by what joins the rows, under spans too', () => {
      expect(below({}, { joiner: ' / ' }, 'Weekdays Runs', 'Line', 'Nights Riders')).toEqual([
        'Weekdays / Runs',
        'Line',
        'Nights / Riders',
      ]);
      expect(below({ joiner: '' }, { joiner: ' ' }, 'WeekdaysRiders')).toEqual(['Weekdays Riders']);
    });

    it('by how many rows there are and whether spans spread, there and back', () => {
      expect(below({}, { spread: false }, 'Weekdays Runs')).toEqual(['Runs']);
      expect(below({ spread: false }, {}, 'Runs')).toEqual(['Weekdays Runs']);
      expect(below({ rows: 2 }, { rows: 1 }, 'Line', 'Weekdays Riders')).toEqual(['Column 1', 'Weekdays']);
      expect(below({ rows: 1 }, { rows: 2 }, 'Column 1', 'Weekdays')).toEqual(['Line', 'Weekdays Riders']);
    });

    it('not where the rows are not known', () => {
      expect(
        columnsOf(
          followed(
            [sort('Weekdays Runs')],
            namesChanged({ names: above.names }, promote({}), promote({ joiner: '/' })),
          )[0],
        ),
      ).toEqual(['Weekdays Runs']);
    });

    it('by the name of the column of names that a transposed sheet begins with', () => {
      const turned = (into: string) => step('transpose', { into });
      expect(
        columnsOf(followed([sort('Name', 'Line')], namesChanged(above, turned('Name'), turned('Measure')))[0]),
      ).toEqual(['Measure', 'Line']);
    });
  });
});
