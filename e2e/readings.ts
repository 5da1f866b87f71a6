// A report is read once in a run of all tests, as it is in a data folder: test files of other processes take the reading over.
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { TestProject } from 'vitest/node';

declare module 'vitest' {
  interface ProvidedContext {
    /** Folder of the readings that are done. */
    readings: string;
  }
}

export default function setup(project: TestProject): () => void {
  const folder = mkdtempSync(join(tmpdir(), 'able-sieve-readings-'));
  project.provide('readings', folder);
  return () => rmSync(folder, { recursive: true, force: true });
}
