/** A found table, as far as it is told of without its rows. */
export interface FoundBrief {
  readonly id: string;
  readonly title: string | null;
  readonly headingCells: readonly string[];
  readonly rows: number;
  readonly columns: number;
}

export interface LikeliestTable<Table extends FoundBrief> {
  /** In the report that it is shown on. */
  readonly table: Table;
  readonly columns: number;
  /** Reports that have a table with the same heading, of those looked at. */
  readonly reports: number;
  readonly of: number;
  /** Most reports have several of it, as where each page is a form of its own: all of them are wanted. */
  readonly several: boolean;
}

const folded = (text: string) => text.toLowerCase().replace(/\d+/g, '#').replace(/\s+/g, ' ').trim();

/** Headings that have so much of their texts in common are of one table. */
const alike = 0.6;

/** Do two tables have one title, or headings that are mostly the same? */
function isAlike(a: FoundBrief, b: FoundBrief): boolean {
  if (a.title !== null && b.title !== null && folded(a.title) === folded(b.title)) return true;
  if (a.headingCells.length === 0 || b.headingCells.length === 0)
    return a.headingCells.length === b.headingCells.length && a.columns === b.columns;
  const [left, right] = [a, b].map(({ headingCells }) => new Set(headingCells.map(folded)));
  const common = [...left].filter((text) => right.has(text)).length;
  return common / (left.size + right.size - common) >= alike;
}

/** The same form again: the very heading over as many columns. */
const isSameForm = (a: FoundBrief, b: FoundBrief): boolean =>
  a.columns === b.columns &&
  a.headingCells.length > 0 &&
  a.headingCells.map(folded).join('\n') === b.headingCells.map(folded).join('\n');

/**
 * The table that is most likely wanted: the largest, by its cells, among those that most reports have.
 * @param reports the found tables of each report
 * @param shown the report that it is to be shown on; another where that has no such table
 */
export function likeliestTable<Table extends FoundBrief>(
  reports: readonly (readonly Table[])[],
  shown = 0,
): (LikeliestTable<Table> & { readonly report: number }) | undefined {
  const groups: { readonly report: number; readonly table: Table }[][] = [];
  for (const [report, tables] of reports.entries())
    for (const table of tables) {
      const group = groups.find(([first]) => isAlike(first.table, table));
      const own = group?.findIndex((each) => each.report === report) ?? -1;
      if (!group) groups.push([{ report, table }]);
      else if (own < 0) group.push({ report, table });
      // Of several alike the largest speaks for its report.
      else if (table.rows * table.columns > group[own].table.rows * group[own].table.columns)
        group[own] = { report, table };
    }
  const most = Math.max(0, ...groups.map((group) => group.length));
  const cells = (group: (typeof groups)[number]) =>
    group.reduce((sum, { table }) => sum + table.rows * table.columns, 0);
  const [best] = groups
    .filter((group) => group.length * 2 > most && group.some(({ table }) => table.rows > 1 && table.columns > 1))
    .sort((a, b) => cells(b) - cells(a));
  if (!best) return undefined;
  const here = best.find(({ report }) => report === shown) ?? best[0];
  const several =
    best.filter(({ report, table }) => reports[report].filter((each) => isSameForm(each, table)).length > 1).length *
      2 >
    best.length;
  // The first of several is the one to begin at.
  const table = several ? reports[here.report].find((each) => isSameForm(each, here.table))! : here.table;
  return { ...here, table, columns: table.columns, reports: best.length, of: reports.length, several };
}
