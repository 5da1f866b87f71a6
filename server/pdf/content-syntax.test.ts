import { readdir, readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { inflateSync } from 'node:zlib';
import { PDFDocument, PDFRawStream } from '@cantoo/pdf-lib';
import { describe, expect, it } from 'vitest';
import { random } from '../../demo/random';
import { demoFolder, root } from '../testing/folders';
import { isWholeContent } from './content-syntax';

/** What is drawn on the first pages of papers by several writers. */
async function drawn(): Promise<string[]> {
  const texts: string[] = [];
  for (const folder of [demoFolder, join(root, 'bench/truth')])
    for (const name of (await readdir(folder)).filter((each) =>
      /^(?!broken|encrypted|big|week-3[23]).*\.pdf$/.test(each),
    )) {
      const [page] = (await PDFDocument.load(await readFile(join(folder, name)), { updateMetadata: false })).getPages();
      const contents = page.node.Contents();
      if (contents instanceof PDFRawStream)
        try {
          texts.push(inflateSync(contents.contents).toString('latin1'));
        } catch {
          // Written in letters, or by a writer that counts the stream short.
        }
    }
  return texts;
}

describe('what a page draws', () => {
  it('is whole as writers write it', async () => {
    const texts = await drawn();
    expect(texts.length).toBeGreaterThan(30);
    for (const text of texts) expect(isWholeContent(text)).toBe(true);
  });

  it.each([
    ['nothing', ''],
    ['brackets within brackets and escaped ones', 'BT /F1 9 Tf (a (b) \\) c) Tj [(x) -20.5 <0a0B>] TJ ET'],
    ['dictionaries and remarks', '/P <</MCID 0 /L [1 2]>> BDC % (not a text\nq 1 0 0 1 0 0 cm Q EMC'],
    ['an inline picture whose bytes look like anything', 'q BI /W 2 /H 2 ID \u0001)(>>EIx \u0002 EI Q'],
    ['numbers as odd writers have them', '-.5 +3 4. 0--1 0 0 cm .5 w 12-3 0 m'],
    ['what is of a later time, when it says so', 'BX 1 2 later EX q Q'],
    ['more operands than are needed', '0 0 1 0 0 1 5 5 cm'],
  ])('is whole with %s', (_, text) => {
    expect(isWholeContent(text)).toBe(true);
  });

  it.each([
    ['a text without its end', 'BT (a Tj (b) Tj ET'],
    ['letters that are none', 'BT <0a0x> Tj ET'],
    ['letters without end', 'BT <0a0b Tj ET'],
    ['an array that is not closed', 'BT [(a) 5 TJ ET'],
    ['an array that was not opened', '(a) 5] TJ'],
    ['an operator that there is not', 'q xyzzy Q'],
    ['an operator without its operands', 'BT Tj ET'],
    ['operands of another kind', 'BT (a) 9 Tf ET'],
    ['too few of them', '1 0 0 1 0 cm'],
    ['a picture without its end', 'BI /W 2 ID abc'],
    ['a bracket that closes nothing', 'q ) Q'],
  ])('is not whole with %s', (_, text) => {
    expect(isWholeContent(text)).toBe(false);
  });

  it('is found not whole, or is whole, but never fails, wherever it is cut or changed', async () => {
    const draw = random(9);
    let found = 0;
    for (const text of await drawn())
      for (let n = 0; n < 20; n++) {
        const at = draw.whole(1, text.length - 1);
        const changed = draw.chance(0.5)
          ? text.slice(0, at)
          : text.slice(0, at) + draw.one(['(', ')', '[', '<', '>>', 'x', '\u0000']) + text.slice(at + 1);
        if (!isWholeContent(changed)) found++;
      }
    expect(found).toBeGreaterThan(300);
  });
});
