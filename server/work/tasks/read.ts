import type { MessagePort } from 'node:worker_threads';
import type { OrUnreadable, ReadSummary } from '../../contract/answers';
import { readSummary } from '../facts';
import { contentOf, readable, type ReportTask } from '../session';

/** Reads a report into the cache and tells what was found. */
export const read = ({ source, port }: { source: ReportTask; port?: MessagePort }): Promise<OrUnreadable<ReadSummary>> =>
  readable(async () => {
    const { content, parsed } = await contentOf(source, port);
    return readSummary(source.key, content, parsed);
  });
