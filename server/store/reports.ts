import { rankOf, type PlacedFile } from '../../core/intake/file-names';
import type { StoredReport } from '../contract/answers';
import type { InventoryFile } from '../folder/inventory';
import type { Session, Store } from './store';

interface ReportRow {
  id: number;
  path: string;
  sha256: string;
  size: string;
  modified: string;
  mark: string;
  period: string | null;
  revision: number;
  standing: string;
  standing_of: string | null;
}

export async function reportsOf(store: Session, pipeline: number): Promise<StoredReport[]> {
  const rows = await store.query<ReportRow>(
    'select id, path, sha256, size, modified, mark, period, revision, standing, standing_of from report where pipeline = $1 order by coalesce(period, \'~\') collate "C", revision, path collate "C"',
    [pipeline],
  );
  return rows.map(({ standing_of, ...row }) => ({
    ...row,
    size: Number(row.size),
    modified: Number(row.modified),
    standingOf: standing_of,
  }));
}

/**
 * Brings the reports of a pipeline in line with its folder. A file that was renamed keeps its report, known by its
 * content; one that is no longer there stays on record as gone.
 * @param unseen subfolders that could not be looked into: what was below them is not gone
 */
export const recordFolder = (
  store: Store,
  pipeline: number,
  files: readonly PlacedFile<InventoryFile>[],
  unseen: readonly string[] = [],
): Promise<StoredReport[]> =>
  // In one turn: a look at the folder and a refresh may come at the same time.
  store.transaction((session) => recordIn(session, pipeline, files, unseen));

async function recordIn(
  store: Session,
  pipeline: number,
  files: readonly PlacedFile<InventoryFile>[],
  unseen: readonly string[],
): Promise<StoredReport[]> {
  const known = await reportsOf(store, pipeline);
  const here = new Set(files.map(({ file }) => file.path));
  const lost = known.filter((report) => !here.has(report.path));
  for (const { file, facts, standing } of files) {
    const before = known.find((report) => report.path === file.path);
    // What cannot be read now is still what it was.
    const sha256 = file.left ? (before?.sha256 ?? '') : file.sha256;
    const values = [
      sha256,
      file.size,
      file.modified,
      file.mark,
      facts.period ?? null,
      rankOf(facts.revision),
      standing.counts ? 'counts' : standing.because,
      standing.counts ? null : (standing.of ?? null),
    ];
    const same = before;
    const renamed = same ? undefined : sha256 === '' ? undefined : lost.find((report) => report.sha256 === sha256);
    if (same && unchanged(same, values)) continue;
    if (same ?? renamed) {
      if (renamed) lost.splice(lost.indexOf(renamed), 1);
      await store.execute(
        'update report set path = $2, sha256 = $3, size = $4, modified = $5, mark = $6, period = $7, revision = $8, standing = $9, standing_of = $10 where id = $1',
        [(same ?? renamed)!.id, file.path, ...values],
      );
    } else {
      await store.execute(
        'insert into report (pipeline, path, sha256, size, modified, mark, period, revision, standing, standing_of) values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10)',
        [pipeline, file.path, ...values],
      );
    }
  }
  for (const report of lost) {
    const hidden = unseen.some((folder) => report.path.startsWith(`${folder}/`)) && report.standing !== 'gone';
    await store.execute('update report set standing = $2, standing_of = null where id = $1', [
      report.id,
      hidden ? 'not readable' : 'gone',
    ]);
  }
  return reportsOf(store, pipeline);
}

const unchanged = (report: StoredReport, values: readonly unknown[]) =>
  [
    report.sha256,
    report.size,
    report.modified,
    report.mark,
    report.period,
    report.revision,
    report.standing,
    report.standingOf,
  ].every((value, i) => value === values[i]);
