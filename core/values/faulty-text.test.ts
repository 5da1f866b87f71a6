import { describe, expect, it } from 'vitest';
import { faultyText, faultyTextSentence } from './faulty-text';

describe('faulty text', () => {
  it('is found wherever it stands, with its place', () => {
    expect(faultyText({ take: [{ name: 'a' }, { name: 'b\u0000' }] })).toEqual({
      path: 'take.1.name',
      what: 'a NUL character',
    });
    expect(faultyText('\ufeffx')).toMatchObject({ path: '' });
    expect(faultyText({ 'a\ud800': 1 })).toMatchObject({ what: expect.stringContaining('lone surrogate') });
    expect(faultyTextSentence(faultyText({ name: '\u0000' })!)).toBe(
      'name: The text has a NUL character in it. Take it out, or write the text anew.',
    );
  });

  it('is not what only looks odd', () => {
    expect(faultyText({ name: 'Größe 😀 \u200d \t\n – 東', list: [1, null, true, 'x'] })).toBeUndefined();
    expect(faultyText(Buffer.from([0, 1]))).toBeUndefined();
  });

  it('is found however deep it stands', () => {
    let value: unknown = 'x\u0000';
    for (let i = 0; i < 100_000; i++) value = [value];
    expect(faultyText(value)).toMatchObject({ what: 'a NUL character' });
  });
});
