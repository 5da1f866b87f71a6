// What a dataset was made of, as every way out that has room for it says it.
import { nothingTold, type CarriedTold } from '../../core/pipeline/told';
import { sentence } from '../../core/sheet/problem';
import type { ToldOfWhole } from '../../core/runs/run';
import type { Publication } from '../store/dataset';
import type { StoredPipeline } from '../store/pipelines';
import { keptTotals, publishedParts } from '../store/published';
import { buildWords } from '../setup/build';
import type { Store } from '../store/store';

export interface Provenance {
  readonly dataset: string;
  readonly publishedAt: string;
  readonly version: number | null;
  /** The builds that made its rows, in words. */
  readonly builds: readonly string[];
  readonly rows: number;
  /** Texts that did not fit their column: blank wherever values are typed. */
  readonly errorCells: number;
  readonly reports: readonly {
    readonly report: number;
    readonly path: string;
    readonly period: string | null;
    readonly sha256: string;
    readonly rows: number;
    readonly held: number;
    readonly stale: boolean;
    readonly problems: readonly string[];
  }[];
  readonly totals: readonly {
    readonly report: string;
    readonly page: number;
    readonly label: string;
    readonly column: string;
    readonly printed: number;
    readonly computed: number | null;
    readonly outcome: string;
    readonly why: string;
  }[];
}

export async function provenanceOf(
  store: Store,
  pipeline: StoredPipeline,
  publication: Publication,
): Promise<Provenance> {
  const parts = await publishedParts(store, pipeline.id);
  const whole = parts.find((part) => part.report === null);
  const told = whole && (JSON.parse(whole.told) as ToldOfWhole);
  const pathOf = new Map(
    parts.flatMap(({ inputs }) => inputs.map(({ report, path }) => [String(report), path] as const)),
  );
  const reports = parts.flatMap((part) =>
    part.inputs.map(({ report, path, period = null, sha256 }) => {
      const own =
        part.report === null
          ? (told?.reports[String(report)] ?? { ...nothingTold, rows: 0, held: 0 })
          : { ...(JSON.parse(part.told) as CarriedTold), rows: part.rows, held: part.held };
      return {
        report,
        path,
        period,
        sha256,
        rows: own.rows,
        held: own.held,
        stale: part.stale,
        problems: own.problems.map((problem) => sentence(problem, { report: (key) => pathOf.get(key) ?? key })),
      };
    }),
  );
  const totals = (await keptTotals(store, pipeline.id)).flatMap(({ row, page, ties }) =>
    ties.map(({ label, column, printed, computed, outcome, because, accepted }) => ({
      report: pathOf.get(row.report) ?? '',
      page,
      label,
      column,
      printed,
      computed: computed ?? null,
      outcome: accepted === undefined ? outcome : 'accepted as misprinted',
      why: accepted ?? because ?? '',
    })),
  );
  return {
    dataset: pipeline.document.name,
    publishedAt: publication.publishedAt,
    version: publication.version,
    builds: [...new Set(parts.map(({ build }) => buildWords(build)))],
    rows: publication.rows,
    errorCells: publication.misfits,
    reports,
    totals,
  };
}

/** How many printed totals stand in each way, in words. */
export function totalsInWords({ totals }: Provenance): string {
  const counts = new Map<string, number>();
  for (const { outcome } of totals) counts.set(outcome, (counts.get(outcome) ?? 0) + 1);
  return [...counts].map(([outcome, count]) => `${count} ${outcome}`).join(', ');
}
