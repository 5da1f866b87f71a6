import type { ReportRead } from '../../../core/intake/take';
import { proposeSteps } from '../../../core/suggest/propose';
import type { Problem } from '../../../core/sheet/problem';
import type { ProposedSteps } from '../../contract/answers';
import { listsIn } from '../../lists/lists-in';
import { contentOf, pipelineFrom, readable, staleBy, type Pulse, type ReportTask } from '../session';

/** Steps proposed from what all reports given print. */
export async function propose({
  document,
  sources,
  pulse,
}: {
  document: string;
  sources: readonly ReportTask[];
  pulse?: Pulse;
}): Promise<ProposedSteps> {
  const pipeline = await pipelineFrom(document);
  const reads: ReportRead[] = [];
  const unreadable: Problem[] = [];
  for (const source of sources) {
    const read = await readable(() => contentOf(source, { pulse }));
    if ('unreadable' in read) unreadable.push(read.unreadable);
    else
      reads.push({
        key: source.key,
        path: source.path,
        period: source.period ?? null,
        pages: read.content.pages,
        tables: read.content.tables,
      });
  }
  const proposals =
    reads.length === 0
      ? []
      : proposeSteps(pipeline, reads, {
          lists: listsIn(sources[0].cacheFolder),
          dismissed: pipeline.dismissed ?? [],
          isStale: staleBy(pulse),
        });
  return { proposals, reports: reads.length, unreadable };
}
