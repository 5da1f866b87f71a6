import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { describe, expect, it } from 'vitest';
import { importGraph } from './import-graph.mjs';

const root = fileURLToPath(new URL('..', import.meta.url));

describe('threads that may be ended at any moment', () => {
  // Ended as it asks for one, a thread takes the whole process with it (Node 20: an assertion of OpenFileHandle).
  it.each([
    'server/work/thread.ts',
    'server/export/thread.ts',
    'server/store/pglite-thread.ts',
    'server/sql/thread.ts',
  ])('%s asks for no promises of files', async (thread) => {
    const sources = Object.keys(await importGraph([thread])).filter((file) => file.startsWith('server/'));
    expect(sources).toContain(thread);
    expect(sources.filter((file) => /node:fs\/promises/.test(readFileSync(join(root, file), 'utf8')))).toEqual([]);
  });
});
