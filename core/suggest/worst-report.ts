import { plural } from './sheets-seen';

/** What came of a report under the steps so far, as far as it tells how unlike the others it is. */
export interface ReportOutcome {
  readonly rows: number;
  readonly held: number;
  readonly misfits: number;
  readonly problems: number;
  readonly columns: readonly string[];
  /** Nothing of it is taken. */
  readonly nothing: boolean;
}

export interface WorstReport {
  /** Place in the list. */
  readonly at: number;
  readonly because: string;
}

const median = (numbers: readonly number[]) =>
  [...numbers].sort((a, b) => a - b)[Math.floor((numbers.length - 1) / 2)] ?? 0;
/** So much more or fewer than is usual are told. */
const unusual = 0.25;

/** The report that differs most after the steps so far, and in what: one that gives nothing, else by misfits, problems, columns, rows held, and rows. */
export function worstReport(reports: readonly ReportOutcome[]): WorstReport | undefined {
  const [rows, held] = [
    median(reports.map((each) => each.rows)),
    median(reports.map((each) => each.held / Math.max(1, each.rows + each.held))),
  ];
  const counts = new Map<string, number>();
  for (const { columns, nothing } of reports)
    if (!nothing) for (const name of columns) counts.set(name, (counts.get(name) ?? 0) + 1);
  const usual = [...counts].filter(([, count]) => count * 2 > reports.length).map(([name]) => name);
  const scored = reports.map((each, at) => {
    if (each.nothing) return { at, score: 1000, because: 'nothing of it is taken' };
    const columns =
      each.columns.filter((name) => !usual.includes(name)).length +
      usual.filter((name) => !each.columns.includes(name)).length;
    const share = each.held / Math.max(1, each.rows + each.held) - held;
    const size = rows === 0 ? 0 : Math.abs(each.rows - rows) / rows;
    const reasons: [number, string][] = [
      [10 * each.misfits, plural(each.misfits, 'misfit')],
      [8 * each.problems, plural(each.problems, 'problem')],
      [3 * columns, `${plural(columns, 'column')} that ${columns === 1 ? 'differs' : 'differ'} from the others`],
      [share > unusual ? 20 * share : 0, `${plural(each.held, 'row')} held, more than is usual`],
      [size > unusual ? size : 0, `${plural(each.rows, 'row')}, where ${rows.toLocaleString('en')} are usual`],
    ];
    const told = reasons.filter(([score]) => score > 0).sort((a, b) => b[0] - a[0]);
    return {
      at,
      score: told.reduce((sum, [score]) => sum + score, 0),
      because: told
        .map(([, says]) => says)
        .slice(0, 2)
        .join(', '),
    };
  });
  const [worst] = scored.filter(({ score }) => score > 0).sort((a, b) => b.score - a.score || a.at - b.at);
  return worst && { at: worst.at, because: worst.because };
}
