import { findText, type Hit } from '../../../core/intake/find-text';
import type { OrUnreadable } from '../../contract/answers';
import { contentOf, readable, type ReportTask } from '../session';

/** Every place of a report where a text stands. */
export const find = ({ source, text }: { source: ReportTask; text: string }): Promise<OrUnreadable<{ hits: Hit[] }>> =>
  readable(async () => {
    const { content } = await contentOf(source);
    return { hits: content.pages.flatMap((each) => findText(each, text)) };
  });
