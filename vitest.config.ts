import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    projects: [
      { extends: true, test: { name: 'core', isolate: false, sequence: { groupOrder: 0 }, include: ['core/**/*.test.ts', 'scripts/**/*.test.ts', 'demo/**/*.test.ts'], exclude: ['**/*.memory.test.ts'] } },
      { extends: true, test: { name: 'memory', sequence: { groupOrder: 0 }, include: ['core/**/*.memory.test.ts'], pool: 'forks' } },
      { extends: true, test: { name: 'server', sequence: { groupOrder: 1 }, include: ['server/**/*.test.ts'], pool: 'forks', testTimeout: 60_000, hookTimeout: 60_000, maxWorkers: 2 } },
      { extends: true, test: { name: 'e2e', sequence: { groupOrder: 2 }, include: ['e2e/**/*.test.ts'], pool: 'forks', maxWorkers: 2, testTimeout: 120_000, hookTimeout: 120_000 } },
    ],
  },
});
