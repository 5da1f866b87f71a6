import type { MessagePort } from 'node:worker_threads';
import { countTies } from '../../../core/ties/tied';
import { heldBackBecause } from '../../../core/pipeline/held-back';
import { countsOf, heldIn, matchesTold, toldProblems, type CarriedTold } from '../../../core/pipeline/told';
import { at, type Problem } from '../../../core/sheet/problem';
import type { OrUnreadable } from '../../contract/answers';
import type { LoadedRows } from '../../store/publish';
import { misfitsOf, rowBatches, totalsOf } from '../carried-rows';
import { carriedOf, readable, type Pulse, type ReportTask } from '../session';

export interface Carried {
  readonly parsed: boolean;
  readonly told: CarriedTold;
  /** What it looks like, as JSON. */
  readonly traits: string;
  /** Why nothing of it may be published, if so: a page that could not be read, no table taken. */
  readonly heldBack: readonly Problem[];
  readonly rows: LoadedRows & { readonly batches: readonly string[] };
}

/**
 * Carries a report through the pipeline and hands over its rows ready to be loaded.
 * @param part id of the part they are loaded under; null: the rows are not wanted here
 */
export const carry = ({
  document,
  source,
  part,
  port,
  pulse,
}: {
  document: string;
  source: ReportTask;
  part: number | null;
  port?: MessagePort;
  pulse?: Pulse;
}): Promise<OrUnreadable<Carried>> =>
  readable(async () => {
    const { content, parsed, result } = await carriedOf(document, source, { port, pulse });
    return {
      parsed,
      traits: JSON.stringify(result.traits()),
      told: {
        matches: matchesTold(result.matches),
        layers: countsOf(result.layers),
        problems: toldProblems([...at({ report: source.key }, content.problems), ...result.problems]),
        ties: countTies(result.ties),
      },
      heldBack: heldBackBecause(content, result),
      rows: {
        rows: result.sheet.rows.length,
        held: heldIn(result.layers),
        columns: result.sheet.columns.map(({ name, type, unit }) => ({
          heading: name,
          type,
          ...(unit ? { unit } : {}),
        })),
        batches: part === null ? [] : rowBatches(result.sheet, part, Number),
        misfits: misfitsOf(result.sheet),
        totals: totalsOf(result.layers, result.ties),
      },
    };
  });
