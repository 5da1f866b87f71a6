import type { Reporter, TestModule } from 'vitest/node';

/** So many files are told. */
const most = 25;

/** Tells at the end how long each test file took, the slowest first. */
export default class SlowestFirst implements Reporter {
  onTestRunEnd(modules: readonly TestModule[]): void {
    const took = modules.map((module) => ({ name: module.relativeModuleId, ms: module.diagnostic().duration }));
    took.sort((a, b) => b.ms - a.ms);
    const all = took.reduce((sum, { ms }) => sum + ms, 0);
    console.log(`\nTest files, the slowest first (${took.length} files, ${seconds(all)} together):`);
    for (const { name, ms } of took.slice(0, most)) console.log(`  ${seconds(ms).padStart(9)}  ${name}`);
  }
}

const seconds = (ms: number) => `${(ms / 1000).toFixed(1)} s`;
