// Against what is meant: for each row, the rows that it looks at are picked anew, and reckoned with as plainly as can be.
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { results, type Given } from '../testing/formula-results';

interface Row {
  readonly report: string;
  readonly quay: string | null;
  readonly value: number | null;
}
const row: fc.Arbitrary<Row> = fc.record({
  report: fc.constantFrom('a', 'b'),
  quay: fc.constantFrom('Saltby', 'Tern Point', null),
  value: fc.option(fc.integer({ min: -50, max: 50 }), { nil: null }),
});
/** Rows of a report stand together, as they do in a sheet. */
const sheet = fc
  .array(row, { minLength: 1, maxLength: 14 })
  .map((rows) => [...rows].sort((a, b) => (a.report < b.report ? -1 : a.report > b.report ? 1 : 0)));

const came = (formula: string, rows: readonly Row[]) => {
  const given: Given = {
    Quay: ['text', ...rows.map(({ quay }) => quay)],
    Value: ['integer', ...rows.map(({ value }) => value)],
  };
  return results(
    formula,
    given,
    () => null,
    (at) => rows[at].report,
  );
};
/** The rows of the same report, and of the same quay where it is asked for, in their order. */
const around = (rows: readonly Row[], at: number, byQuay: boolean) =>
  rows.flatMap((each, i) => (each.report === rows[at].report && (!byQuay || each.quay === rows[at].quay) ? [i] : []));

interface Reckoned {
  readonly written: string;
  readonly of: (values: readonly (number | null)[]) => number | null;
}
const known = (values: readonly (number | null)[]) => values.filter((value) => value !== null);
const reckonings: readonly Reckoned[] = [
  {
    written: 'sum("Value")',
    of: (values) => (known(values).length === 0 ? null : known(values).reduce((sum, value) => sum + value, 0)),
  },
  { written: 'count("Value")', of: (values) => known(values).length },
  { written: 'count(*)', of: (values) => values.length },
  { written: 'min("Value")', of: (values) => (known(values).length === 0 ? null : Math.min(...known(values))) },
  { written: 'max("Value")', of: (values) => (known(values).length === 0 ? null : Math.max(...known(values))) },
  {
    written: 'round(avg("Value"), 6)',
    of: (values) =>
      known(values).length === 0
        ? null
        : (Math.round((1e6 * Math.abs(known(values).reduce((sum, value) => sum + value, 0))) / known(values).length) /
            1e6) *
            Math.sign(known(values).reduce((sum, value) => sum + value, 0)) +
          0,
  },
];
const withWindow = (written: string, window: string) => written.replace(/\)(?=$|, 6\)$)/, `) over (${window})`);

describe('functions over other rows', () => {
  for (const { written, of } of reckonings)
    it(`${written} is that of the whole report, of a part of it, and of what came so far`, () => {
      fc.assert(
        fc.property(sheet, (rows) => {
          for (const [window, byQuay, soFar] of [
            ['', false, false],
            ['partition by "Quay"', true, false],
            ['order by report.row', false, true],
            ['partition by "Quay" order by report.row', true, true],
          ] as const)
            expect(came(withWindow(written, window), rows), window).toEqual(
              rows.map((_, at) =>
                of(
                  around(rows, at, byQuay)
                    .filter((i) => !soFar || i <= at)
                    .map((i) => rows[i].value),
                ),
              ),
            );
        }),
      );
    });

  it('lag and lead are the value so many rows before and behind, or what is given instead', () => {
    fc.assert(
      fc.property(sheet, fc.integer({ min: 0, max: 4 }), fc.boolean(), (rows, distance, byQuay) => {
        const window = `${byQuay ? 'partition by "Quay" ' : ''}order by report.row`;
        for (const [name, direction] of [
          ['lag', -1],
          ['lead', 1],
        ] as const) {
          const shifted = rows.map((_, at) => {
            const own = around(rows, at, byQuay);
            return own[own.indexOf(at) + direction * distance];
          });
          expect(came(`${name}("Value", ${distance}) over (${window})`, rows)).toEqual(
            shifted.map((i) => (i === undefined ? null : rows[i].value)),
          );
          expect(came(`${name}("Value", ${distance}, 999) over (${window})`, rows)).toEqual(
            shifted.map((i) => (i === undefined ? 999 : rows[i].value)),
          );
        }
      }),
    );
  });

  it('row_number counts, and first_value stays', () => {
    fc.assert(
      fc.property(sheet, fc.boolean(), (rows, byQuay) => {
        const window = `${byQuay ? 'partition by "Quay" ' : ''}order by report.row`;
        expect(came(`row_number() over (${window})`, rows)).toEqual(
          rows.map((_, at) => around(rows, at, byQuay).indexOf(at) + 1),
        );
        expect(came(`first_value("Value") over (${window})`, rows)).toEqual(
          rows.map((_, at) => rows[around(rows, at, byQuay)[0]].value),
        );
      }),
    );
  });

  it('a running sum grows by the value of its row, and ends with the sum of all', () => {
    fc.assert(
      fc.property(sheet, (rows) => {
        expect(came('coalesce(sum("Value") over (order by report.row), 0) - coalesce("Value", 0)', rows)).toEqual(
          rows.map((_, at) =>
            around(rows, at, false)
              .filter((i) => i < at)
              .reduce((sum, i) => sum + (rows[i].value ?? 0), 0),
          ),
        );
        expect(came('count(*) over () = row_number() over (order by report.row)', rows)).toEqual(
          rows.map((_, at) => around(rows, at, false).at(-1) === at),
        );
      }),
    );
  });

  it('share out a whole: the shares of a report are one together', () => {
    fc.assert(
      fc.property(
        sheet.map((rows) => rows.map((each) => ({ ...each, value: 1 + Math.abs(each.value ?? 0) }))),
        (rows) => {
          const shares = came('"Value" / sum("Value") over ()', rows) as number[];
          for (const report of new Set(rows.map((each) => each.report)))
            expect(
              shares.filter((_, i) => rows[i].report === report).reduce((sum, share) => sum + share, 0),
            ).toBeCloseTo(1, 9);
        },
      ),
    );
  });
});
