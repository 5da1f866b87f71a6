import { cp, mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll } from 'vitest';
import { demoFolder } from './demo';

export { demoExpected, demoFolder, demoPipeline, notesExpected, notesFolder, notesPipeline, registerExpected, registerFolder, registerPipeline, rollExpected, rollFolder, rollPipeline, root, throughputExpected, throughputFolder, throughputPipeline, tideDatasets, tideFolder, tidePipeline } from './demo';

/** A folder of the test's own, removed when its file is done. */
export async function temporaryFolder(): Promise<string> {
  const folder = await mkdtemp(join(tmpdir(), 'able-sieve-test-'));
  afterAll(() => rm(folder, { recursive: true, force: true }));
  return folder;
}

/** Some reports of the demo, copied so that the test may change them. */
export async function someReports(names: readonly string[]): Promise<string> {
  const folder = await temporaryFolder();
  for (const name of names) await cp(join(demoFolder, name), join(folder, name));
  return folder;
}
