import { isError, type Cell } from '../values/cell';
import type { Sheet } from '../sheet/sheet';
import type { Paper } from '../steps/step';
import { isNumeric, type Format } from '../values/format';
import type { Locale } from '../values/locale';
import { asReport, type MarkName } from '../values/marks';
import { ownMarks, printedDifferently } from '../values/own-marks';
import { unitIn } from '../values/unit';
import { tellMarks, workOut, type Alternative, type Misfit, type WorkedOut } from '../values/work-out';

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
  const names = [
    ...new Set(
      reports.flatMap(({ sheet }) =>
        sheet.columns.filter((column) => column.type === 'text').map((column) => column.name),
      ),
    ),
  ];
  /** Of each column that leaves its marks open the others that would do, and of each that does not what tells them. */
  const open = new Map<string, MarkName>();
  const told = new Map<string, readonly string[]>();
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
    const together = workOut({ name, texts, titles: [...titles] }, locale);
    const each = byReport(
      name,
      together,
      starts.map((start, i) => texts.slice(start, starts[i + 1])),
      locale,
    );
    const { format, reason, doubt, misfits, firstMisfits, runnerUp } = each ?? together;
    if (!each && together.otherMarks !== undefined) open.set(name, together.otherMarks);
    else if (!each && together.examples) told.set(name, together.examples);
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
  const settled = proposed.map((column): ProposedColumn => {
    const others = open.get(column.name);
    const tells =
      others !== undefined &&
      proposed.some(
        ({ name, format }) =>
          format.marks === column.format.marks && tellMarks(told.get(name) ?? [], format, others, locale),
      );
    const { doubt: _, ...without } = column;
    return tells ? without : column;
  });
  const labels = settled
    .filter(({ format }) => format.type === 'text')
    .flatMap(({ name }) => unitsInLabels(name, reports));
  return settled.map((column) =>
    labels.length > 0 && isAmount(column)
      ? { ...column, doubt: [column.doubt, labels[0]].filter(Boolean).join(' ') }
      : column,
  );
}

/** The numbers read as each report prints them, where reports print them in ways that exclude each other: what is a number in one may be another number in the next. */
function byReport(
  name: string,
  together: WorkedOut,
  reports: readonly (readonly (string | null)[])[],
  locale: Locale,
): WorkedOut | undefined {
  const format = [together.format, together.runnerUp?.format].find((each) => each && isNumeric(each.type));
  if (!format || together.isCode || reports.length < 2) return undefined;
  const own = reports.map((texts) => ownMarks(texts, format, locale));
  if (!printedDifferently(own) || reports.some((texts) => workOut({ name, texts }, locale).isCode)) return undefined;
  const firstMisfits: Misfit[] = [];
  let [misfits, filled, row] = [0, 0, 0];
  for (const [i, texts] of reports.entries())
    for (const text of texts) {
      const parsed = text === null ? undefined : own[i].read(text);
      if (parsed) filled++;
      if (parsed && !('value' in parsed) && misfits++ < shownMisfits)
        firstMisfits.push({ row, text: text!, expected: parsed.expected });
      row++;
    }
  const before = together.format.type === 'text' ? filled : together.misfits;
  if (misfits > before || misfits > mostMisfits * filled) return undefined;
  const proposed: Format = { ...format, type: format.type === 'integer' ? 'decimal' : format.type, marks: asReport };
  const { doubt: _, ...told } = together;
  return {
    ...told,
    format: proposed,
    misfits,
    firstMisfits,
    reason: `The reports print numbers in different ways: ${[...new Set(own.map(({ styles }) => styles[0]))].join(', ')}. Each is read by its own.`,
  };
}

const shownMisfits = 3;
/** At most this share of the values may be misfits. */
const mostMisfits = 0.1;

const isAmount = ({ format }: ProposedColumn) =>
  (format.type === 'integer' || format.type === 'decimal') && format.unit === '';

/** A sentence about a column of labels whose rows state different units. */
function unitsInLabels(name: string, reports: readonly PrintedSheet[]): string[] {
  const units = new Set<string>();
  for (const { sheet } of reports)
    for (const cell of sheet.columns.find((column) => column.name === name)?.cells ?? [])
      units.add(unitIn(/[([][^()[\]]+[)\]]\s*$/.exec(textOf(cell) ?? '')?.[0] ?? ''));
  units.delete('');
  return units.size > 1
    ? [`The rows are in different units, told by “${name}” (${[...units].join(', ')}): adding over them means nothing.`]
    : [];
}

const textOf = (cell: Cell): string | null => (cell === null ? null : isError(cell) ? cell.text : String(cell));
