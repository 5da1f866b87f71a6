import { defineConfig } from 'vitest/config';
import { BaseSequencer, type TestSpecification } from 'vitest/node';

/** Short to read and long to run: begun first, so that no worker waits for one of them at the end. */
const slow = [
  'fuzz',
  'random-papers',
  'breakages',
  'pool',
  'demo-families',
  'cli',
  'proposals',
  'workroom',
  'walk',
  'first-hour',
  'ways-out',
].map((name) => `/${name}.test.ts`);

class SlowFirst extends BaseSequencer {
  override async sort(files: TestSpecification[]): Promise<TestSpecification[]> {
    const sorted = await super.sort(files);
    const isSlow = ({ moduleId }: TestSpecification) => slow.some((name) => moduleId.endsWith(name));
    return [...sorted.filter(isSlow), ...sorted.filter((file) => !isSlow(file))];
  }
}

export default defineConfig({
  test: {
    sequence: { sequencer: SlowFirst },
    reporters: ['default', './scripts/slowest-first.ts'],
    // A slow machine is no fault: these end only what hangs.
    testTimeout: 300_000,
    hookTimeout: 300_000,
    expect: { poll: { timeout: 120_000 } },
    projects: [
      {
        extends: true,
        test: {
          name: 'core',
          isolate: false,
          sequence: { groupOrder: 0 },
          include: ['core/**/*.test.ts', 'scripts/**/*.test.ts', 'demo/**/*.test.ts'],
          exclude: ['**/*.memory.test.ts'],
        },
      },
      {
        extends: true,
        test: { name: 'memory', sequence: { groupOrder: 0 }, include: ['core/**/*.memory.test.ts'], pool: 'forks' },
      },
      {
        extends: true,
        test: {
          name: 'server',
          isolate: false,
          sequence: { groupOrder: 1 },
          include: ['server/**/*.test.ts'],
          setupFiles: ['server/testing/clear-up.ts'],
          pool: 'forks',
          maxWorkers: 2,
        },
      },
      {
        extends: true,
        test: {
          name: 'e2e',
          isolate: false,
          sequence: { groupOrder: 2 },
          include: ['e2e/**/*.test.ts'],
          globalSetup: ['e2e/readings.ts'],
          setupFiles: ['server/testing/clear-up.ts'],
          pool: 'forks',
          maxWorkers: 2,
        },
      },
    ],
  },
});
