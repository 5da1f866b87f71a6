import { isCovered, sideOf, type Block, type Paper, type Row, type Sheet } from './sheet';

const tex = (text: string) =>
  text
    .replace(/\\/g, '\\textbackslash ')
    .replace(/[&%#_{}$]/g, '\\$&')
    .replace(/−/g, '$-$')
    .replace(/–/g, '--')
    .replace(/—/g, '---')
    .replace(/±/g, '$\\pm$')
    .replace(/[<>]/g, '$$$&$$')
    .replace(/[▲▼]/g, (sign) => (sign === '▲' ? '$\\blacktriangle$' : '$\\blacktriangledown$'))
    .replace(/€/g, '\\texteuro{}')
    .replace(/£/g, '\\pounds{}')
    .replace(/•/g, '\\textbullet{}')
    .replace(/✓/g, '$\\checkmark$');

const letterOf = { left: 'l', right: 'r', centre: 'c', decimal: 'r' };

/** A column of a sheet as the preamble of a tabular states it. */
function columnLetter(sheet: Sheet, column: number): string {
  const { measure, side } = sheet.columns[column];
  if (measure === undefined) return letterOf[side];
  return `>{\\raggedright\\arraybackslash}${sheet.level === 'top' ? 'p' : sheet.level === 'middle' ? 'm' : 'b'}{${(0.48 * measure).toFixed(1)}em}`;
}

function rowOf(sheet: Sheet, row: Row, r: number, bars: boolean): string {
  if (row.kind === 'spacer') return '\\\\';
  const cells: string[] = [];
  for (let column = 0; column < sheet.columns.length;) {
    const cell = row.cells[column];
    const span = cell?.columns ?? 1;
    if (!cell || isCovered(sheet, r, column)) cells.push('');
    else {
      const body = `${cell.indent ? '\\quad ' : ''}${tex(cell.text)}`;
      const weighed = row.bold ? `\\textbf{${body}}` : body;
      const text = cell.rows ? `\\multirow{${cell.rows}}{*}{${weighed}}` : weighed;
      const side = letterOf[sideOf(sheet, row, column, cell)];
      const own =
        span > 1 ||
        (row.kind !== 'body' &&
          (side !== letterOf[sheet.columns[column].side] || sheet.columns[column].measure !== undefined));
      cells.push(own ? `\\multicolumn{${span}}{${bars ? `${column === 0 ? '|' : ''}${side}|` : side}}{${text}}` : text);
    }
    column += span;
  }
  const room = row.room ? `[${row.room}em]` : '';
  return `${row.shaded ? '\\rowcolor[gray]{0.9} ' : ''}${cells.join(' & ')} \\\\${room}`;
}

/** The rule above a row, left open where a text runs on over it. */
function ruleBetween(sheet: Sheet, r: number): string {
  const open = sheet.columns.map((_, column) =>
    sheet.rows.slice(0, r).some(({ cells }, above) => above + (cells[column]?.rows ?? 1) > r),
  );
  if (!open.includes(true)) return '\\hline';
  const from = open.indexOf(false);
  return from < 0 ? '' : `\\cline{${from + 1}-${sheet.columns.length}}`;
}

function tabular(sheet: Sheet): string {
  const { style, headingRows, columns } = sheet;
  const bars = style === 'grid' || style === 'upright';
  const letters = columns.map((_, column) => columnLetter(sheet, column));
  const preamble =
    style === 'grid' || style === 'box'
      ? `|${letters.join(style === 'grid' ? '|' : '')}|`
      : letters.join(style === 'upright' ? '|' : '');
  const lines = sheet.rows.map((row, r) => {
    const zebra = style === 'zebra' && row.kind === 'body' && r % 2 === 0 ? '\\rowcolor[gray]{0.93} ' : '';
    const above: string[] = [];
    if (r > 0 && (style === 'grid' || (style === 'rows' && r >= headingRows))) above.push(ruleBetween(sheet, r));
    else if (r > 0 && r === headingRows && style !== 'none') above.push(style === 'booktabs' ? '\\midrule' : '\\hline');
    else if (row.ruleAbove === 'row') above.push('\\hline');
    else if (row.ruleAbove === 'figures')
      above.push(
        ...columns.flatMap((_, column) =>
          column > 0 && row.cells[column] ? [`\\cmidrule(lr){${column + 1}-${column + 1}}`] : [],
        ),
      );
    const upper = sheet.rows[r - 1];
    if (r > 0 && r < headingRows && sheet.ruledSpans && style === 'booktabs')
      above.push(
        ...upper.cells.flatMap((cell, column) =>
          cell?.columns ? [`\\cmidrule(lr){${column + 1}-${column + cell.columns}}`] : [],
        ),
      );
    return `${above.join(' ')} ${zebra}${rowOf(sheet, row, r, bars)}`;
  });
  const [top, end] =
    style === 'booktabs'
      ? ['\\toprule', '\\bottomrule']
      : style === 'none' || style === 'heading band' || style === 'upright'
        ? ['', '']
        : ['\\hline', '\\hline'];
  const head = lines.slice(0, headingRows).join('\n');
  if (sheet.rows.length <= 40)
    return `\\begin{tabular}{${preamble}}\n${top}\n${lines.join('\n')}\n${end}\n\\end{tabular}`;
  const repeated = sheet.repeats ? `${top}\n${head}\n\\endhead\n` : `\\endhead\n`;
  return `\\begin{longtable}{${preamble}}\n${sheet.repeats ? `${repeated}${lines.slice(headingRows).join('\n')}` : `${repeated}${top}\n${lines.join('\n')}`}\n${end}\n\\end{longtable}`;
}

function sheetOf(sheet: Sheet, room: string): string {
  const title = sheet.title ? `\\textbf{${tex(sheet.title)}}\\par\\vspace{3pt}` : '';
  const units = sheet.units ? `{\\small ${tex(sheet.units)}}\\par\\vspace{2pt}` : '';
  const notes = sheet.notes.map((note) => `{\\scriptsize ${tex(note)}}\\par`).join('\n');
  const type = `\\fontsize{${sheet.size}}{${(1.2 * sheet.size).toFixed(1)}}\\selectfont\\setlength{\\tabcolsep}{${sheet.gutter / 2}pt}\\renewcommand{\\arraystretch}{${Math.max(1, sheet.pitch / 1.2).toFixed(2)}}`;
  const inner = tabular(sheet);
  // What is wider than the room is set smaller as a whole.
  const table =
    sheet.rows.length > 40 ? inner : `\\resizebox{\\ifdim\\width>${room}${room}\\else\\width\\fi}{!}{${inner}}\\par`;
  return `\\par\\vspace{8pt}{${type}\\noindent ${sheet.titleBelow ? '' : title}${units}\\noindent ${table}\\vspace{3pt}${sheet.titleBelow ? title : ''}${notes}}\\vspace{10pt}`;
}

function blockOf(block: Block, room: string): string {
  switch (block.kind) {
    case 'sheet':
      return sheetOf(block, room);
    case 'prose':
      return `${tex(block.text)}\\par`;
    case 'heading':
      return `\\section*{${tex(block.text)}}`;
    case 'points':
      return `\\begin{itemize}\n${block.texts.map((text) => `\\item ${tex(text)}`).join('\n')}\n\\end{itemize}`;
    case 'address':
      return `\\noindent ${block.lines.map(tex).join('\\\\ ')}\\par\\vspace{12pt}`;
    case 'tiles':
      return `\\par\\noindent ${block.labels.map((label, i) => `\\parbox[t]{${(0.92 / block.labels.length).toFixed(3)}\\textwidth}{\\raggedright ${block.labelsBelow ? `{\\Large\\textbf{${tex(block.figures[i])}}}\\\\ {\\scriptsize ${tex(label)}}` : `{\\scriptsize ${tex(label)}}\\\\ {\\Large\\textbf{${tex(block.figures[i])}}}`}}`).join('\\hfill ')}\\par\\vspace{10pt}`;
    case 'chart':
      return block.labels
        .map((label, i) => `\\parbox[b]{1.4cm}{\\rule{0.9cm}{${block.heights[i]}pt}\\\\ \\scriptsize ${tex(label)}}`)
        .join(' ');
    case 'beside':
      return `\\par\\noindent${[block.left, block.right].map((blocks) => `\\begin{minipage}[t]{0.47\\textwidth}\\vspace{0pt}${blocks.map((inner) => blockOf(inner, '\\linewidth')).join('\n\n')}\\end{minipage}`).join('\\hfill ')}\\par`;
  }
}

/** A paper as a source for LaTeX. */
export const texOf = (paper: Paper, wide: boolean) => `\\documentclass[10pt]{article}
\\usepackage[T1]{fontenc}\\usepackage[utf8]{inputenc}\\usepackage{lmodern}\\usepackage{array,booktabs,multirow,longtable,graphicx,amssymb,textcomp}\\usepackage[table]{xcolor}
\\usepackage[a4paper${wide ? ',landscape' : ''},margin=1.9cm]{geometry}\\raggedright\\setlength{\\parindent}{0pt}${paper.numbered ? '' : '\\pagestyle{empty}'}
\\begin{document}
${paper.blocks.map((block) => blockOf(block, '\\textwidth')).join('\n\n')}
\\end{document}
`;
