import fc from 'fast-check';
import { readdirSync } from 'node:fs';
import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { deflateSync } from 'node:zlib';
import { describe, expect, it } from 'vitest';
import { random } from '../../demo/random';
import { demoFolder, notesFolder, root } from '../testing/folders';
import { damageOf, isDamagedFlate, type Damage } from './damage';
import { UnreadableReport } from './document';
import { readPages } from './read-pages';

const truth = join(root, 'bench/truth');

/** Where the streams of a file begin and end. */
function streamsOf(bytes: Buffer): [from: number, to: number][] {
  const text = bytes.toString('latin1');
  return [...text.matchAll(/(?<!end)stream\r?\n/g)].map(({ index, 0: word }) => [index + word.length, text.indexOf('endstream', index)]);
}

/** What is printed, page by page; undefined where the file is refused. */
async function printOf(bytes: Uint8Array): Promise<{ text: string[]; named: boolean } | undefined> {
  try {
    const { pages, problems } = await readPages(bytes, 'x.pdf');
    return { text: pages.map(({ words }) => words.map(({ text }) => text).join(' ')), named: problems.length > 0 };
  } catch (error) {
    if (error instanceof UnreadableReport) return undefined;
    throw error;
  }
}

describe('streams that are not what was written', () => {
  it.each([join(demoFolder, 'week-24.pdf'), ...['grid-chromium-01.pdf', 'hrules-reportlab-01.pdf', 'sections-libreoffice-writer-01.pdf'].map((name) => join(truth, name))])(
    'are named in %s whenever they change what is printed',
    async (file) => {
      const bytes = await readFile(file);
      const before = (await printOf(bytes))!;
      expect(before.named).toBe(false);
      const streams = streamsOf(bytes);
      await fc.assert(
        fc.asyncProperty(fc.integer({ min: 0, max: 2 ** 31 }), async (seed) => {
          const draw = random(seed);
          const [from, to] = draw.one(streams);
          const mutated = Buffer.from(bytes);
          for (let n = draw.whole(1, 3); n > 0; n--) mutated[draw.whole(from, to - 2)] ^= 1 << draw.whole(0, 7);
          const after = await printOf(mutated);
          if (after && JSON.stringify(after.text) !== JSON.stringify(before.text)) expect(after.named).toBe(true);
        }),
        { numRuns: 25 },
      );
    },
    240_000,
  );

  it('name the page, and what of it is doubtful', async () => {
    const bytes = await readFile(join(demoFolder, 'week-24.pdf'));
    const [from, to] = streamsOf(bytes)[0];
    bytes[(from + to) >> 1] ^= 16;
    const { problems } = await readPages(bytes, 'x.pdf');
    expect(problems[0]).toMatchObject({ kind: 'damaged', page: expect.any(Number), came: expect.stringContaining('damaged') });
  });

  it('are none in files that are sound, whoever wrote them', async () => {
    const files = [...[demoFolder, notesFolder].map((folder) => [folder, /^(?:week-(?!33)|note-).*\.pdf$/] as const), [truth, /^(?!broken|encrypted).*\.pdf$/] as const];
    for (const [folder, wanted] of files)
      for (const name of readdirSync(folder).filter((each) => wanted.test(each))) {
        const damage = await damageOf(await readFile(join(folder, name)));
        expect(damage, name).toMatchObject({ objects: false });
        expect([...(damage as Damage).pages], name).toEqual([]);
      }
  }, 240_000);
});

describe('a compressed text', () => {
  const whole = deflateSync(Buffer.from('Landings by species '.repeat(50)));

  it('is sound as it was written, with something behind it, and without the end of its sum', () => {
    expect(isDamagedFlate(whole)).toBe(false);
    expect(isDamagedFlate(Buffer.concat([whole, Buffer.from('\n')]))).toBe(false);
    // Some writers count the length short.
    expect(isDamagedFlate(whole.subarray(0, -1))).toBe(false);
    expect(isDamagedFlate(whole.subarray(0, -4))).toBe(false);
  });

  it('is damaged when a bit of it is another, or when it is cut', () => {
    fc.assert(
      fc.property(fc.nat(whole.length * 8 - 1), (bit) => {
        const other = Buffer.from(whole);
        other[bit >> 3] ^= 1 << (bit & 7);
        // Of the two bytes in front some bits say nothing of the text.
        if (bit >= 16) expect(isDamagedFlate(other)).toBe(true);
      }),
    );
    expect(isDamagedFlate(whole.subarray(0, -8))).toBe(true);
    expect(isDamagedFlate(Buffer.from('no zlib'))).toBe(true);
  });
});
