import { factsOf, type SheetFacts } from '../../../core/checks/propose';
import type { OrUnreadable } from '../../contract/answers';
import { carriedOf, readable, type Pulse, type ReportTask } from '../session';

/** What holds in the rows of a report, as they enter the dataset. */
export const facts = ({
  document,
  source,
  pulse,
}: {
  document: string;
  source: ReportTask;
  pulse?: Pulse;
}): Promise<OrUnreadable<{ facts: SheetFacts }>> =>
  readable(async () => {
    const { sheet, paper } = (await carriedOf(document, source, { pulse })).result;
    return { facts: factsOf(sheet, paper) };
  });
