import { cellText, isBlank } from '../values/cell';
import type { Sheet } from '../sheet/sheet';
import { isNamed, mostCommon, plural, printedWords, tablesOf } from './sheets-seen';
import type { Detector, SeenReport } from './suggestion';

/** Columns of a table on either side, at least. */
const fewestColumns = 2;
/** The room between two tables is so many times as wide as any other between columns, and so many font sizes. */
const muchWider = 1.8;
const clearlyApart = 2;
const mostlyLabels = 0.8;

/**
 * Another table beside the one that is wanted, which reading took for its columns: set off by much more room than there is between
 * other columns, with labels of its own, and of other length in some report. The columns of the longer are kept.
 */
export const tablesAside: Detector = ({ reports }) => {
  const found = reports.flatMap((report) =>
    tablesOf(report)
      .filter((table) => table.rows.length > 0 && isNamed(table))
      .map((table) => ({ table, at: partedAt(table, report) })),
  );
  const at = mostCommon(found.flatMap((each) => (each.at === undefined ? [] : [each.at])));
  const alike = found.filter((each) => each.at === at);
  if (at === undefined || alike.length * 2 <= found.length) return [];
  const ends = alike.map(({ table }) => [lastFilled(table, 0, at), lastFilled(table, at, table.columns.length)]);
  const [leftLonger, rightLonger] = [
    ends.filter(([left, right]) => left > right).length,
    ends.filter(([left, right]) => right > left).length,
  ];
  // Of equal length in all, or now this and now that: they may be of one table.
  if (leftLonger > 0 === rightLonger > 0) return [];
  const { columns } = alike[0].table;
  const [kept, other] =
    leftLonger > 0 ? [columns.slice(0, at), columns.slice(at)] : [columns.slice(at), columns.slice(0, at)];
  const names = (of: typeof columns) => `“${of.map(({ name }) => name).join('”, “')}”`;
  return [
    {
      zone: 'eachTable',
      kind: 'pick columns',
      settings: { columns: { by: 'names', names: kept.map(({ name }) => name) } },
      name: `Leave out the table at the ${leftLonger > 0 ? 'right' : 'left'}`,
      reason: `${names(other)} stand apart, with labels of their own, and end above the others in ${plural(leftLonger + rightLonger, 'table')}: another table, which a pipeline of its own can take`,
    },
  ];
};

/** The first column of the table at the right; undefined where there is one table. */
function partedAt(table: Sheet, report: SeenReport): number | undefined {
  if (table.columns.length < 2 * fewestColumns) return undefined;
  const words = printedWords(report);
  const page = table.rows.page(0);
  const rows = table.rows.map((row) => row).filter((row) => table.rows.page(row) === page);
  const extents = table.columns.map(({ origins, namedBy }) => {
    const own = [...(namedBy === undefined ? [] : [namedBy]), ...rows.map((row) => origins[row])].flatMap((origin) =>
      words(table, origin),
    );
    return {
      left: Math.min(...own.map(({ box }) => box[0])),
      right: Math.max(...own.map(({ box }) => box[2])),
      size: own[0]?.fontSize ?? 0,
    };
  });
  const gaps = extents.slice(1).map(({ left }, i) => left - extents[i].right);
  const widest = gaps.indexOf(Math.max(...gaps));
  const at = widest + 1;
  const others = Math.max(0, ...gaps.filter((_, i) => i !== widest));
  if (
    at < fewestColumns ||
    table.columns.length - at < fewestColumns ||
    gaps[widest] < muchWider * others ||
    gaps[widest] < clearlyApart * extents[at].size
  )
    return undefined;
  return isLabels(table.columns[0].cells) && isLabels(table.columns[at].cells) ? at : undefined;
}

function isLabels(cells: Sheet['columns'][number]['cells']): boolean {
  const filled = cells.filter((cell) => !isBlank(cell)).map(cellText);
  return (
    filled.length > 0 &&
    filled.filter((text) => /^\p{L}/u.test(text)).length >= mostlyLabels * filled.length &&
    new Set(filled).size >= mostlyLabels * filled.length
  );
}

const lastFilled = ({ columns, rows }: Sheet, from: number, to: number): number =>
  rows.map((row) => row).findLast((row) => columns.slice(from, to).some(({ cells }) => !isBlank(cells[row]))) ?? -1;
