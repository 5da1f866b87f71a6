import { cp, mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { demoFolder } from './demo';

export {
  demoExpected,
  demoFolder,
  demoPipeline,
  notesExpected,
  notesFolder,
  notesPipeline,
  registerExpected,
  registerFolder,
  registerPipeline,
  rollExpected,
  rollFolder,
  rollPipeline,
  root,
  throughputExpected,
  throughputFolder,
  throughputPipeline,
  tideDatasets,
  tideFolder,
  tidePipeline,
} from './demo';

const made: string[] = [];

/** A folder of the test's own, removed when its file is done. */
export async function temporaryFolder(): Promise<string> {
  const folder = await mkdtemp(join(tmpdir(), 'able-sieve-test-'));
  made.push(folder);
  return folder;
}

export async function removeTemporaryFolders(): Promise<void> {
  for (const folder of made.splice(0)) await rm(folder, { recursive: true, force: true });
}

/** Some reports of the demo, copied so that the test may change them. */
export async function someReports(names: readonly string[]): Promise<string> {
  const folder = await temporaryFolder();
  for (const name of names) await cp(join(demoFolder, name), join(folder, name));
  return folder;
}
