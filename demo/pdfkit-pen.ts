import PDFDocument from 'pdfkit';
import type { House, Pen } from './layout';

const helvetica = { plain: 'Helvetica', bold: 'Helvetica-Bold', italic: 'Helvetica-Oblique' };

/** Writes through pdfkit. @returns the pen, and a promise of the file's bytes once `end` was called */
export function pdfkitPen(
  house: House,
  title: string,
  date: Date,
  fonts = helvetica,
): { pen: Pen; end(): Promise<Buffer> } {
  const document = new PDFDocument({
    autoFirstPage: false,
    size: [house.width, house.height],
    margin: 0,
    info: { Title: title, Author: 'Northreach Harbour Board', CreationDate: date, ModDate: date },
  });
  const chunks: Buffer[] = [];
  document.on('data', (chunk: Buffer) => chunks.push(chunk));
  const ended = new Promise<Buffer>((resolve) => document.on('end', () => resolve(Buffer.concat(chunks))));
  return {
    pen: {
      newPage: () => void document.addPage(),
      width: (text, size, style) =>
        document
          .font(fonts[style ?? 'plain'])
          .fontSize(size)
          .widthOfString(text),
      text: (text, x, y, size, style) =>
        void document
          .font(fonts[style ?? 'plain'])
          .fontSize(size)
          .fillColor('#111111')
          .text(text, x, y, { lineBreak: false, baseline: 'alphabetic' }),
      rule: (x0, y0, x1, y1, thickness) =>
        void document.moveTo(x0, y0).lineTo(x1, y1).lineWidth(thickness).strokeColor('#222222').stroke(),
      fill: (x, y, width, height, colour) => void document.rect(x, y, width, height).fill(colour),
    },
    end: () => {
      document.end();
      return ended;
    },
  };
}
