import { PDFDocument } from '@cantoo/pdf-lib';
import { createCanvas, type Canvas } from '@napi-rs/canvas';
import type { House, Pen } from './layout';

const dotsPerPoint = 110 / 72;

/** Draws pages as pictures, as a copier does: the file has no text at all. */
export function scanPen(house: House): { pen: Pen; end(title: string, date: Date): Promise<Uint8Array> } {
  const pages: Canvas[] = [];
  const at = () => {
    const context = pages.at(-1)!.getContext('2d');
    context.setTransform(dotsPerPoint, 0, 0, dotsPerPoint, 0, 0);
    return context;
  };
  const font = (size: number, style?: string) =>
    `${style === 'italic' ? 'italic ' : ''}${style === 'bold' ? 'bold ' : ''}${size}px "DejaVu Sans", sans-serif`;
  const pen: Pen = {
    newPage: () => {
      const canvas = createCanvas(Math.round(house.width * dotsPerPoint), Math.round(house.height * dotsPerPoint));
      const context = canvas.getContext('2d');
      context.fillStyle = '#f7f5ef';
      context.fillRect(0, 0, canvas.width, canvas.height);
      pages.push(canvas);
    },
    width: (text, size, style) => {
      const context = at();
      context.font = font(size * 0.9, style);
      return context.measureText(text).width;
    },
    text: (text, x, y, size, style) => {
      const context = at();
      context.font = font(size * 0.9, style);
      context.fillStyle = '#1d1d22';
      context.fillText(text, x, y);
    },
    rule: (x0, y0, x1, y1, thickness) => {
      const context = at();
      context.lineWidth = thickness;
      context.strokeStyle = '#222';
      context.beginPath();
      context.moveTo(x0, y0);
      context.lineTo(x1, y1);
      context.stroke();
    },
    fill: (x, y, width, height, colour) => {
      const context = at();
      context.fillStyle = colour;
      context.fillRect(x, y, width, height);
    },
  };
  return {
    pen,
    end: async (title, date) => {
      const document = await PDFDocument.create();
      document.setTitle(title);
      document.setCreationDate(date);
      document.setModificationDate(date);
      for (const canvas of pages) {
        const picture = await document.embedJpg(canvas.toBuffer('image/jpeg', 60));
        document
          .addPage([house.width, house.height])
          .drawImage(picture, { x: 0, y: 0, width: house.width, height: house.height });
      }
      return document.save({ useObjectStreams: false });
    },
  };
}
