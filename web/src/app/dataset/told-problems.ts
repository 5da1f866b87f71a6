import type { Problem } from '../../../../core/sheet/problem';
import type { PublishedAnswer, RunReport } from '../../../../server/contract/contract';
import { titleIn } from '../shared/words';

/** What needs a look in a report, in sentences. */
export interface ToldReport {
  readonly path: string;
  readonly state: string;
  readonly sentences: readonly string[];
}

/** What needs a look: of the published rows as they were published, and of reports whose rows could not be had since. */
export function toldProblems(published: PublishedAnswer | undefined, last: readonly RunReport[], sentenceOf: (problem: Problem, how: { ofOne?: boolean; step: (id: string) => string }) => string): ToldReport[] {
  const { reports = [], whole } = published ?? {};
  const late = last.filter(({ state }) => state === 'failed' || state === 'held back' || state === 'stale');
  const others = reports.filter(({ report }) => !late.some((each) => each.report === report)).map((report) => ({ ...report, state: '' }));
  const told = [...late, ...others].filter(({ problems }) => problems.length > 0);
  const ofWhole = whole && whole.problems.length > 0 ? [{ path: 'All reports', state: '', sentences: whole.problems.map((problem) => sentenceOf(problem, { step: titleIn(whole.layers) })) }] : [];
  return [...ofWhole, ...told.map(({ path, state, layers, problems }) => ({ path, state, sentences: problems.map((problem) => sentenceOf(problem, { ofOne: true, step: titleIn([...layers, ...(whole?.layers ?? [])]) })) }))];
}
