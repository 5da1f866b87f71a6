import type { PageContent } from '../../core/page/page';
import type { TruthCell, TruthTable } from '../scoring/score-files';
import { isCovered, optionalTable, sheetsOf, sideOf, type Block, type Paper, type Sheet } from './sheet';

const escaped = (text: string) => text.replace(/&/g, '&amp;').replace(/</g, '&lt;').replace(/>/g, '&gt;');

/** A letter of the fonts used is about this wide, in sizes. */
const letter = 0.62;

/** The size at which a sheet will fit, guessed from its longest texts, as cells do not break. */
function sizeFor(sheet: Sheet, room: number): number {
  const longest = sheet.columns.map(({ measure }, column) =>
    Math.max(
      3,
      ...sheet.rows.map(({ kind, cells }) =>
        kind === 'body' && measure ? measure : cells[column]?.columns ? 0 : (cells[column]?.text.length ?? 0),
      ),
    ),
  );
  const letters = longest.reduce((sum, count) => sum + count, 0) * letter;
  return Math.max(3, Math.min(sheet.size, (room - sheet.columns.length * Math.max(3, sheet.gutter)) / letters));
}

function tableOf(sheet: Sheet, room: number): string {
  const rows = sheet.rows.map((row, r) => {
    if (row.kind === 'spacer') return `<tr class="spacer"><td colspan="${sheet.columns.length}">&nbsp;</td></tr>`;
    const cells = row.cells.map((cell, column) => {
      if (isCovered(sheet, r, column)) return '';
      const { measure } = sheet.columns[column];
      const align = { left: 'left', right: 'right', centre: 'center', decimal: 'right' }[
        sideOf(sheet, row, column, cell)
      ];
      const style = [
        `text-align:${align}`,
        row.bold ? 'font-weight:bold' : '',
        row.shaded ? 'background:#dfe6e4' : '',
        cell?.indent ? 'padding-left:16pt' : '',
        row.ruleAbove === 'row' || (row.ruleAbove === 'figures' && column > 0 && cell)
          ? 'border-top:0.6pt solid #222'
          : '',
        measure && row.kind === 'body' ? `max-width:${measure * 0.52}em;white-space:normal` : '',
        row.room ? `padding-top:${row.room}em` : '',
        cell?.columns && row.kind === 'heading' && sheet.ruledSpans ? 'border-bottom:0.4pt solid #222' : '',
        `vertical-align:${cell?.rows ? sheet.levelOfSpans : row.kind === 'heading' ? 'bottom' : sheet.level}`,
      ]
        .filter(Boolean)
        .join(';');
      const tag = row.kind === 'heading' ? 'th' : 'td';
      return `<${tag} style="${style}"${cell?.columns ? ` colspan="${cell.columns}"` : ''}${cell?.rows ? ` rowspan="${cell.rows}"` : ''}>${escaped(cell?.text ?? '')}</${tag}>`;
    });
    return `<tr class="${row.kind}">${cells.join('')}</tr>`;
  });
  const [head, body] = [rows.slice(0, sheet.headingRows).join(''), rows.slice(sheet.headingRows).join('')];
  const title = sheet.title ? `<p class="title">${escaped(sheet.title)}</p>` : '';
  const units = sheet.units ? `<p class="units">${escaped(sheet.units)}</p>` : '';
  const parts = sheet.repeats ? `<thead>${head}</thead><tbody>${body}</tbody>` : `<tbody>${head}${body}</tbody>`;
  const table = `<table class="${sheet.style.replace(' ', '-')}" style="font-size:${sizeFor(sheet, room).toFixed(1)}pt;--gap:${Math.max(1.5, sheet.gutter / 2)}pt;--pitch:${((sheet.pitch - 1.15) / 2).toFixed(2)}em;${sheet.spreads ? 'width:100%' : ''}">${parts}</table>`;
  const notes = sheet.notes.map((note) => `<p class="note">${escaped(note)}</p>`).join('');
  return `<div class="${sheet.rows.length > 40 ? '' : 'keep'}">${sheet.titleBelow ? '' : title}${units}${table}${sheet.titleBelow ? title : ''}${notes}</div>`;
}

function htmlOf(block: Block, room: number): string {
  switch (block.kind) {
    case 'sheet':
      return tableOf(block, room);
    case 'prose':
      return `<p>${escaped(block.text)}</p>`;
    case 'heading':
      return `<h2>${escaped(block.text)}</h2>`;
    case 'points':
      return `<ul>${block.texts.map((text) => `<li>${escaped(text)}</li>`).join('')}</ul>`;
    case 'address':
      return `<p>${block.lines.map(escaped).join('<br>')}</p>`;
    case 'tiles':
      return `<div class="tiles${block.framed ? ' framed' : ''}">${block.labels.map((label, i) => `<div>${block.labelsBelow ? `<b>${escaped(block.figures[i])}</b><span>${escaped(label)}</span>` : `<span>${escaped(label)}</span><b>${escaped(block.figures[i])}</b>`}</div>`).join('')}</div>`;
    case 'chart':
      return `<div class="chart">${block.labels.map((label, i) => `<div><i style="height:${block.heights[i]}pt"></i><span>${label}</span></div>`).join('')}</div>`;
    case 'beside':
      return `<div class="beside"><div>${block.left.map((inner) => htmlOf(inner, room / 2 - 14)).join('')}</div><div>${block.right.map((inner) => htmlOf(inner, room / 2 - 14)).join('')}</div></div>`;
  }
}

/** Needs the paper a page on its side? */
export const isWide = (paper: Paper) => sheetsOf(paper.blocks).some((sheet) => sheet.columns.length > 9);

/** A paper as a page for the browser or another engine that sets HTML. */
export const pageOf = (paper: Paper) => `<!doctype html><html lang="en"><head><meta charset="utf-8"><style>
@page { size: A4${isWide(paper) ? ' landscape' : ''}; margin: 16mm }
body { font: 9.5pt/1.3 "DejaVu Sans", "Liberation Sans", sans-serif; margin: 0 } h2 { font-size: 13pt; margin: 6pt 0 }
.keep { break-inside: avoid } .title { font-weight: bold; margin: 8pt 0 3pt } .units { font-size: 8pt; margin: 0 0 3pt } .note { font-size: 7pt; margin: 1pt 0 }
table { border-collapse: collapse; line-height: 1.15; margin: 2pt 0 6pt } td, th { padding: var(--pitch) var(--gap); vertical-align: top; font-weight: normal; white-space: nowrap } thead th { vertical-align: bottom }
.grid td, .grid th { border: 0.5pt solid #333 } .rows tr > * { border-bottom: 0.3pt solid #777 }
.booktabs, .box { border-top: 1pt solid #000; border-bottom: 1pt solid #000 } .booktabs thead, .box thead, .zebra thead { border-bottom: 0.6pt solid #000 } .box { border: 0.8pt solid #000 }
.zebra tbody tr:nth-child(odd) { background: #eef1f0 } .upright td + td { border-left: 0.4pt solid #222 } .heading-band th { background: #dfe6e4 }
.grid .spacer td { border: none } .beside { display: flex; gap: 20pt } .beside > div { flex: 1; min-width: 0 }
.tiles { display: flex; gap: 8pt; margin: 6pt 0 10pt } .tiles > div { flex: 1; padding: 4pt 6pt } .tiles.framed > div { background: #eef1f0 } .tiles span, .tiles b { display: block; font-size: 7.5pt } .tiles b { font-size: 14pt }
.chart { display: flex; gap: 12pt; align-items: flex-end; height: 110pt; font-size: 7pt; margin: 6pt 0 } .chart div { display: flex; flex-direction: column } .chart i { display: block; width: 26pt; background: #5f7f94 }
</style></head><body>${paper.runningHead ? `<p style="font-size:8pt">${paper.runningHead}</p>` : ''}${paper.blocks.map((block) => htmlOf(block, isWide(paper) ? 750 : 500)).join('\n')}</body></html>`;

const squeezed = (text: string) => text.normalize('NFKC').replace(/\s+/g, '');

/** What the tables of a paper are, once it is set: rows go to the page whose text holds their words, never going back. */
export function tablesOnPages(paper: Paper, pages: readonly PageContent[]): TruthTable[] {
  const tables: TruthTable[] = [];
  const pageTexts = pages.map((page) => squeezed(page.words.map(({ text }) => text).join('')));
  for (const block of paper.blocks)
    if (block.kind === 'tiles')
      tables.push(
        optionalTable(
          block,
          `t${tables.length + 1}`,
          Math.max(1, pageTexts.findIndex((text) => text.includes(squeezed(block.figures[0]))) + 1),
        ),
      );
  for (const sheet of sheetsOf(paper.blocks)) {
    const rows = sheet.rows.flatMap((row, index) => (row.kind === 'spacer' ? [] : [{ row, index }]));
    // Cells of one row follow each other in the text, but for those that run over several rows.
    const texts = rows.map(({ row }) =>
      squeezed(row.cells.map((cell) => (cell && !cell.rows ? cell.text : '')).join('')),
    );
    const counts = pageTexts.map((page) => texts.filter((own) => page.includes(own)).length);
    const parted = sheet.rows.length > 40;
    let [page, from] = [parted ? 0 : counts.indexOf(Math.max(...counts)), 0];
    const pageOfRow = texts.map((text, i) => {
      // A row stands below the one before it, or on the next page.
      const at = pageTexts.findIndex((other, n) => n >= page && other.includes(text, n === page ? from : 0));
      if (at >= 0 && (parted || at === page)) {
        from = pageTexts[at].indexOf(text, at === page ? from : 0) + text.length;
        page = at;
      } else if (at < 0 && parted) {
        // The words of a row whose texts wrap do not follow each other; those of its single words stand on its page all the same.
        const words = rows[i].row.cells.flatMap((cell) =>
          cell && !cell.rows && cell.text.length > 3 && !/\s/.test(cell.text) ? [squeezed(cell.text)] : [],
        );
        const on =
          words.length === 0
            ? -1
            : pageTexts.findIndex(
                (other, n) => n >= page && words.every((word) => other.includes(word, n === page ? from : 0)),
              );
        if (on > page) [page, from] = [on, 0];
      }
      return page + 1;
    });
    let before: string | null = null;
    for (const number of [...new Set(pageOfRow)]) {
      const own = rows.filter((_, at) => pageOfRow[at] === number);
      const repeated = before !== null && sheet.repeats ? rows.slice(0, sheet.headingRows) : [];
      const cells: TruthCell[] = [...repeated, ...own].flatMap(({ row, index }, at) =>
        row.cells.flatMap((cell, col): TruthCell[] => {
          return isCovered(sheet, index, col)
            ? []
            : [
                {
                  row: at,
                  col,
                  text: cell?.text ?? '',
                  ...(cell?.rows ? { rowSpan: cell.rows } : {}),
                  ...(cell?.columns ? { colSpan: cell.columns } : {}),
                },
              ];
        }),
      );
      const id = `t${tables.length + 1}`;
      tables.push({
        id,
        page: number,
        continues: before,
        title: before === null ? (sheet.title ?? null) : null,
        headerRows: before === null || sheet.repeats ? sheet.headingRows : 0,
        cells,
      });
      before = id;
    }
  }
  return tables;
}
