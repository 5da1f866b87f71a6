import { PDFDocument, StandardFonts, rgb, type PDFFont, type PDFPage } from '@cantoo/pdf-lib';
import type { House, Pen } from './layout';

const colourOf = (hex: string) =>
  rgb(...([1, 3, 5].map((at) => parseInt(hex.slice(at, at + 2), 16) / 255) as [number, number, number]));

/** Writes through pdf-lib, with serif type. */
export async function pdfLibPen(
  house: House,
  title: string,
  date: Date,
): Promise<{ pen: Pen; document: PDFDocument; end(): Promise<Uint8Array> }> {
  const document = await PDFDocument.create();
  document.setTitle(title);
  document.setAuthor('Northreach Harbour Board');
  document.setCreationDate(date);
  document.setModificationDate(date);
  const fonts: Record<string, PDFFont> = {
    plain: await document.embedFont(StandardFonts.TimesRoman),
    bold: await document.embedFont(StandardFonts.TimesRomanBold),
    italic: await document.embedFont(StandardFonts.TimesRomanItalic),
  };
  let page: PDFPage;
  const up = (y: number) => house.height - y;
  return {
    document,
    pen: {
      newPage: () => void (page = document.addPage([house.width, house.height])),
      width: (text, size, style) => fonts[style ?? 'plain'].widthOfTextAtSize(text, size),
      text: (text, x, y, size, style) =>
        page.drawText(text, { x, y: up(y), size, font: fonts[style ?? 'plain'], color: rgb(0.07, 0.07, 0.07) }),
      rule: (x0, y0, x1, y1, thickness) =>
        page.drawLine({ start: { x: x0, y: up(y0) }, end: { x: x1, y: up(y1) }, thickness }),
      fill: (x, y, width, height, colour) =>
        page.drawRectangle({ x, y: up(y + height), width, height, color: colourOf(colour) }),
    },
    end: () => document.save({ useObjectStreams: false }),
  };
}
