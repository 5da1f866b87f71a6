import { NoSelection, conditionFrom, orderFrom, type Selection } from '../../../core/dataset/selection';
import type { Publication } from '../../store/dataset';
import { Fault } from '../fault';

export const selectionIn = (
  publication: Publication,
  { where, order }: { readonly where: readonly string[]; readonly order: string },
): Selection => {
  const headings = publication.columns.map(({ heading }) => heading);
  return { where: where.map((text) => conditionFrom(text, headings)), order: orderFrom(order, headings) };
};
/** What cannot be selected is the asker's fault, told in a sentence. */
export const selecting = <Answer>(work: Promise<Answer>): Promise<Answer> =>
  work.catch((error: Error) => {
    throw error instanceof NoSelection ? new Fault('bad input', error.message) : error;
  });
