import type { OrUnreadable, PageAnswer } from '../../contract/answers';
import { reportPage } from '../report-content';
import { beat, readable, readingPage, type Pulse, type ReportTask } from '../session';

/** The content of one page, and the pieces of found tables on it with all of their readings. */
export const page = ({
  source,
  number,
  pulse,
}: {
  source: ReportTask;
  number: number;
  pulse?: Pulse;
}): Promise<OrUnreadable<PageAnswer>> =>
  readable(async () => {
    beat(pulse);
    const { pageCount, page: found, pieces } = await reportPage(source, number, (at) => readingPage(pulse, at));
    return { pageCount, page: found ?? null, pieces };
  });
