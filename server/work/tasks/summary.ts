import type { MessagePort } from 'node:worker_threads';
import { heldByChecks } from '../../../core/checks/check';
import { heldBackBecause } from '../../../core/pipeline/held-back';
import { builtIn } from '../../../core/pipeline/layers';
import { countsOf, heldIn, toldProblems } from '../../../core/pipeline/told';
import { at } from '../../../core/sheet/problem';
import { zones } from '../../../core/steps/step';
import type { OrUnreadable, ReportSummary } from '../../contract/answers';
import { misfitsOf } from '../carried-rows';
import { readSummary } from '../facts';
import { carriedOf, readable, type Pulse, type ReportTask } from '../session';

/** Reads a report and carries it through the pipeline as it is now, for a look. */
export const summary = ({
  document,
  source,
  port,
  pulse,
}: {
  document: string;
  source: ReportTask;
  port?: MessagePort;
  pulse?: Pulse;
}): Promise<OrUnreadable<ReportSummary>> =>
  readable(async () => {
    const { pipeline, content, parsed, result } = await carriedOf(document, source, { port, pulse });
    const typing = new Set(
      zones.flatMap((zone) => pipeline[zone].filter(({ kind }) => kind === 'set types').map(({ id }) => id)),
    );
    return {
      ...readSummary(source.key, content, parsed),
      problems: toldProblems([...at({ report: source.key }, content.problems), ...result.problems]),
      matches: result.matches,
      layers: countsOf(result.layers),
      columns: (result.layers.find((layer) => layer.id === builtIn.appended)?.sheet ?? result.sheet).columns.map(
        (column) => column.name,
      ),
      untyped: Object.fromEntries(
        result.layers.flatMap(({ id }, at) =>
          typing.has(id) ? [[id, result.layers[at - 1].sheet.columns.map((column) => column.name)]] : [],
        ),
      ),
      rows: result.sheet.rows.length,
      held: heldIn(result.layers),
      misfits: misfitsOf(result.sheet).length,
      heldBack: [...heldBackBecause(content, result), ...heldByChecks(result.problems, pipeline.checks)],
    };
  });
