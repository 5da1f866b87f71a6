import { stampedPeriod, type PeriodStamp } from '../../../core/intake/stamped-period';
import type { OrUnreadable } from '../../contract/answers';
import { contentOf, readable, type Pulse, type ReportTask } from '../session';

/** The period that a report says on its pages; null where none of them does. */
export const stamp = ({
  source,
  stamp: wanted,
  pulse,
}: {
  source: ReportTask;
  stamp: PeriodStamp;
  pulse?: Pulse;
}): Promise<OrUnreadable<{ period: string | null }>> =>
  readable(async () => {
    const { content } = await contentOf(source, { pulse });
    return { period: stampedPeriod(content.pages, wanted) ?? null };
  });
