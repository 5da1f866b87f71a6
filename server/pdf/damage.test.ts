import { PDFDocument, PDFName, type PDFRawStream, type PDFRef } from '@cantoo/pdf-lib';
import fc from 'fast-check';
import { readdirSync } from 'node:fs';
import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { deflateSync, inflateSync } from 'node:zlib';
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
  return [...text.matchAll(/(?<!end)stream\r?\n/g)].map(({ index, 0: word }) => [
    index + word.length,
    text.indexOf('endstream', index),
  ]);
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
  it.each([
    join(demoFolder, 'week-24.pdf'),
    ...['grid-chromium-01.pdf', 'hrules-reportlab-01.pdf', 'sections-libreoffice-writer-01.pdf'].map((name) =>
      join(truth, name),
    ),
  ])('are named in %s whenever they change what is printed', async (file) => {
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
  });

  it('name the page, and what of it is doubtful', async () => {
    const bytes = await readFile(join(demoFolder, 'week-24.pdf'));
    const [from, to] = streamsOf(bytes)[0];
    bytes[(from + to) >> 1] ^= 16;
    const { problems } = await readPages(bytes, 'x.pdf');
    expect(problems[0]).toMatchObject({
      kind: 'damaged',
      page: expect.any(Number),
      came: expect.stringContaining('damaged'),
    });
  });

  it('are none in files that are sound, whoever wrote them', async () => {
    const files = [
      ...[demoFolder, notesFolder].map((folder) => [folder, /^(?:week-(?!33)|note-).*\.pdf$/] as const),
      [truth, /^(?!broken|encrypted).*\.pdf$/] as const,
    ];
    for (const [folder, wanted] of files)
      for (const name of readdirSync(folder).filter((each) => wanted.test(each))) {
        const damage = await damageOf(await readFile(join(folder, name)));
        expect(damage, name).toMatchObject({ objects: false });
        expect([...(damage as Damage).pages], name).toEqual([]);
      }
  });
});

describe('a compressed text', () => {
  const whole = deflateSync(Buffer.from('Landings by species '.repeat(50)));

  it('is sound as it was written, with something behind it, and without the end of its sum', () => {
    expect(isDamagedFlate(whole)).toBe(false);
    expect(isDamagedFlate(Buffer.concat([whole, Buffer.from('\n')]))).toBe(false);
    // Some writers count the length short.
    expect(isDamagedFlate(whole.subarray(0, -1))).toBe(false);
    expect(isDamagedFlate(whole.subarray(0, -3))).toBe(false);
  });

  it('is damaged when a bit of it is another, or when it is cut', () => {
    let unfelt = 0;
    for (let bit = 0; bit < whole.length * 8; bit++) {
      const other = Buffer.from(whole);
      other[bit >> 3] ^= 1 << (bit & 7);
      if (isDamagedFlate(other)) continue;
      // A few bits pad the last byte, or say nothing of the text.
      expect(inflateSync(other), `bit ${bit}`).toEqual(inflateSync(whole));
      unfelt++;
    }
    expect(unfelt).toBeLessThan(16);
    expect(isDamagedFlate(whole.subarray(0, -8))).toBe(true);
    expect(isDamagedFlate(Buffer.from('no zlib'))).toBe(true);
  });
});

describe('files that would be read for hours', () => {
  it.each<[string, (text: string) => string]>([
    ['states saved in states without end', (text) => 'q '.repeat(40_000) + text],
    ['a text that goes on as usual', (text) => text],
  ])('%s', async (name, put) => {
    const document = await PDFDocument.load(await readFile(join(demoFolder, 'week-24.pdf')));
    const page = document.getPage(1);
    const stream = page.node.Contents() as PDFRawStream;
    page.node.set(
      PDFName.of('Contents'),
      document.context.register(
        document.context.stream(
          deflateSync(Buffer.from(put(inflateSync(stream.contents).toString('latin1')), 'latin1')),
          { Filter: 'FlateDecode' },
        ),
      ),
    );
    const { pages, problems, pageCount } = await readPages(await document.save({ useObjectStreams: false }), 'x.pdf');
    const endless = name.startsWith('states');
    expect(pages.map(({ number }) => number)).toEqual(endless ? [1, 3, 4] : [1, 2, 3, 4]);
    expect(problems.map(({ page: number, expected }) => [number, expected])).toEqual(
      endless ? [[2, 'a page that comes to an end']] : [],
    );
    expect(pageCount).toBe(4);
  });

  it('forms drawn in forms, twice each, 25 deep; and one that draws itself', async () => {
    for (const circle of [false, true]) {
      const document = await PDFDocument.create();
      const page = document.addPage();
      page.drawText('Landings');
      const { context } = document;
      const draws = (of: PDFRef) => ({
        Type: 'XObject',
        Subtype: 'Form',
        BBox: [0, 0, 10, 10],
        Resources: { XObject: { F: of } },
      });
      let form = context.register(
        context.stream('0 0 1 1 re f', { Type: 'XObject', Subtype: 'Form', BBox: [0, 0, 10, 10] }),
      );
      if (circle) {
        form = context.nextRef();
        context.assign(form, context.stream('/F Do', draws(form)));
      } else for (let n = 0; n < 25; n++) form = context.register(context.stream('/F Do /F Do', draws(form)));
      page.node.setXObject(PDFName.of('F'), form);
      page.node.addContentStream(context.register(context.stream('/F Do')));
      const { pages, problems } = await readPages(await document.save({ useObjectStreams: false }), 'x.pdf');
      expect([pages.length, problems[0]?.expected]).toEqual([0, 'a page that comes to an end']);
    }
  });

  it('one page that is listed again and again', async () => {
    const document = await PDFDocument.create();
    document.addPage().drawText('Landings');
    const kids = document.catalog.Pages().Kids();
    for (let n = 0; n < 400; n++) kids.push(kids.get(0));
    document.catalog.Pages().set(PDFName.of('Count'), document.context.obj(kids.size()));
    await expect(readPages(await document.save({ useObjectStreams: false }), 'x.pdf')).rejects.toThrow(
      'got one that is listed 401 times',
    );
  });
});
