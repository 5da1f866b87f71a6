import type { Level } from '../../core/reading/levels';
import type { Pen } from '../../demo/layout';
import type { TruthCell, TruthTable } from '../scoring/score-files';
import { optionalTable, sideOf, type Block, type Cell, type Paper, type Row, type Sheet } from './sheet';

/** Where blocks are drawn: from `left`, `width` wide, at `y` and below. Points. */
interface Frame {
  readonly left: number;
  readonly width: number;
  y: number;
}

export interface PageSize {
  readonly width: number;
  readonly height: number;
  readonly margin: number;
}

/** Leading of the lines of one text, in sizes. */
const leading = 1.16;
const proseSize = 9.5;

/** The lines of a text that breaks at a width. */
const lines = (pen: Pen, text: string, size: number, width: number, style?: 'bold') =>
  text.split(' ').reduce<string[]>((out, word) => {
    const last = out.at(-1);
    return last !== undefined && pen.width(`${last} ${word}`, size, style) <= width
      ? [...out.slice(0, -1), `${last} ${word}`]
      : [...out, word];
  }, []);

/** Draws a paper with a pen. @returns its pages and known tables, a part for each page */
export function drawPaper(pen: Pen, paper: Paper, page: PageSize): { pages: number; tables: TruthTable[] } {
  const tables: TruthTable[] = [];
  let pages = 0;
  const bottom = page.height - page.margin;
  const frame: Frame = { left: page.margin, width: page.width - 2 * page.margin, y: 0 };
  const startPage = () => {
    pen.newPage();
    pages++;
    if (paper.runningHead) pen.text(paper.runningHead, page.margin, page.margin - 16, 8);
    if (paper.numbered) pen.text(`Page ${pages}`, page.width - page.margin - 30, page.height - page.margin + 24, 8);
    frame.y = page.margin;
  };

  const paragraph = (at: Frame, text: string, size: number, indent = 0, style?: 'bold') => {
    for (const line of lines(pen, text, size, at.width - indent, style)) {
      if (at.y + size > bottom) startPage();
      pen.text(line, at.left + indent, at.y + size, size, style);
      at.y += 1.25 * size;
    }
  };

  const draw = (block: Block, at: Frame) => {
    if (block.kind === 'prose') {
      paragraph(at, block.text, proseSize);
      at.y += 9;
    } else if (block.kind === 'heading') {
      at.y += 6;
      paragraph(at, block.text, 13, 0, 'bold');
      at.y += 4;
    } else if (block.kind === 'points') {
      for (const text of block.texts) {
        pen.text('•', at.left, at.y + proseSize, proseSize);
        paragraph(at, text, proseSize, 14);
      }
      at.y += 9;
    } else if (block.kind === 'address') {
      for (const line of block.lines) paragraph(at, line, proseSize);
      at.y += 14;
    } else if (block.kind === 'tiles') drawTiles(block, at);
    else if (block.kind === 'chart') drawChart(block, at);
    else if (block.kind === 'beside') {
      const gap = 26;
      const half = (at.width - gap) / 2;
      const sides = [block.left, block.right].map((blocks, side) => {
        const own: Frame = { left: at.left + side * (half + gap), width: half, y: at.y };
        for (const inner of blocks) draw(inner, own);
        return own.y;
      });
      at.y = Math.max(...sides) + 6;
    } else drawSheet(block, at);
  };

  const drawTiles = (block: Extract<Block, { kind: 'tiles' }>, at: Frame) => {
    if (at.y + 60 > bottom) startPage();
    const step = at.width / block.labels.length;
    block.labels.forEach((label, i) => {
      const left = at.left + i * step;
      if (block.framed) pen.fill(left, at.y, step - 8, 44, '#eef1f0');
      const [upper, lower] = [at.y + 14, at.y + 34];
      pen.text(label, left + 6, block.labelsBelow ? at.y + 38 : upper, 7.5);
      pen.text(block.figures[i], left + 6, block.labelsBelow ? at.y + 22 : lower, 14, 'bold');
    });
    tables.push(optionalTable(block, `t${tables.length + 1}`, pages));
    at.y += 60;
  };

  const drawChart = ({ labels, heights }: Extract<Block, { kind: 'chart' }>, at: Frame) => {
    if (at.y + 130 > bottom) startPage();
    const base = at.y + 100;
    const step = Math.min(60, (at.width - 40) / labels.length);
    for (let i = 0; i <= 4; i++) {
      pen.text(String(i * 25), at.left, base - i * 22 + 2, 7);
      pen.rule(at.left + 20, base - i * 22, at.left + 20 + step * labels.length, base - i * 22, 0.3);
    }
    labels.forEach((label, i) => {
      const tall = (heights[i] / 100) * 88;
      pen.fill(at.left + 26 + i * step, base - tall, step * 0.6, tall, '#5f7f94');
      pen.text(label, at.left + 26 + i * step, base + 10, 7);
    });
    at.y = base + 26;
  };

  const drawSheet = (sheet: Sheet, at: Frame) => {
    const form = formOf(pen, sheet, at.width);
    const { size } = form;
    const first = form.heights.slice(0, sheet.headingRows + 2).reduce((sum, h) => sum + h, 0) + 40;
    const all = form.heights.reduce((sum, h) => sum + h, 0);
    if (at.y + Math.min(first, all) > bottom || (all < 0.6 * (bottom - page.margin) && at.y + all + 30 > bottom))
      startPage();
    at.y += 8;
    if (sheet.title && !sheet.titleBelow) {
      paragraph(at, sheet.title, size + 1, 0, 'bold');
      at.y += sheet.units ? 0 : 4;
    }
    if (sheet.units) {
      paragraph(at, sheet.units, size - 0.5);
      at.y += 4;
    }
    let piece:
      | {
          id: string;
          cells: TruthCell[];
          rows: number;
          top: number;
          drawn: { row: number; top: number; bottom: number }[];
        }
      | undefined;
    let before: string | null = null;
    const open = () => {
      piece = { id: `t${tables.length + 1}`, cells: [], rows: 0, top: at.y, drawn: [] };
      tables.push({
        id: piece.id,
        page: pages,
        continues: before,
        title: before === null && sheet.title ? sheet.title : null,
        headerRows: before === null || sheet.repeats ? sheet.headingRows : 0,
        cells: piece.cells,
      });
      before = piece.id;
    };
    const put = (index: number) => {
      const row = sheet.rows[index];
      const top = at.y + (row.room ?? 0) * size;
      const height = form.heights[index];
      piece!.drawn.push({ row: index, top, bottom: top + height });
      at.y = top + height;
      if (row.kind === 'spacer') return;
      row.cells.forEach((cell, column) => {
        piece!.cells.push({
          row: piece!.rows,
          col: column,
          text: cell?.text ?? '',
          ...(cell?.rows ? { rowSpan: cell.rows } : {}),
          ...(cell?.columns ? { colSpan: cell.columns } : {}),
        });
      });
      // A blank cell under a running heading is part of it.
      for (let i = piece!.cells.length - 1; i >= 0; i--) {
        const own = piece!.cells[i];
        if (
          own.text === '' &&
          piece!.cells.some(
            (other) =>
              other !== own &&
              other.row <= own.row &&
              other.row + (other.rowSpan ?? 1) > own.row &&
              other.col <= own.col &&
              other.col + (other.colSpan ?? 1) > own.col,
          )
        )
          piece!.cells.splice(i, 1);
      }
      piece!.rows++;
    };
    const close = () => {
      drawPiece(pen, sheet, form, at.left, piece!.drawn);
    };
    open();
    sheet.rows.forEach((row, index) => {
      if (at.y + form.heights[index] > bottom && index > sheet.headingRows) {
        close();
        startPage();
        at.y += 4;
        open();
        if (sheet.repeats) for (let h = 0; h < sheet.headingRows; h++) put(h);
        if (row.kind === 'spacer') return;
      }
      put(index);
    });
    close();
    at.y += 4;
    if (sheet.title && sheet.titleBelow) paragraph(at, sheet.title, size + 0.5, 0, 'bold');
    for (const note of sheet.notes) paragraph(at, note, size - 1);
    at.y += 16;
  };

  startPage();
  for (const block of paper.blocks) draw(block, frame);
  return { pages, tables };
}

interface Form {
  readonly size: number;
  /** Extent of each column's texts, from the table's left edge. */
  readonly columns: readonly (readonly [from: number, to: number])[];
  readonly heights: readonly number[];
  /** The lines of each cell. */
  readonly texts: readonly (readonly (readonly string[] | undefined)[])[];
  readonly width: number;
  readonly gutter: number;
}

const isFigures = (text: string) => /\d/.test(text) && !/\p{L}{2}/u.test(text);
const markOf = (text: string) => {
  const at = text.search(/[.,](?=\d{1,3}\D*$)(?!\d{3}\D*$)/);
  return at < 0 ? (/\D*$/.exec(text)?.index ?? text.length) : at;
};

/** Works out where the columns stand; type is set smaller where the sheet would not fit. */
export function formOf(pen: Pen, sheet: Sheet, room: number): Form {
  let { size, gutter } = sheet;
  for (;;) {
    const form = formAt(pen, sheet, room, size, gutter);
    if (form.width <= room || size <= 2.5) return form;
    if (gutter > 5) gutter -= 2;
    else size -= 0.5;
  }
}

function formAt(pen: Pen, sheet: Sheet, room: number, size: number, gutter: number): Form {
  const styleOf = (row: Row) => (row.bold ? 'bold' : undefined);
  const count = sheet.columns.length;
  const split = (text: string, measure: number) =>
    text.split(' ').reduce<string[]>((out, word) => {
      const last = out.at(-1);
      return last !== undefined && last.length + word.length < measure
        ? [...out.slice(0, -1), `${last} ${word}`]
        : [...out, word];
    }, []);
  const bodyWidth = Array.from({ length: count }, (_, column) =>
    Math.max(
      8,
      ...sheet.rows
        .filter((row) => row.kind !== 'heading')
        .map((row) => pen.width(row.cells[column]?.text ?? '', size, styleOf(row))),
    ),
  );
  const texts = sheet.rows.map((row) =>
    row.cells.map((cell, column) => {
      if (!cell) return undefined;
      const { measure } = sheet.columns[column];
      if (
        row.kind === 'heading' &&
        !cell.columns &&
        column > 0 &&
        pen.width(cell.text, size, styleOf(row)) > 1.25 * bodyWidth[column]
      )
        return split(cell.text, Math.max(6, cell.text.length / 2 + 1));
      return measure && row.kind === 'body'
        ? lines(pen, cell.text, size, 0.52 * measure * size, styleOf(row))
        : [cell.text];
    }),
  );
  const widths = new Array<number>(count).fill(6);
  const parts = Array.from({ length: count }, () => [0, 0]);
  sheet.rows.forEach((row, r) =>
    row.cells.forEach((cell, column) => {
      if (!cell || cell.columns || (row.kind === 'section' && column === 0)) return;
      const own =
        Math.max(...texts[r][column]!.map((line) => pen.width(line, size, styleOf(row)))) + (cell.indent ?? 0) * 10;
      widths[column] = Math.max(widths[column], own + (sheet.columns[column].signApart ? 9 : 0));
      if (sheet.columns[column].side === 'decimal' && row.kind !== 'heading') {
        const at = markOf(cell.text);
        parts[column][0] = Math.max(parts[column][0], pen.width(cell.text.slice(0, at), size, styleOf(row)));
        parts[column][1] = Math.max(parts[column][1], pen.width(cell.text.slice(at), size, styleOf(row)));
      }
    }),
  );
  parts.forEach(([left, right], column) => (widths[column] = Math.max(widths[column], left + right)));
  // Columns under a heading that runs over them are made wide enough for it.
  sheet.rows.forEach((row) =>
    row.cells.forEach((cell, column) => {
      if (!cell?.columns) return;
      const has =
        widths.slice(column, column + cell.columns).reduce((sum, w) => sum + w, 0) + gutter * (cell.columns - 1);
      const lack = pen.width(cell.text, size, styleOf(row)) + 4 - has;
      if (lack > 0) for (let c = column; c < column + cell.columns; c++) widths[c] += lack / cell.columns;
    }),
  );
  const least = widths.reduce((sum, w) => sum + w, 0) + gutter * (count - 1);
  const spare = sheet.spreads && least < room ? (room - least) / Math.max(1, count - 1) : 0;
  const own = gutter + Math.min(spare, 60);
  let x = 0;
  const columns = widths.map((w): [number, number] => {
    const from = x;
    x += w + own;
    return [from, from + w];
  });
  const heights = sheet.rows.map((row, r) => {
    const most = Math.max(1, ...texts[r].map((cell) => cell?.length ?? 1));
    return row.kind === 'spacer' ? sheet.pitch * size * 0.8 : sheet.pitch * size + (most - 1) * leading * size;
  });
  return { size, columns, heights, texts, width: columns.at(-1)![1], gutter: own };
}

/** How far down a text stands, as part of the room that is left. */
const lowered = (level: Level) => ({ top: 0, middle: 0.5, bottom: 1 })[level];

/** Draws the rows of one page with their marks. */
function drawPiece(
  pen: Pen,
  sheet: Sheet,
  form: Form,
  left: number,
  drawn: readonly { row: number; top: number; bottom: number }[],
) {
  const { size, columns, texts, gutter } = form;
  const pad = Math.min(3, gutter / 2);
  const edges = [
    left - pad,
    ...columns.slice(1).map(([from], i) => left + (columns[i][1] + from) / 2),
    left + form.width + pad,
  ];
  const across = (y: number, thickness = 0.5, from = edges[0], to = edges.at(-1)!) =>
    pen.rule(from, y, to, y, thickness);
  const [top, end] = [drawn[0].top, drawn.at(-1)!.bottom];
  const headEnd = drawn.filter(({ row }) => sheet.rows[row].kind === 'heading').at(-1)?.bottom;
  for (const { row, top: y0, bottom: y1 } of drawn) {
    const own = sheet.rows[row];
    const zebra = sheet.style === 'zebra' && own.kind !== 'heading' && row % 2 === 0;
    if ((own.shaded || zebra) && own.kind !== 'spacer')
      pen.fill(edges[0], y0, edges.at(-1)! - edges[0], y1 - y0, own.shaded ? '#dfe6e4' : '#eef1f0');
  }
  for (const { row, top: y0, bottom: y1 } of drawn) {
    const own = sheet.rows[row];
    if (own.kind === 'spacer') continue;
    const style = own.bold ? 'bold' : undefined;
    own.cells.forEach((cell, column) => {
      if (!cell) return;
      const printed = texts[row][column]!;
      const [from, to] = [left + columns[column][0], left + columns[column + (cell.columns ?? 1) - 1][1]];
      const most = Math.max(1, ...texts[row].map((other) => other?.length ?? 1));
      const below = drawn
        .filter((other) => other.row > row && other.row < row + (cell.rows ?? 1))
        .reduce((sum, other) => sum + other.bottom - other.top, 0);
      const lower =
        (most - printed.length) * leading * size * lowered(own.kind === 'heading' ? 'bottom' : sheet.level) +
        below * lowered(sheet.levelOfSpans);
      printed.forEach((line, i) => {
        const width = pen.width(line, size, style);
        const y = y0 + (sheet.pitch * size - size) / 2 + 0.82 * size + i * leading * size + lower;
        const { signApart } = sheet.columns[column];
        const on = sideOf(sheet, own, column, cell);
        if (signApart && isFigures(line) && own.kind !== 'heading' && /^[$€£]/.test(line)) {
          pen.text(line[0], from, y, size, style);
          pen.text(line.slice(1).trim(), to - pen.width(line.slice(1).trim(), size, style), y, size, style);
          return;
        }
        const decimal = () => {
          const frac = Math.max(
            0,
            ...sheet.rows
              .filter((r) => r.kind !== 'heading')
              .map((r) =>
                pen.width(
                  (r.cells[column]?.text ?? '').slice(markOf(r.cells[column]?.text ?? '')),
                  size,
                  r.bold ? 'bold' : undefined,
                ),
              ),
          );
          return to - frac - pen.width(line.slice(0, markOf(line)), size, style);
        };
        const x =
          on === 'left'
            ? from + (cell.indent ?? 0) * 10
            : on === 'right'
              ? to - width
              : on === 'centre'
                ? (from + to - width) / 2
                : decimal();
        pen.text(line, x, y, size, style);
        if (sheet.leaders && column === 0 && (own.kind === 'body' || own.kind === 'total') && columns.length > 1) {
          const dots = Math.floor((left + columns[1][0] - 4 - (x + width + 2)) / pen.width('.', size));
          if (dots > 4) pen.text('.'.repeat(dots), x + width + 1, y, size);
        }
      });
      if (cell.columns && own.kind === 'heading' && sheet.ruledSpans && sheet.style !== 'grid')
        across(y1 - 1, 0.4, from, to);
    });
    if (own.ruleAbove === 'row') across(y0);
    if (own.ruleAbove === 'figures')
      own.cells.forEach(
        (cell, column) =>
          column > 0 &&
          cell &&
          isFigures(cell.text) &&
          across(y0 + 0.5, 0.5, left + columns[column][0] - 1, left + columns[column][1] + 1),
      );
  }
  if (sheet.style === 'grid') {
    for (const { row, top: y0, bottom: y1 } of drawn) {
      const own = sheet.rows[row];
      for (let column = 0; column < columns.length; column++) {
        const over = own.cells.some((cell, at) => cell?.columns && at < column && at + cell.columns > column);
        const runsDown = drawn.some(
          (other) => other.row < row && other.row + (sheet.rows[other.row].cells[column]?.rows ?? 1) > row,
        );
        if (!runsDown) across(y0, 0.5, edges[column], edges[column + 1]);
        if (!over) pen.rule(edges[column], y0, edges[column], y1, 0.5);
      }
    }
    across(end);
    pen.rule(edges.at(-1)!, top, edges.at(-1)!, end, 0.5);
  }
  if (sheet.style === 'rows')
    for (const { row, bottom } of drawn)
      if (sheet.rows[row].kind !== 'heading' || sheet.rows[row + 1]?.kind !== 'heading') across(bottom, 0.3);
  if (sheet.style === 'booktabs' || sheet.style === 'box') {
    across(top, 0.9);
    across(end, 0.9);
  }
  if (headEnd !== undefined && ['booktabs', 'box', 'upright', 'zebra', 'rows'].includes(sheet.style))
    across(headEnd, 0.5);
  if (sheet.style === 'box') for (const x of [edges[0], edges.at(-1)!]) pen.rule(x, top, x, end, 0.6);
  if (sheet.style === 'upright') for (const x of edges.slice(1, -1)) pen.rule(x, headEnd ?? top, x, end, 0.4);
}

/** The sign of a currency stands before the first amount of each column and before sums. */
export function withSigns(sheet: Sheet): Sheet {
  if (!sheet.columns.some(({ signApart }) => signApart)) return sheet;
  let first = true;
  const rows = sheet.rows.map((row) => {
    if (row.kind !== 'body' && row.kind !== 'total') return row;
    const signed = first || row.kind === 'total';
    first = false;
    return signed
      ? {
          ...row,
          cells: row.cells.map((cell, i): Cell | undefined =>
            cell && sheet.columns[i].signApart && /^\d/.test(cell.text) ? { ...cell, text: `$ ${cell.text}` } : cell,
          ),
        }
      : row;
  });
  return { ...sheet, rows };
}
