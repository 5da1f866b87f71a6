import { checkSentence, type Check } from '../../core/checks/check';
import type { RunNote, RunReport } from '../../core/runs/run';
import { doubledKeys } from '../store/doubled-keys';
import type { Store } from '../store/store';

type CheckNote = Extract<RunNote, { kind: 'check' }>;

/** Checks for which a refresh is to end because a report fails them. */
export function stoppedBy(checks: readonly Check[], reports: readonly RunReport[]): CheckNote[] {
  return checks
    .filter(({ severity }) => severity === 'stop')
    .flatMap((check) => {
      const failing = reports.filter(({ problems }) => problems.some((problem) => problem.check === check.id));
      return failing.length === 0 ? [] : [{ kind: 'check' as const, check: check.id, expected: checkSentence(check), came: `${failing.map(({ path }) => path).slice(0, 3).join(', ')}${failing.length > 3 ? ` and ${failing.length - 3} more` : ''} ${failing.length === 1 ? 'fails' : 'fail'}`, stops: true }];
    });
}

/** What fails of the checks over the whole dataset, as it is to be published. */
export async function datasetChecks(store: Store, pipeline: number, checks: readonly Check[], parts: readonly number[]): Promise<CheckNote[]> {
  const notes: CheckNote[] = [];
  for (const check of checks) {
    if (check.kind !== 'unique' || check.over !== 'dataset') continue;
    const doubled = await doubledKeys(store, pipeline, parts, check.columns);
    const stops = check.severity !== 'tell';
    if (!doubled) notes.push({ kind: 'check', check: check.id, expected: checkSentence(check), came: 'no report has these columns', stops });
    else if (doubled.keys > 0) notes.push({ kind: 'check', check: check.id, expected: checkSentence(check), came: `${doubled.keys} ${doubled.keys === 1 ? 'key is' : 'keys are'} there more than once: ${doubled.some.map(({ cells, rows }) => `“${cells.map((cell) => cell ?? '').join(', ')}” in ${rows} rows`).join(', ')}`, stops });
  }
  return notes;
}
