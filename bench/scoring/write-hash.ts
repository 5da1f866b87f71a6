// Writes down what the reader makes of the files of bench/ today: tsx bench/scoring/write-hash.ts, after a change that means to read otherwise.
import { writeFileSync } from 'node:fs';
import { hashOfReadings } from './hash-readings';

writeFileSync(new URL('./readings.json', import.meta.url), `${JSON.stringify(await hashOfReadings(), null, 2)}\n`);
