import { findText, type Hit } from '../../../core/intake/find-text';
import type { OrUnreadable } from '../../contract/answers';
import { contentOf, readable, type Pulse, type ReportTask } from '../session';

/** Every place of a report where a text stands. */
export const find = ({
  source,
  text,
  pulse,
}: {
  source: ReportTask;
  text: string;
  pulse?: Pulse;
}): Promise<OrUnreadable<{ hits: Hit[] }>> =>
  readable(async () => {
    const { content } = await contentOf(source, { pulse });
    return { hits: content.pages.flatMap((each) => findText(each, text)) };
  });
