import type { House, Pen } from '../../demo/layout';
import type { Block, Paper, Row } from './sheet';
import { pdfkitPen } from '../../demo/pdfkit-pen';

/** Width of every letter of the typewriter's fonts, in sizes. */
const letter = 0.6;
const fonts = { plain: 'Courier', bold: 'Courier-Bold', italic: 'Courier-Oblique' };

/** Writes as a typewriter or a line printer does: every letter takes one place of a line, and rules are rows of dashes in the line above. */
export function typedPen(house: House, title: string, date: Date): { pen: Pen; end(): Promise<Buffer> } {
  const { pen, end } = pdfkitPen(house, title, date, fonts);
  const place = (x: number, size: number) =>
    house.margin + Math.round((x - house.margin) / (letter * size)) * letter * size;
  let last = 10;
  return {
    end,
    pen: {
      newPage: pen.newPage,
      width: (text, size) => text.length * letter * size,
      text: (text, x, y, size, style) => {
        last = size;
        pen.text(text, place(x, size), y, size, style);
      },
      rule: (x0, y0, x1, y1, thickness) => {
        const signs = Math.floor((x1 - x0) / (letter * last));
        if (y0 === y1 && signs > 2)
          pen.text((thickness > 0.7 ? '=' : '-').repeat(signs), place(x0, last), y0 - 0.3 * last, last);
      },
      fill: () => undefined,
    },
  };
}

/** Room for a row of dashes above a row, in sizes. */
const lineOfDashes = 1.25;

/** A paper as it is typed: lines in step, a line of dashes where a rule is, and no other marks. */
export const typed = (paper: Paper): Paper => ({ ...paper, blocks: paper.blocks.map(typedBlock) });

function typedBlock(block: Block): Block {
  if (block.kind === 'beside')
    return { ...block, left: block.left.map(typedBlock), right: block.right.map(typedBlock) };
  if (block.kind !== 'sheet') return block;
  const ruled = block.style !== 'none' && block.style !== 'heading band';
  const rows = block.rows.map((row, i): Row => {
    const ruleAbove = row.ruleAbove ?? (ruled && (i === block.headingRows || i === 0) ? 'row' : undefined);
    return { ...row, shaded: false, ruleAbove, room: ruleAbove ? lineOfDashes : row.room && lineOfDashes };
  });
  return {
    ...block,
    rows,
    style: 'none',
    level: 'top',
    pitch: lineOfDashes,
    leaders: false,
    gutter: Math.max(10, block.gutter),
    columns: block.columns.map((column) => ({ ...column, signApart: false })),
  };
}
