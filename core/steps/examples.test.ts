import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { describe, expect, it } from 'vitest';
import * as v from 'valibot';
import { paper, around, plain, textSheet } from '../testing/sheets';
import { stepExamples } from '../testing/step-examples';
import { stepsPage } from '../testing/steps-page';
import { kinds } from './kinds';

describe('the examples of docs/steps.md', () => {
  it('are one for every kind, and the page is written from them', () => {
    expect(Object.keys(stepExamples).sort()).toEqual([...kinds.keys()].sort());
    expect(readFileSync(fileURLToPath(new URL('../../docs/steps.md', import.meta.url)), 'utf8')).toBe(stepsPage());
  });

  it.each(Object.entries(stepExamples))('%s does what its example says', (kind, { settings, before, after, held }) => {
    const declaration = kinds.get(kind)!;
    const result = declaration.run(textSheet(before), v.parse(declaration.settings, settings), around(paper()));
    expect(plain(result.sheet)).toEqual(after);
    expect(result.held?.rows.rows.length ?? 0).toBe(held ?? 0);
    expect(result.problems ?? []).toEqual([]);
  });
});
