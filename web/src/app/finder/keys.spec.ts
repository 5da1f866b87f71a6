import { describe, expect, it } from 'vitest';
import { keysFor } from './keys';

const placesOf = (address: string) => keysFor(address).map(({ place }) => place);

describe('the keys that mean something', () => {
  it('are those of the place first, and those of everywhere', () => {
    expect(placesOf('/pipelines/1/bench?step=totals')).toEqual(['On the bench', 'Everywhere']);
    expect(placesOf('/pipelines/1/dataset')).toEqual(['On the dataset', 'Everywhere']);
    expect(placesOf('/pipelines/1/intake?report=3')).toEqual(['On intake', 'Everywhere']);
    for (const address of ['/', '/pipelines/1/dataset/summary', '/pipelines/1/runs']) expect(placesOf(address)).toEqual(['Everywhere']);
  });

  it('are told each once at a place', () => {
    for (const { keys } of keysFor('/pipelines/1/bench')) expect(new Set(keys.map((each) => each.keys)).size).toBe(keys.length);
  });
});
