import { PDFDocument, StandardFonts } from '@cantoo/pdf-lib';

/** A paper of three pages with a small table each; on the second so many marks more that reading it takes very long. */
export async function heavyPaper(marks: number): Promise<Uint8Array> {
  const document = await PDFDocument.create();
  const font = await document.embedFont(StandardFonts.Helvetica);
  for (const number of [1, 2, 3]) {
    const page = document.addPage([600, 800]);
    const rows = [
      ['Quay', 'Boxes', 'Weight'],
      ['Saltby', '12', '340.5'],
      ['Tern Point', '7', '118.0'],
      ['Marrow', '31', '902.5'],
    ];
    for (const [i, row] of rows.entries())
      for (const [j, text] of row.entries()) page.drawText(text, { x: 60 + 160 * j, y: 700 - 16 * i, size: 10, font });
    if (number !== 2) continue;
    const drawn = Array.from(
      { length: marks },
      (_, i) => `${(i * 7919) % 590} ${(i * 104_729) % 790} m ${(i * 31) % 590} ${(i * 17) % 790} l S`,
    ).join('\n');
    const stream = document.context.register(document.context.flateStream(drawn));
    page.node.addContentStream(stream);
  }
  return document.save();
}
