import { join } from 'node:path';
import { fileURLToPath } from 'node:url';

/** Where the demo lies. */
export const root = fileURLToPath(new URL('../..', import.meta.url));
export const demoPipeline = join(root, 'demo/landing-sheets.sieve.json');
export const demoFolder = join(root, 'demo/landing-sheets');
export const demoExpected = join(root, 'demo/landing-sheets.expected.csv');
export const registerPipeline = join(root, 'demo/vessel-register.sieve.json');
export const registerFolder = join(root, 'demo/vessel-register');
export const registerExpected = join(root, 'demo/vessel-register.expected.csv');
export const notesPipeline = join(root, 'demo/berth-notes.sieve.json');
export const notesFolder = join(root, 'demo/berth-notes');
export const notesExpected = join(root, 'demo/berth-notes.expected.csv');
export const rollPipeline = join(root, 'demo/licence-roll.sieve.json');
export const rollFolder = join(root, 'demo/licence-roll');
export const rollExpected = join(root, 'demo/licence-roll.expected.csv');
export const tideFolder = join(root, 'demo/tide-tables');
export const tidePipeline = join(root, 'demo/tide-tables.sieve.json');
/** What is made of each of the two tables on a page of tides. */
export const tideDatasets = ['tide-tables', 'tide-waters'].map((name) => ({
  name,
  pipeline: join(root, `demo/${name}.sieve.json`),
  expected: join(root, `demo/${name}.expected.csv`),
}));
export const throughputPipeline = join(root, 'demo/quarter-throughput.sieve.json');
/** A folder for each group of quays, which prints numbers in a style of its own. */
export const throughputFolder = join(root, 'demo/quarter-throughput');
export const throughputExpected = join(root, 'demo/quarter-throughput.expected.csv');
