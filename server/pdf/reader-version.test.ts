import { readFileSync } from 'node:fs';
import { expect, it } from 'vitest';
import { hashOfReadings } from '../../bench/scoring/hash-readings';

it('raises the version of the reader whenever a file of bench/ reads otherwise, as cached readings are known by it', async () => {
  const known = JSON.parse(readFileSync(new URL('../../bench/scoring/readings.json', import.meta.url), 'utf8'));
  const now = await hashOfReadings();
  expect(now.hash === known.hash || now.readerVersion > known.readerVersion, 'Readings changed: raise readerVersion in core/reading/find-tables.ts.').toBe(true);
  expect(now, 'Then write them down: tsx bench/scoring/write-hash.ts.').toEqual(known);
}, 180_000);
