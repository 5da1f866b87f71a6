// What an older build made is made anew by this one, and the cells of the dataset that are others by it are named.
import { changedCells } from '../../core/runs/changed-cells';
import type { PartInput } from '../../core/runs/plan';
import { resultDependsOn, type Pipeline } from '../../core/pipeline/document';
import type { RunNote } from '../../core/runs/run';
import { boundTo } from '../lists/bind';
import { buildWords, isThisBuild, thisBuild } from '../setup/build';
import { comparedParts, keepChanges } from '../store/changed-cells';
import { partLists } from '../store/lists';
import { versionOf } from '../store/pipelines';
import type { PublishedRows } from '../store/published';
import type { Store } from '../store/store';

/** So many changes of a run are written down; all are counted. */
const mostKept = 10_000;
/** So many are said with the run itself. */
const mostSaid = 20;

/** Rows that were published, and those that take their place. */
export interface Replaced {
  readonly before: PublishedRows;
  readonly after: number;
  /** What the rows after are made of. */
  readonly inputs: readonly PartInput[];
}

/**
 * Compares rows made by an older build with those made now, where nothing but the build is known to be another, and writes down what
 * changed.
 * @param document the one that the rows after are made by, its lists bound
 * @returns nothing where no rows were made by an older build
 */
export async function madeAnew(
  store: Store,
  pipeline: number,
  run: number,
  document: Pipeline,
  replaced: readonly Replaced[],
): Promise<RunNote | undefined> {
  const older = replaced.filter(({ before }) => !isThisBuild(before.build));
  if (older.length === 0) return undefined;
  const counts = { reports: 0, unknown: 0, cells: 0, added: 0, removed: 0, unlike: 0 };
  const first: Extract<RunNote, { kind: 'made anew' }>['first'][number][] = [];
  let kept = 0;
  for (const { before, after, inputs } of older) {
    const unknown = before.version === null;
    if (!unknown && !(await onlyTheBuildDiffers(store, pipeline, document, before, inputs))) {
      counts.unlike += inputs.length;
      continue;
    }
    counts.reports += inputs.length;
    if (unknown) counts.unknown += inputs.length;
    const compared = await comparedParts(store, pipeline, before.id, after);
    const changes = changedCells(compared.headings, compared.before, compared.after);
    for (const { kind } of changes) counts[kind === 'cell' ? 'cells' : kind === 'row added' ? 'added' : 'removed']++;
    const keeping = changes.slice(0, mostKept - kept);
    await keepChanges(store, run, kept, after, keeping);
    kept += keeping.length;
    const pathOf = new Map(inputs.map(({ report, path }) => [report, path]));
    for (const change of changes.slice(0, mostSaid - first.length))
      first.push({
        path: pathOf.get(change.report) ?? '',
        page: change.page,
        heading: change.kind === 'cell' ? change.heading : null,
        before: change.kind === 'row added' ? null : change.before,
        after: change.kind === 'row removed' ? null : change.after,
      });
  }
  return { kind: 'made anew', build: buildWords(thisBuild), ...counts, first };
}

/** Were the rows before made of the same files by the same document, and of the same lists? */
async function onlyTheBuildDiffers(
  store: Store,
  pipeline: number,
  document: Pipeline,
  before: PublishedRows,
  inputs: readonly PartInput[],
): Promise<boolean> {
  const filesOf = (all: readonly PartInput[]) =>
    JSON.stringify(all.map(({ report, sha256, path }) => [report, sha256, path]));
  if (before.version === null || filesOf(before.inputs) !== filesOf(inputs)) return false;
  const stored = await versionOf(store, pipeline, before.version);
  if (!stored) return false;
  const then = boundTo(stored.document, await partLists(store, before.id));
  const { stages } = thisBuild;
  const sameDocument = inputs.every(({ sha256, path, period = null }, i) => {
    const facts = { sha256, path, stages };
    return (
      resultDependsOn(then, { ...facts, period: before.inputs[i]?.period ?? period }) ===
      resultDependsOn(document, { ...facts, period })
    );
  });
  return sameDocument && JSON.stringify(then.allReports) === JSON.stringify(document.allReports);
}
