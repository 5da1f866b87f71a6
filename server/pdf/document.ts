import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import type { PDFDocumentProxy } from 'pdfjs-dist';
import { pdfjs } from './parser';

const assets = dirname(createRequire(import.meta.url).resolve('pdfjs-dist/package.json'));

/** Why a file cannot be read, in a sentence for the analyst. */
export type Unreadable = 'empty' | 'not a PDF' | 'damaged' | 'locked';

export class UnreadableReport extends Error {
  constructor(
    readonly why: Unreadable,
    message: string,
  ) {
    super(message);
    this.name = 'UnreadableReport';
  }
}

/**
 * Opens a PDF file.
 * @param name how messages call the file
 * @throws UnreadableReport when it is empty, damaged, not a PDF or needs a password
 */
export async function openPdf(bytes: Uint8Array, name: string, password?: string): Promise<PDFDocumentProxy> {
  if (bytes.length === 0) throw new UnreadableReport('empty', `${name} is empty (0 bytes). Ask the sender for the file again.`);
  // The parser tolerates some junk before the header, so look for it over the first kilobyte.
  if (!Buffer.from(bytes.buffer, bytes.byteOffset, Math.min(bytes.length, 1024)).includes('%PDF-'))
    throw new UnreadableReport('not a PDF', `${name} is not a PDF: it does not begin with the PDF header. Check what was saved under this name.`);
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
      throw new UnreadableReport(
        'locked',
        password
          ? `${name} does not open with the password given. Check the password and try again.`
          : `${name} needs a password. Give it with --password, or ask the sender for a file without one.`,
      );
    throw new UnreadableReport('damaged', `${name} is damaged: its page list cannot be read, perhaps because the file was cut off. Ask the sender for the file again.`);
  }
}
