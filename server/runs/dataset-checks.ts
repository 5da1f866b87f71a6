import { checkSentence, isOverDataset, type Check } from '../../core/checks/check';
import { Reconciliation, reconciledWords, type AgreesWith, type Reconciled } from '../../core/checks/reconcile';
import type { RunNote, RunReport } from '../../core/runs/run';
import { listNow } from '../lists/bind';
import { isOut } from './lines';
import { doubledKeys } from '../store/doubled-keys';
import { rowsOfParts } from '../store/rows-of-parts';
import type { Store } from '../store/store';

type CheckNote = Extract<RunNote, { kind: 'check' }>;

/** Checks for which a refresh is to end because a report that is to come in fails them. */
export function stoppedBy(checks: readonly Check[], reports: readonly RunReport[]): CheckNote[] {
  return checks
    .filter(({ severity }) => severity === 'stop')
    .flatMap((check) => {
      const failing = reports.filter(
        ({ state, problems }) => !isOut(state) && problems.some((problem) => problem.check === check.id),
      );
      return failing.length === 0
        ? []
        : [
            {
              kind: 'check' as const,
              check: check.id,
              expected: checkSentence(check),
              came: `${failing
                .map(({ path }) => path)
                .slice(0, 3)
                .join(
                  ', ',
                )}${failing.length > 3 ? ` and ${failing.length - 3} more` : ''} ${failing.length === 1 ? 'fails' : 'fail'}`,
              stops: true,
            },
          ];
    });
}

interface Around {
  readonly store: Store;
  readonly cacheFolder: string;
  readonly reading?: (<T>(publication: number, work: () => Promise<T>) => Promise<T>) | undefined;
}

/** A dataset beside the list that it is to agree with; words where they cannot be compared. @param parts in the order of the dataset */
export async function comparedWith(
  { store, cacheFolder, reading }: Around,
  pipeline: number,
  check: AgreesWith,
  parts: readonly number[],
): Promise<Reconciled | string> {
  const list = await listNow(
    { store, cacheFolder, ...(reading ? { reading } : {}) },
    pipeline,
    check.from,
    [...check.keys, ...check.columns].map(({ of }) => of),
  );
  if (!list)
    return check.from.is === 'file'
      ? `no list “${check.from.name}” was uploaded`
      : `“${check.from.name}” has no published dataset`;
  const names = (pairs: AgreesWith['keys']) => pairs.map(({ column }) => column);
  const pieces = await rowsOfParts(store, pipeline, parts, names(check.keys), names(check.columns));
  if (!pieces) return 'the dataset has no such columns';
  const comparing = new Reconciliation(check, list);
  for await (const rows of pieces) comparing.add(rows);
  return comparing.end();
}

/** What fails of the checks over the whole dataset, as it is to be published. */
export async function datasetChecks(
  around: Around,
  pipeline: number,
  checks: readonly Check[],
  parts: readonly number[],
): Promise<CheckNote[]> {
  const { store } = around;
  const notes: CheckNote[] = [];
  for (const check of checks.filter(isOverDataset)) {
    const stops = check.severity !== 'tell';
    if (check.kind === 'agrees with') {
      const compared = await comparedWith(around, pipeline, check, parts);
      const came = typeof compared === 'string' ? compared : reconciledWords(compared);
      if (came !== undefined)
        notes.push({ kind: 'check', check: check.id, expected: checkSentence(check), came, stops });
    }
    if (check.kind !== 'unique') continue;
    const doubled = await doubledKeys(store, pipeline, parts, check.columns);
    if (!doubled)
      notes.push({
        kind: 'check',
        check: check.id,
        expected: checkSentence(check),
        came: 'no report has these columns',
        stops,
      });
    else if (doubled.keys > 0)
      notes.push({
        kind: 'check',
        check: check.id,
        expected: checkSentence(check),
        came: `${doubled.keys} ${doubled.keys === 1 ? 'key is' : 'keys are'} there more than once: ${doubled.some.map(({ cells, rows }) => `“${cells.map((cell) => cell ?? '').join(', ')}” in ${rows} rows`).join(', ')}`,
        stops,
      });
  }
  return notes;
}
