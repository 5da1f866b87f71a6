import { countTies } from '../../../core/ties/tied';
import { countsOf, heldIn, toldProblems, type TieCounts } from '../../../core/pipeline/told';
import type { WholeTold } from '../../../core/runs/run';
import type { Problem } from '../../../core/sheet/problem';
import type { Rows } from '../../../core/sheet/row';
import type { OrUnreadable } from '../../contract/answers';
import type { LoadedRows } from '../../store/publish';
import { misfitsOf, rowBatches } from '../carried-rows';
import { readable, wholeOf, type Pulse, type ReportTask } from '../session';

/** What the steps over all reports made of one of them. */
export interface ShareOfWhole {
  readonly rows: number;
  readonly held: number;
  readonly misfits: number;
  readonly problems: readonly Problem[];
  /** How its printed totals stand in the end. */
  readonly ties: TieCounts;
}

export interface Whole {
  readonly told: WholeTold;
  /** By the key of each report. */
  readonly shares: Readonly<Record<string, ShareOfWhole>>;
  readonly rows: LoadedRows & { readonly batches: readonly string[] };
}

/** Carries all reports through the steps that need the whole. */
export const whole = ({
  document,
  sources,
  part,
  pulse,
}: {
  document: string;
  sources: readonly ReportTask[];
  part: number;
  pulse?: Pulse;
}): Promise<OrUnreadable<Whole>> =>
  readable(async () => {
    const { layers, sheet, problems: all, totals, ties, tiedBefore } = await wholeOf(document, sources, pulse);
    const problems = toldProblems(all);
    const keys = new Set(sources.map(({ key }) => key));
    const misfits = misfitsOf(sheet);
    const countByReport = (rows: Rows, at: Iterable<number>) => {
      const counts = new Map<string, number>();
      for (const row of at) counts.set(rows.report(row), (counts.get(rows.report(row)) ?? 0) + 1);
      return counts;
    };
    const rowsOf = countByReport(sheet.rows, sheet.rows.numbers.keys());
    const misfitsIn = countByReport(
      sheet.rows,
      misfits.map(({ ordinal }) => ordinal),
    );
    const heldOf = layers.map(({ held }) => countByReport(held.rows.rows, held.rows.rows.numbers.keys()));
    const shares = [...keys].map((key): [string, ShareOfWhole] => [
      key,
      {
        rows: rowsOf.get(key) ?? 0,
        held: heldOf.reduce((sum, counts) => sum + (counts.get(key) ?? 0), 0),
        misfits: misfitsIn.get(key) ?? 0,
        problems: problems.filter(({ report }) => report === key),
        ties: countTies(ties.filter(({ row }) => row.report === key)),
      },
    ]);
    return {
      told: {
        layers: countsOf(layers),
        tiedBefore,
        problems: problems.filter(({ report }) => report === undefined || !keys.has(report)),
      },
      shares: Object.fromEntries(shares),
      rows: {
        rows: sheet.rows.length,
        held: heldIn(layers),
        columns: sheet.columns.map(({ name, type, unit }) => ({ heading: name, type, ...(unit ? { unit } : {}) })),
        batches: rowBatches(sheet, part, Number),
        misfits,
        totals,
      },
    };
  });
