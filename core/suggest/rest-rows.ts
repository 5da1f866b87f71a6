import { cellText, isBlank } from '../values/cell';
import { looksNumeric } from '../values/numeric';
import type { Column } from '../sheet/column';
import type { Sheet } from '../sheet/sheet';
import { plural, reportSheet } from './sheets-seen';
import type { Detector, SeenReport } from './suggestion';

/**
 * Rows that stand among the totals at the end and are no rows of data: tax and what else is put on a sum, which lack what every other
 * row has, and shares of a total, which are percentages under amounts.
 */
export const restRows: Detector = ({ reports }) => {
  const seen = reports
    .map((report) => ({ sheet: reportSheet(report), rest: restOf(report) }))
    .filter(({ sheet }) => sheet.rows.length > 0);
  const having = seen.filter(({ rest }) => rest.length > 0);
  if (having.length === 0 || having.length * 2 < seen.length) return [];
  const count = having.reduce((sum, { rest }) => sum + rest.length, 0);
  const { columns } = having[0].sheet;
  // In all reports blank in these rows and nowhere else.
  const lacking = columns
    .map(({ name }) => name)
    .filter((name) =>
      seen.every(({ sheet, rest }) =>
        isThere(named(sheet, name), (column) =>
          column.cells.every((cell, row) => isBlank(cell) === rest.includes(row)),
        ),
      ),
    );
  const example =
    columns.map(({ cells }) => cellText(cells[having[0].rest[0]])).find((text) => /\p{L}/u.test(text)) ?? '';
  const rows = plural(count, 'row stands', 'rows stand');
  const byText = textsIn(seen);
  const blank = lacking.map((name) => ({ of: { is: 'column', name }, test: 'is blank' }));
  // One blank amount may be one of data: only where the row has no beginning does it tell enough.
  const tells = lacking.length > 1 || lacking[0] === columns[0].name;
  if (lacking.length > 0 && (tells || byText))
    return [
      {
        zone: 'eachReport',
        kind: 'sift rows',
        settings: { conditions: [...blank, ...(tells ? [] : [byText])] },
        name: 'Hold what stands among the totals',
        reason: `${rows} among the totals and ${count === 1 ? 'has' : 'have'} no “${lacking.join('”, “')}”, such as “${example}”`,
      },
    ];
  if (!byText || !having.every(({ sheet, rest }) => rest.every((row) => isShare(sheet, row, rest)))) return [];
  return [
    {
      zone: 'eachReport',
      kind: 'sift rows',
      settings: { conditions: [byText] },
      name: 'Hold shares of the totals',
      reason: `${rows} among the totals with percentages under amounts, such as “${example}”`,
    },
  ];
};

interface WithRest {
  readonly sheet: Sheet;
  readonly rest: readonly number[];
}

const named = (sheet: Sheet, name: string) => sheet.columns.find((column) => column.name === name);

/** The condition on what these rows say, in a column in which no other row says it. */
function textsIn(
  seen: readonly WithRest[],
): { readonly of: object; readonly test: string; readonly values: readonly string[] } | undefined {
  const having = seen.filter(({ rest }) => rest.length > 0);
  const name = having[0].sheet.columns
    .map((column) => column.name)
    .find((each) =>
      having.every(({ sheet, rest }) =>
        isThere(named(sheet, each), ({ cells }) => rest.every((row) => /\p{L}/u.test(cellText(cells[row])))),
      ),
    );
  if (name === undefined) return undefined;
  const values = [
    ...new Set(having.flatMap(({ sheet, rest }) => rest.map((row) => cellText(named(sheet, name)!.cells[row])))),
  ];
  const others = new Set(
    seen.flatMap(({ sheet, rest }) =>
      (named(sheet, name)?.cells ?? []).filter((_, row) => !rest.includes(row)).map(cellText),
    ),
  );
  return values.some((value) => others.has(value))
    ? undefined
    : { of: { is: 'column', name }, test: 'is one of', values };
}

const isThere = (column: Column | undefined, test: (column: Column) => boolean): boolean =>
  column !== undefined && test(column);

/** The few rows at the very end of each page of a report below its first total there: sections under a total have rows of data, too. */
function restOf(report: SeenReport): number[] {
  const { rows } = reportSheet(report);
  const totals = report.carried.layers.flatMap(({ held }) =>
    held.kept === 'totals'
      ? held.rows.rows.map((row) => ({ ...held.rows.rows.id(row), page: held.rows.rows.page(row) }))
      : [],
  );
  const parts = new Map<string, number[]>();
  for (let row = 0; row < rows.length; row++) {
    const part = `${rows.table(row)} ${rows.page(row)}`;
    parts.set(part, [...(parts.get(part) ?? []), row]);
  }
  return [...parts.values()].flatMap((own) => {
    const [table, page] = [rows.table(own[0]), rows.page(own[0])];
    const first = Math.min(
      ...totals.filter((each) => each.table === table && each.page === page).map(({ ordinal }) => ordinal),
    );
    const end = own.filter((row) => rows.id(row).ordinal > first);
    return end.length <= mostRest && own.length > 2 * end.length ? end : [];
  });
}

/** So many rows stand among the totals at most: more are data. */
const mostRest = 3;

/** Are its amounts percentages, where those of the other rows are none? */
function isShare({ columns }: Sheet, row: number, rest: readonly number[]): boolean {
  const amounts = columns.filter(({ cells }) =>
    cells.some((cell, at) => !rest.includes(at) && !isBlank(cell) && looksNumeric(cellText(cell))),
  );
  const isPercent = (text: string) => /[%‰]\s*$/.test(text);
  const own = amounts.filter(({ cells }) => isPercent(cellText(cells[row])));
  return (
    own.length > 0 &&
    own.length * 2 >= amounts.length &&
    own.every(({ cells }) => cells.every((cell, at) => rest.includes(at) || !isPercent(cellText(cell))))
  );
}
