import { mkdir, readdir, readFile, utimes, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { afterAll, beforeEach, describe, expect, it } from 'vitest';
import { parsePipeline } from '../../core/pipeline/document';
import { migrate } from '../store/migrate';
import { openPglite } from '../store/pglite-store';
import { addPipeline, pipelineById } from '../store/pipelines';
import { reservePart } from '../store/publish';
import type { Store } from '../store/store';
import { temporaryFolder } from '../testing/folders';
import { cachedName } from '../work/page-cache';
import { sweepCache, sweepDropped } from './sweep';
import { thisBuild, type Build } from '../setup/build';

let store: Store;
beforeEach(async () => {
  await store?.close();
  store = await openPglite();
  await migrate(store);
});
afterAll(() => store.close());

const document = (name: string) => parsePipeline({ format: 'able-sieve/pipeline', version: 1, name, take: [] });
/** A folder with files, which hold their own names. */
async function folderWith(...paths: readonly string[]): Promise<string> {
  const folder = await temporaryFolder();
  for (const path of paths) {
    await mkdir(join(folder, path, '..'), { recursive: true });
    await writeFile(join(folder, path), path);
  }
  return folder;
}
const filesIn = async (folder: string) =>
  (await readdir(folder, { recursive: true, withFileTypes: true }))
    .filter((entry) => entry.isFile())
    .map((entry) => join(entry.parentPath, entry.name).slice(folder.length + 1))
    .sort();

describe('files that were dropped', () => {
  it('stay, and halves of them go, as does what is left of a deleted pipeline', async () => {
    const dropped = await folderWith('one/week-24.pdf', 'one/.half', '.gone/week-24.pdf', 'two/a.pdf');
    await mkdir(join(dropped, 'of-nobody'));
    await addPipeline(store, document('One'), join(dropped, 'one'), { managed: true });
    await addPipeline(store, document('Two'), join(dropped, 'two'), { managed: true });
    await sweepDropped(store, dropped);
    expect(await filesIn(dropped)).toEqual(['one/week-24.pdf', 'two/a.pdf']);
    expect((await readdir(dropped)).sort()).toEqual(['one', 'two']);
    expect(await readFile(join(dropped, 'one/week-24.pdf'), 'utf8')).toBe('one/week-24.pdf');
  });

  it('are found again where the data folder was moved', async () => {
    const dropped = await folderWith('one/week-24.pdf');
    const { id } = await addPipeline(store, document('One'), '/elsewhere/dropped/one', { managed: true });
    const { id: other } = await addPipeline(store, document('Two'), '/reports/two');
    await sweepDropped(store, dropped);
    expect(await filesIn(dropped)).toEqual(['one/week-24.pdf']);
    expect([(await pipelineById(store, id))!.folder, (await pipelineById(store, other))!.folder]).toEqual([
      join(dropped, 'one'),
      '/reports/two',
    ]);
  });

  it('are never deleted by a database that does not know them: it may stand in the place of one that was lost', async () => {
    const dropped = await folderWith('one/week-24.pdf', 'two/a.pdf');
    await sweepDropped(store, dropped);
    expect(await filesIn(dropped)).toEqual(['one/week-24.pdf', 'two/a.pdf']);
    // Nor once it has files of its own.
    await addPipeline(store, document('Another'), join(dropped, 'two'), { managed: true });
    await sweepDropped(store, dropped);
    expect(await filesIn(dropped)).toEqual(['one/week-24.pdf', 'two/a.pdf']);
  });

  it('need not be there', async () => {
    await addPipeline(store, document('One'), '/nowhere/one', { managed: true });
    await sweepDropped(store, join(await temporaryFolder(), 'none'));
  });
});

describe('content read off reports', () => {
  it('stays where a report or a published part has it, by the reader that it was published with, and else goes', async () => {
    const now = (sha256: string) => cachedName(sha256, thisBuild.stages.reading);
    const before: Build = { release: '0.0.1', stages: { ...thisBuild.stages, reading: 'v3' } };
    const files = [
      `${now('known')}.pages`,
      `${now('known')}.json`,
      `${cachedName('known', 'v14')}.pages`,
      `${cachedName('published', 'v3')}.pages`,
      `${cachedName('published', 'v4')}.pages`,
      `${now('other')}.pages`,
      `${now('known')}.writing`,
    ];
    const cache = await folderWith(...files);
    const { id } = await addPipeline(store, document('One'), '/reports');
    await store.execute(
      "insert into report (pipeline, path, sha256, size, modified, standing) values ($1, 'a.pdf', 'known', 1, 1, 'counts')",
      [id],
    );
    await reservePart(store, id, 1, 'key', {
      version: 1,
      build: before,
      inputs: [{ report: 'a.pdf', sha256: 'published' }] as never,
    });
    await sweepCache(store, cache);
    expect(await filesIn(cache)).toEqual([files[0], files[1], files[3]].sort());
  });

  it('is kept to a size: what was not looked at for longest goes, but never what could not be read again', async () => {
    const now = (sha256: string) => `${cachedName(sha256, thisBuild.stages.reading)}.pages`;
    const names = ['old', 'recent', 'gone', 'lately'].map(now);
    const cache = await folderWith(...names, `${now('old')}.${process.pid}-abc`);
    const { id } = await addPipeline(store, document('One'), '/reports');
    for (const [n, sha256] of ['old', 'recent', 'gone', 'lately'].entries()) {
      await writeFile(join(cache, now(sha256)), 'x'.repeat(100));
      await utimes(join(cache, now(sha256)), n, n);
      await store.execute(
        'insert into report (pipeline, path, sha256, size, modified, standing) values ($1, $2, $2, 1, 1, $3)',
        [id, sha256, sha256 === 'gone' ? 'gone' : 'counts'],
      );
    }
    await sweepCache(store, cache, 250);
    // What is being written stays as well.
    expect(await filesIn(cache)).toEqual([now('gone'), now('lately'), `${now('old')}.${process.pid}-abc`].sort());
  });
});
