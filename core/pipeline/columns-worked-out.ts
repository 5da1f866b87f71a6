import { isError, type Cell } from '../values/cell';
import type { Sheet } from '../sheet/sheet';
import type { Paper } from '../steps/step';
import type { Locale } from '../values/locale';
import { unitIn } from '../values/unit';
import { workOut, type Alternative, type Misfit, type WorkedOut } from '../values/work-out';

/** One report's sheet above the step that sets types. */
export interface PrintedSheet {
  readonly key: string;
  readonly sheet: Sheet;
  readonly paper: Paper;
}

export interface PlacedMisfit extends Omit<Misfit, 'row'> {
  /** Key of the report, and the row of its sheet. */
  readonly report: string;
  readonly row: number;
  readonly page: number;
}

/** What one column is read as, worked out over all reports given. */
export interface ProposedColumn extends Pick<WorkedOut, 'format' | 'reason' | 'doubt' | 'misfits'> {
  readonly name: string;
  /** Do all reports looked at have it? */
  readonly everywhere: boolean;
  readonly firstMisfits: readonly PlacedMisfit[];
  readonly runnerUp?: Alternative;
}

/** Works out every column of text over all values of the reports; columns that are typed already are passed over. */
export function columnsWorkedOut(reports: readonly PrintedSheet[], locale: Locale): ProposedColumn[] {
  const names = [...new Set(reports.flatMap(({ sheet }) => sheet.columns.filter((column) => column.type === 'text').map((column) => column.name)))];
  const proposed = names.map((name): ProposedColumn => {
    const texts: (string | null)[] = [];
    const starts: number[] = [];
    const titles = new Set<string>();
    for (const { sheet, paper } of reports) {
      starts.push(texts.length);
      const column = sheet.columns.find((each) => each.name === name && each.type === 'text');
      if (!column) continue;
      for (const cell of column.cells) texts.push(textOf(cell));
      for (const table of new Set(sheet.rows.map(sheet.rows.table))) {
        const title = paper.title(table);
        if (title) titles.add(title.text);
      }
    }
    const { format, reason, doubt, misfits, firstMisfits, runnerUp } = workOut({ name, texts, titles: [...titles] }, locale);
    return {
      name,
      everywhere: reports.every(({ sheet }) => sheet.columns.some((column) => column.name === name)),
      format,
      reason,
      misfits,
      ...(doubt ? { doubt } : {}),
      ...(runnerUp ? { runnerUp } : {}),
      firstMisfits: firstMisfits.map(({ row, text, expected }) => {
        const at = starts.findLastIndex((start) => start <= row);
        const own = row - starts[at];
        return { report: reports[at].key, row: own, page: reports[at].sheet.rows.page(own), text, expected };
      }),
    };
  });
  const labels = proposed.filter(({ format }) => format.type === 'text').flatMap(({ name }) => unitsInLabels(name, reports));
  return proposed.map((column) => (labels.length > 0 && isAmount(column) ? { ...column, doubt: [column.doubt, labels[0]].filter(Boolean).join(' ') } : column));
}

const isAmount = ({ format }: ProposedColumn) => (format.type === 'integer' || format.type === 'decimal') && format.unit === '';

/** A sentence about a column of labels whose rows state different units. */
function unitsInLabels(name: string, reports: readonly PrintedSheet[]): string[] {
  const units = new Set<string>();
  for (const { sheet } of reports) for (const cell of sheet.columns.find((column) => column.name === name)?.cells ?? []) units.add(unitIn(/[([][^()[\]]+[)\]]\s*$/.exec(textOf(cell) ?? '')?.[0] ?? ''));
  units.delete('');
  return units.size > 1 ? [`The rows are in different units, told by “${name}” (${[...units].join(', ')}): adding over them means nothing.`] : [];
}

const textOf = (cell: Cell): string | null => (cell === null ? null : isError(cell) ? cell.text : String(cell));
