import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import type { PDFDocumentProxy } from 'pdfjs-dist';
import { sentence, type Problem } from '../../core/sheet/problem';
import { pdfjs } from './parser';

const assets = dirname(createRequire(import.meta.url).resolve('pdfjs-dist/package.json'));

/** A file that cannot be read, with the problem why. */
export class UnreadableReport extends Error {
  constructor(readonly problem: Problem) {
    super(sentence(problem));
    this.name = 'UnreadableReport';
  }
}

/**
 * Opens a PDF file.
 * @param name how messages call the file
 * @throws UnreadableReport when it is empty, damaged, not a PDF or needs a password
 */
export async function openPdf(bytes: Uint8Array, name: string, password?: string): Promise<PDFDocumentProxy> {
  if (bytes.length === 0)
    throw new UnreadableReport({
      kind: 'empty',
      report: name,
      expected: 'a PDF',
      came: 'an empty file (0 bytes)',
      remedy: 'Ask the sender for the file again.',
    });
  // The parser tolerates some junk before the header, so look for it over the first kilobyte.
  if (!Buffer.from(bytes.buffer, bytes.byteOffset, Math.min(bytes.length, 1024)).includes('%PDF-'))
    throw new UnreadableReport({
      kind: 'not a PDF',
      report: name,
      expected: 'a PDF',
      came: 'a file that does not begin with the PDF header',
      remedy: 'Check what was saved under this name.',
    });
  try {
    return await pdfjs.getDocument({
      data: new Uint8Array(bytes),
      password,
      cMapUrl: join(assets, 'cmaps/'),
      cMapPacked: true,
      standardFontDataUrl: join(assets, 'standard_fonts/'),
      wasmUrl: join(assets, 'wasm/'),
      iccUrl: join(assets, 'iccs/'),
      useSystemFonts: false,
      isEvalSupported: false,
      verbosity: 0,
    }).promise;
  } catch (error) {
    if (error instanceof Error && error.name === 'PasswordException')
      throw new UnreadableReport({
        kind: 'locked',
        report: name,
        expected: password ? 'the password of the file' : 'a file that opens without a password',
        came: password ? 'another' : 'one that needs a password',
        remedy: password
          ? 'Check the password and try again.'
          : 'Give it with --password, or ask the sender for a file without one.',
      });
    throw new UnreadableReport({
      kind: 'damaged',
      report: name,
      expected: 'a whole PDF',
      came: 'a damaged one: its page list cannot be read, perhaps because the file was cut off',
      remedy: 'Ask the sender for the file again.',
    });
  }
}
