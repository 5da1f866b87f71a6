import { copyFile, mkdir, readdir, rename } from 'node:fs/promises';
import { join } from 'node:path';
import { inject } from 'vitest';
import { serve, type Serving } from '../server/house/serve';
import { cacheIn } from '../server/setup/config';
import { temporaryFolder } from '../server/testing/folders';

/** A server over an empty data folder, that knows what other test files have read. @param root folder below which reports may lie */
export async function serving(root: string): Promise<Serving> {
  const data = await temporaryFolder();
  const server = await serve({ data, host: '127.0.0.1', port: 0, roots: [root], uploadLimit: 10, logLevel: 'silent' });
  const [cache, readings] = [cacheIn(data), inject('readings')];
  await mkdir(cache, { recursive: true });
  await copyNew(readings, cache);
  return {
    ...server,
    stop: async () => {
      await server.stop();
      await copyNew(cache, readings);
    },
  };
}

/** Finished readings that are not there yet; each comes whole or not at all: the pages first, then the index that names them. */
async function copyNew(from: string, to: string): Promise<void> {
  const there = new Set(await readdir(to));
  const finished = (await readdir(from)).filter((name) => !there.has(name));
  for (const name of ['.pages', '.json'].flatMap((ending) => finished.filter((each) => each.endsWith(ending)))) {
    const unfinished = join(to, `.${process.pid}-${name}`);
    await copyFile(join(from, name), unfinished);
    await rename(unfinished, join(to, name));
  }
}
