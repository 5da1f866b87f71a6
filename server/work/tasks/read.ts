import type { MessagePort } from 'node:worker_threads';
import type { OrUnreadable, ReadSummary } from '../../contract/answers';
import { readSummary } from '../facts';
import { contentOf, readable, type Pulse, type ReportTask } from '../session';

/** Reads a report into the cache and tells what was found. */
export const read = ({
  source,
  port,
  pulse,
}: {
  source: ReportTask;
  port?: MessagePort;
  pulse?: Pulse;
}): Promise<OrUnreadable<ReadSummary>> =>
  readable(async () => {
    const { content, parsed } = await contentOf(source, { port, pulse });
    return readSummary(source.key, content, parsed);
  });
