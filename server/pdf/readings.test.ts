import { readFileSync } from 'node:fs';
import { expect, it } from 'vitest';
import { hashOfReadings } from '../../bench/scoring/hash-readings';

it('reads the files of bench/ as it did when they were written down: what reads otherwise is meant to', async () => {
  const known = JSON.parse(
    readFileSync(new URL('../../bench/scoring/readings.json', import.meta.url), 'utf8'),
  ) as unknown;
  const remedy = 'Readings changed. Where that is meant, write them down: tsx bench/scoring/write-hash.ts.';
  expect(await hashOfReadings(), remedy).toEqual(known);
});
