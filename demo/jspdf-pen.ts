import { jsPDF } from 'jspdf';
import type { House, Pen } from './layout';

/** Writes through jsPDF. */
export function jspdfPen(house: House, title: string, date: Date): { pen: Pen; end(): Uint8Array } {
  const format: [number, number] = [house.width, house.height];
  const document = new jsPDF({ unit: 'pt', format, compress: true, putOnlyUsedFonts: true });
  document.setDocumentProperties({ title, author: 'Northreach Harbour Board' });
  document.setCreationDate(date);
  document.setFileId(
    title
      .replace(/\W/g, '')
      .padEnd(32, '0')
      .slice(0, 32)
      .replace(/[^0-9A-Fa-f]/g, '7')
      .toUpperCase(),
  );
  let pages = 0;
  const set = (size: number, style: 'bold' | 'italic' | undefined) =>
    document.setFont('helvetica', style ?? 'normal').setFontSize(size);
  return {
    pen: {
      newPage: () => {
        // The document begins with a page.
        if (pages++ > 0) document.addPage(format);
      },
      width: (text, size, style) => set(size, style).getTextWidth(text),
      text: (text, x, y, size, style) => void set(size, style).text(text, x, y),
      rule: (x0, y0, x1, y1, thickness) => void document.setLineWidth(thickness).line(x0, y0, x1, y1),
      fill: (x, y, width, height, colour) => void document.setFillColor(colour).rect(x, y, width, height, 'F'),
    },
    end: () => new Uint8Array(document.output('arraybuffer')),
  };
}
