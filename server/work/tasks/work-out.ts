import { columnsWorkedOut, type PrintedSheet } from '../../../core/pipeline/columns-worked-out';
import type { Problem } from '../../../core/sheet/problem';
import { locales, type LocaleName } from '../../../core/values/locale';
import type { WorkOutAnswer } from '../../contract/answers';
import { lookedAt, readable, type Pulse, type ReportTask } from '../session';

/** What the columns above a step are read as, worked out over all reports given. */
export async function workOut({
  document,
  sources,
  step,
  locale,
  pulse,
}: {
  document: string;
  sources: readonly ReportTask[];
  step: string;
  locale: LocaleName;
  pulse?: Pulse;
}): Promise<WorkOutAnswer> {
  const sheets: PrintedSheet[] = [];
  const unreadable: Problem[] = [];
  for (const source of sources) {
    const looked = await readable(() => lookedAt({ document, source, pulse }));
    if ('unreadable' in looked) {
      unreadable.push(looked.unreadable);
      continue;
    }
    const at = looked.layers.findIndex((layer) => layer.id === step);
    if (at > 0 && looked.layers[at - 1].sheet.rows.length > 0)
      sheets.push({ key: source.key, sheet: looked.layers[at - 1].sheet, paper: looked.paper });
  }
  return {
    columns: columnsWorkedOut(sheets, locales[locale]),
    rows: sheets.reduce((sum, { sheet }) => sum + sheet.rows.length, 0),
    reports: sheets.length,
    unreadable,
  };
}
