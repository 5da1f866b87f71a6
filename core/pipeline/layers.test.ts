import { describe, expect, it } from 'vitest';
import { layerAbove, layerOrder, placeBelow, placeOf, stepAtOrAbove } from './layers';
import { parsePipeline } from './document';

const step = (id: string) => ({ id, kind: 'trim rows', settings: {} });
const steps = { eachTable: [step('a'), step('b')], eachReport: [step('c')], allReports: [] };
const document = (changes: object) => ({
  format: 'able-sieve/pipeline',
  version: 1,
  name: 'Landings',
  take: [],
  ...changes,
});

describe('the layers of a pipeline', () => {
  it('are what was taken, the steps, and the appends between the zones', () => {
    expect(layerOrder(steps)).toEqual(['taken', 'a', 'b', 'joined', 'c', 'appended']);
    expect(['a', 'c', 'appended', 'taken'].map((id) => layerAbove(steps, id))).toEqual([
      'taken',
      'joined',
      'c',
      'taken',
    ]);
  });

  it('take a new step right below the one that is looked at, below an append as the first of its zone', () => {
    expect(['taken', 'a', 'joined', 'c', 'appended'].map((id) => placeBelow(steps, id))).toEqual([
      { zone: 'eachTable', at: 0 },
      { zone: 'eachTable', at: 1 },
      { zone: 'eachReport', at: 0 },
      { zone: 'eachReport', at: 1 },
      { zone: 'allReports', at: 0 },
    ]);
    expect(placeOf(steps, 'c')).toEqual({ zone: 'eachReport', at: 0 });
    expect(placeOf(steps, 'joined')).toBeUndefined();
  });

  it('tell the last step at or above an append', () => {
    expect(['b', 'joined', 'appended', 'taken'].map((id) => stepAtOrAbove(steps, id))).toEqual([
      'b',
      'b',
      'c',
      'taken',
    ]);
  });

  it('cannot be named by a step, nor two take rules alike', () => {
    for (const id of ['taken', 'joined', 'appended'])
      expect(() => parsePipeline(document({ eachReport: [step(id)] }))).toThrow(/layer that is there anyway/);
    const rule = { name: 'Landings', heading: ['Code'] };
    expect(() => parsePipeline(document({ take: [rule, { ...rule, heading: ['Vessel'] }] }))).toThrow(
      /Two take rules have the name “Landings”/,
    );
  });
});
