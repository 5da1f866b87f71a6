import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { findTables } from '../../core/reading/find-tables';
import { plainRows } from '../../core/reading/found-table';
import { demoFolder, root } from '../testing/folders';
import { UnreadableReport } from './document';
import { readPages } from './read-pages';

const truth = join(root, 'bench/truth');
const read = async (file: string, options = {}) => readPages(await readFile(file), 'x.pdf', options);

describe('page content', () => {
  it('gives words with their boxes, and raised digits as superscripts', async () => {
    const { pages } = await read(join(demoFolder, 'week-24.pdf'));
    const texts = pages.flatMap((page) => page.words.map((word) => word.text));
    expect(texts).toContain('Northreach');
    expect(texts.some((text) => /^\d+\.\d\d¹$/.test(text))).toBe(true);
    const heading = pages[1].words.find((word) => word.text === 'Landings')!;
    expect(heading).toMatchObject({ weight: 700, angle: 0, fontSize: 10.5 });
    expect(heading.box[0]).toBeCloseTo(48, 0);
    expect(heading.baseline).toBeCloseTo(72, 0);
  });

  it('knows rules and shading of the second producer', async () => {
    const { pages } = await read(join(demoFolder, 'week-36.pdf'), { wanted: (page: number) => page === 2 });
    expect(pages).toHaveLength(1);
    expect(
      pages[0].rules.filter((rule) => rule.direction === 'across' && rule.to - rule.from > 500).length,
    ).toBeGreaterThan(20);
    expect(pages[0].fills).toContainEqual({ box: expect.anything(), colour: '#e4e8ea' });
  });

  it('sees the picture of a scanned page, and no word', async () => {
    const { pages } = await read(join(demoFolder, 'week-32.pdf'));
    expect(pages.every((page) => page.words.length === 0 && page.pictures.length === 1)).toBe(true);
  });

  it('undoes the rotation of a page', async () => {
    const { pages } = await read(join(truth, 'rotate90-reportlab-01.pdf'));
    expect(pages[0].width).toBeGreaterThan(pages[0].height);
    expect(pages[0].words.every((word) => word.angle === 0)).toBe(true);
    expect(findTables(pages)).toHaveLength(1);
  });

  it('reads a table that is printed sideways, its boxes standing where it is printed', async () => {
    const { pages } = await read(join(truth, 'sideways-pdfkit-01.pdf'));
    const [piece] = findTables(pages)[0].pieces;
    const [cell] = piece.readings[0].cells;
    const word = pages[0].words[cell.words[0]];
    expect(word.angle).not.toBe(0);
    expect(cell.box[0]).toBeLessThanOrEqual(word.box[0] + 0.5);
    expect(cell.box[3]).toBeGreaterThanOrEqual(word.box[3] - 0.5);
    expect(plainRows(piece.readings[0]).length).toBeGreaterThan(4);
  });

  it.each([
    ['broken-empty-01.pdf', 'empty', 'x.pdf: expected a PDF, got an empty file (0 bytes).'],
    ['broken-text-01.pdf', 'not a PDF', 'x.pdf: expected a PDF, got a file that does not begin'],
    ['broken-truncated-01.pdf', 'damaged', 'x.pdf: expected a whole PDF, got a damaged one'],
    [
      'encrypted-pdfkit-01.pdf',
      'locked',
      'x.pdf: expected a file that opens without a password, got one that needs a password.',
    ],
  ])('%s: says in a sentence that it is %s', async (file, why, said) => {
    await expect(read(join(truth, file))).rejects.toSatisfy(
      (error) => error instanceof UnreadableReport && error.problem.kind === why && error.message.startsWith(said),
    );
  });

  it('opens a locked file with its password, and says when that is wrong', async () => {
    const { password } = JSON.parse(await readFile(join(truth, 'encrypted-pdfkit-01.truth.json'), 'utf8')) as {
      password: string;
    };
    expect((await read(join(truth, 'encrypted-pdfkit-01.pdf'), { password })).pages.length).toBeGreaterThan(0);
    await expect(read(join(truth, 'encrypted-pdfkit-01.pdf'), { password: 'wrong' })).rejects.toThrow(
      'expected the password of the file, got another',
    );
  });

  it('names a page that cannot be read whole, and reads the others', async () => {
    // One page of three points to an object that is not there.
    const { PDFDocument, PDFName, PDFRef } = await import('@cantoo/pdf-lib');
    const document = await PDFDocument.create();
    for (const text of ['one', 'two', 'three']) document.addPage().drawText(text);
    document.getPage(1).node.set(PDFName.of('Contents'), document.context.obj([PDFRef.of(9999)]));
    document.getPage(1).node.set(PDFName.of('MediaBox'), document.context.obj('none'));
    document.getPage(1).node.set(PDFName.of('Resources'), document.context.obj(7));
    const { pages, pageCount, problems } = await readPages(await document.save({ useObjectStreams: false }), 'x.pdf');
    expect(pageCount).toBe(3);
    expect(pages.map((page) => page.number)).toEqual(expect.arrayContaining([1, 3]));
    expect(problems.map((problem) => [problem.kind, problem.page])).toEqual([['damaged', 2]]);
  });
});
