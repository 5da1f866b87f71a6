import { spawnSync } from 'node:child_process';
import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { placed, type Block, type Cell, type Paper, type Table } from './paper';

export interface Writer {
  readonly name: string;
  /** Sets a paper as FOLDER/NAME.pdf, NAME being the paper's and the writer's. */
  write(paper: Paper, folder: string, base: string): void;
}

function run(command: string, args: string[], cwd: string): void {
  const done = spawnSync(command, args, { cwd, encoding: 'utf8', timeout: 180_000 });
  if (done.status !== 0) throw new Error(`${command} failed: ${done.stdout?.slice(-1500)}${done.stderr?.slice(-1500)}`);
}

// --- TeX -------------------------------------------------------------------------------------------------------------

const tex = (text: string) =>
  text
    .replace(/\\/g, '\\textbackslash ')
    .replace(/[&%#_{}$]/g, '\\$&')
    .replace(/−/g, '$-$')
    .replace(/–/g, '--')
    .replace(/³/g, '$^3$')
    .replace(/\*+/g, '\\textsuperscript{$&}');

function texTable(table: Table, inColumns: boolean): string {
  const rules = table.style === 'grid';
  const boxed = table.style === 'boxed';
  const letters = [...table.align].map((a) =>
    a === 'p' ? `>{\\raggedright\\arraybackslash}p{${inColumns ? '3.2cm' : '6.5cm'}}` : a,
  );
  const spec = rules ? `|${letters.join('|')}|` : boxed ? `|${letters.join('|')}|` : letters.join('');
  const cells = placed(table);
  const width = table.align.length;
  const lines = table.rows.map((row, r) => {
    const own = cells.filter((c) => c.row === r);
    const out: string[] = [];
    for (let col = 0; col < width;) {
      const at = own.find((c) => c.col === col);
      if (!at) {
        out.push('');
        col++;
        continue;
      }
      const source = row[own.indexOf(at)];
      let text = tex(at.text);
      if (source.bold) text = `\\textbf{${text}}`;
      if (source.indent) text = `\\quad ${text}`;
      if (at.rowSpan > 1) text = `\\multirow{${at.rowSpan}}{*}{${text}}`;
      if (at.colSpan > 1)
        text = `\\multicolumn{${at.colSpan}}{${rules || boxed ? (col === 0 ? '|c|' : 'c|') : 'c'}}{${text}}`;
      out.push(text);
      col += at.colSpan;
    }
    return `${out.join(' & ')} \\\\`;
  });
  const spanning = (r: number) => cells.filter((c) => c.row < r && c.row + c.rowSpan > r);
  const under = (r: number) => {
    // The rule under row r, left open where a cell runs on over it.
    const open = spanning(r + 1);
    if (open.length === 0) return '\\hline';
    const clear = Array.from({ length: width }, (_, c) => !open.some((o) => c >= o.col && c < o.col + o.colSpan));
    const from = clear.indexOf(true);
    return from < 0 ? '' : `\\cline{${from + 1}-${width}}`;
  };
  const head = lines.slice(0, table.headingRows);
  const body = lines.slice(table.headingRows);
  const groupRules = () =>
    cells
      .filter((c) => c.row === 0 && c.colSpan > 1)
      .map((c) => `\\cmidrule(lr){${c.col + 1}-${c.col + c.colSpan}}`)
      .join(' ');
  let top: string, middle: string, rows: string, bottom: string;
  if (table.style === 'booktabs') {
    top = `\\toprule\n${head.length > 1 ? `${head[0]}\n${groupRules()}\n${head.slice(1).join('\n')}` : head.join('\n')}`;
    middle = '\\midrule';
    rows = body
      .map((line, i) => (i === body.length - 1 && table.rows.at(-1)![0].text === 'Total' ? `\\midrule\n${line}` : line))
      .join('\n');
    bottom = '\\bottomrule';
  } else if (table.style === 'grid' || table.style === 'lines') {
    top = `\\hline\n${head.map((line, i) => `${line} ${i < head.length - 1 ? under(i) : ''}`).join('\n')}`;
    middle = '\\hline';
    rows = body.map((line, i) => `${line} ${i === body.length - 1 ? '' : under(i + table.headingRows)}`).join('\n');
    bottom = '\\hline';
  } else if (boxed) {
    top = `\\hline\n${head.join('\n')}`;
    middle = '\\hline\\hline';
    rows = body.join('\n');
    bottom = '\\hline';
  } else {
    top = head.join('\n');
    middle = '';
    rows =
      table.style === 'zebra'
        ? body.map((line, i) => (i % 2 ? line : `\\rowcolor[gray]{0.9} ${line}`)).join('\n')
        : body.join('\n');
    bottom = '';
  }
  const size = table.tight
    ? '\\scriptsize\\setlength{\\tabcolsep}{2pt}'
    : inColumns
      ? '\\footnotesize\\setlength{\\tabcolsep}{3pt}'
      : '\\small';
  if (table.rows.length > 60)
    return `{${size}\\begin{longtable}{${spec}}\n\\caption{${tex(table.title ?? '')}}\\\\\n${top}\n${middle}\n${table.repeats ? `\\endfirsthead\n${top}\n${middle}\n\\endhead\n` : '\\endfirsthead\n\\endhead\n'}${rows}\n${bottom}\n\\end{longtable}}`;
  const caption = table.title ? `\\caption{${tex(table.title)}}` : '';
  return `\\begin{table}[${inColumns ? 'tb' : 'H'}]\\centering ${size}\n${table.titleBelow ? '' : caption}\n\\begin{tabular}{${spec}}\n${top}\n${middle}\n${rows}\n${bottom}\n\\end{tabular}\n${table.titleBelow ? caption : ''}\n\\end{table}`;
}

function texBlock(block: Block, inColumns: boolean): string {
  switch (block.kind) {
    case 'table':
      return texTable(block, inColumns);
    case 'heading':
      return `\\section{${tex(block.text)}}`;
    case 'prose':
      return `${tex(block.text)}\n`;
    case 'points': {
      const list = block.numbered ? 'enumerate' : 'itemize';
      return `\\begin{${list}}\n${block.texts.map((t) => `\\item ${tex(t)}`).join('\n')}\n\\end{${list}}`;
    }
    case 'code':
      return `{\\footnotesize\\begin{verbatim}\n${block.lines.join('\n')}\n\\end{verbatim}}`;
    case 'formula':
      return `\\[ ${block.latex} \\]`;
    case 'references':
      return `\\section*{References}\n{\\small ${block.texts.map((t) => `\\par\\hangindent=1.5em ${tex(t)}`).join('\n')}}`;
  }
}

export const latex: Writer = {
  name: 'latex',
  write(paper, folder, base) {
    const source = `\\documentclass[10pt,a4paper${paper.twoColumns ? ',twocolumn' : ''}]{article}
\\usepackage[T1]{fontenc}\\usepackage[utf8]{inputenc}\\usepackage{lmodern}\\usepackage{array,booktabs,multirow,longtable,float}\\usepackage[table]{xcolor}\\usepackage[margin=2.2cm]{geometry}
\\hyphenpenalty=10000 \\emergencystretch=3em
\\begin{document}\n${paper.blocks.map((b) => texBlock(b, paper.twoColumns === true)).join('\n\n')}\n\\end{document}\n`;
    writeFileSync(join(folder, `${base}.tex`), source);
    for (let i = 0; i < 3; i++) run('pdflatex', ['-interaction=batchmode', '-halt-on-error', `${base}.tex`], folder);
  },
};

// --- troff -----------------------------------------------------------------------------------------------------------

const troff = (text: string) =>
  text
    .replace(/\\/g, '\\e')
    .replace(/−/g, '\\(mi')
    .replace(/–/g, '\\(en')
    .replace(/³/g, '\\*{3\\*}')
    .replace(/^([.'])/, '\\&$1');

function troffTable(table: Table): string {
  const long = table.rows.length > 60;
  const options = table.style === 'grid' ? 'allbox center' : table.style === 'boxed' ? 'box center' : 'center';
  const width = table.align.length;
  const cells = placed(table);
  const bar = table.style === 'boxed' ? ' | ' : ' ';
  const format = (r: number) =>
    Array.from({ length: width }, (_, col) => {
      const covering = cells.find(
        (c) => r >= c.row && r < c.row + c.rowSpan && col >= c.col && col < c.col + c.colSpan,
      )!;
      if (covering.row < r) return '^';
      if (covering.col < col) return 's';
      const source = table.rows[r][cells.filter((c) => c.row === r).indexOf(covering)];
      const letter =
        covering.colSpan > 1
          ? 'c'
          : table.align[col] === 'p'
            ? 'lw(7c)'
            : r < table.headingRows && table.align[col] === 'r'
              ? 'r'
              : table.align[col];
      return source.bold ? `${letter}b` : letter;
    }).join(bar);
  const formats = table.rows.map((_, r) => format(r));
  const line = (r: number) => {
    const parts: string[] = [];
    for (let col = 0; col < width;) {
      const at = cells.find((c) => c.row === r && c.col === col);
      if (!at) {
        parts.push('');
        col++;
        continue;
      }
      const source = table.rows[r][cells.filter((c) => c.row === r).indexOf(at)];
      const text = `${source.indent ? '\\ \\ \\ ' : ''}${troff(at.text)}`;
      parts.push(table.align[col] === 'p' && at.text.length > 30 ? `T{\n.nh\n.na\n${text}\nT}` : text);
      col += at.colSpan;
    }
    return parts.join('\t');
  };
  const rule = (r: number) => {
    if (table.style === 'booktabs') return r === table.headingRows - 1 ? '_\n' : '';
    if (table.style === 'lines') return cells.some((c) => c.row <= r && c.row + c.rowSpan > r + 1) ? '' : '_\n';
    if (table.style === 'boxed') return r === table.headingRows - 1 ? '=\n' : '';
    return '';
  };
  const edge = table.style === 'booktabs' || table.style === 'lines' ? '_\n' : '';
  const head = table.rows
    .slice(0, table.headingRows)
    .map((_, r) => `${line(r)}\n${rule(r)}`)
    .join('');
  const body = table.rows
    .slice(table.headingRows)
    .map((_, r) => `${line(r + table.headingRows)}\n${rule(r + table.headingRows)}`)
    .join('');
  const title = table.title ? `.ce\n${troff(table.title)}\n` : '';
  const inner = `${options};\n${formats.slice(0, -1).join('\n')}\n${formats.at(-1)}.\n${edge}${head}${long && table.repeats ? '.TH\n' : ''}${body}${table.style === 'booktabs' ? '_\n' : ''}`;
  if (long) return `.LP\n${title}.TS${table.repeats ? ' H' : ''}\n${inner}.TE`;
  return `.KS\n${table.titleBelow ? '' : title}${table.tight ? '.ps 7\n' : ''}.TS\n${inner}.TE\n${table.titleBelow ? title : ''}.KE`;
}

export const groff: Writer = {
  name: 'groff',
  write(paper, folder, base) {
    const blocks = paper.blocks.map((block) => {
      switch (block.kind) {
        case 'table':
          return troffTable(block);
        case 'heading':
          return `.SH\n${troff(block.text)}`;
        case 'prose':
          return `.PP\n${troff(block.text)}`;
        case 'points':
          return block.texts.map((t, i) => `.IP ${block.numbered ? `${i + 1}.` : '\\(bu'} 3\n${troff(t)}`).join('\n');
        case 'code':
          return `.DS I\n.ft CR\n${block.lines.map(troff).join('\n')}\n.ft R\n.DE`;
        case 'formula':
          return `.DS C\n${troff(block.plain)}\n.DE`;
        case 'references':
          return `.SH\nReferences\n${block.texts.map((t) => `.XP\n${troff(t)}`).join('\n')}`;
      }
    });
    writeFileSync(join(folder, `${base}.ms`), `.nh\n${paper.twoColumns ? '.2C\n' : ''}${blocks.join('\n')}\n`);
    const made = spawnSync('groff', ['-k', '-t', '-ms', '-Tpdf', `${base}.ms`], { cwd: folder, maxBuffer: 1 << 26 });
    if (made.status !== 0 || made.stdout.length === 0) throw new Error(`groff failed: ${made.stderr}`);
    writeFileSync(join(folder, `${base}.pdf`), made.stdout);
  },
};

// --- HTML ------------------------------------------------------------------------------------------------------------

/** The fonts that every reader has by itself know no minus sign. */
const plainMinus = (text: string) => text.replace(/−/g, '-');

const html = (text: string) => text.replace(/&/g, '&amp;').replace(/</g, '&lt;').replace(/>/g, '&gt;');

function htmlCell(table: Table, cell: Cell, at: { row: number; col: number }, tag: string): string {
  const align = { l: 'left', r: 'right', c: 'center', p: 'left' }[table.align[at.col]] ?? 'left';
  const side = (cell.columns ?? 1) > 1 ? 'center' : align;
  const spans = `${cell.columns ? ` colspan="${cell.columns}"` : ''}${cell.rows ? ` rowspan="${cell.rows}"` : ''}`;
  return `<${tag}${spans} style="text-align:${side}${cell.bold ? ';font-weight:bold' : ''}${cell.indent ? ';padding-left:18px' : ''}">${html(cell.text)}</${tag}>`;
}

function htmlTable(table: Table): string {
  const cells = placed(table);
  const rows = table.rows.map((row, r) => {
    const own = cells.filter((c) => c.row === r);
    return `<tr>${row.map((cell, i) => htmlCell(table, cell, own[i], r < table.headingRows ? 'th' : 'td')).join('')}</tr>`;
  });
  const head = rows.slice(0, table.headingRows).join('');
  const body = rows.slice(table.headingRows).join('');
  const title = table.title ? `<p class="title">${html(table.title)}</p>` : '';
  const inner =
    table.repeats === false ? `<tbody>${head}${body}</tbody>` : `<thead>${head}</thead><tbody>${body}</tbody>`;
  const whole = `<table class="${table.style} ${table.tight ? 'tight' : ''}">${inner}</table>`;
  return `<div class="${table.rows.length > 60 ? '' : 'keep'}">${table.titleBelow ? whole + title : title + whole}</div>`;
}

export const pageOf = (paper: Paper) => `<!doctype html><html lang="en"><head><meta charset="utf-8"><style>
@page { size: A4; margin: 20mm 18mm; }
body { font: 10pt/1.35 "DejaVu Serif", serif; ${paper.twoColumns ? 'columns: 2; column-gap: 8mm; font-size: 8.5pt;' : ''} text-align: justify; margin: 0 }
.keep { break-inside: avoid } .title { font-weight: bold; font-size: 9pt; margin: 8pt 0 3pt; text-align: left }
table { border-collapse: collapse; font: 8.5pt "DejaVu Sans", sans-serif; margin: 2pt 0 8pt }
td, th { padding: 2pt 6pt; vertical-align: top; font-weight: normal } .tight td, .tight th { padding: 1pt 2pt; font-size: 6.5pt }
${paper.twoColumns ? 'table { font-size: 6.8pt } td, th { padding: 1.5pt 3pt }' : ''}
.grid td, .grid th { border: 0.6pt solid #444 } .lines tr > * { border-bottom: 0.5pt solid #888 }
.booktabs { border-top: 1pt solid #000; border-bottom: 1pt solid #000 } .booktabs thead { border-bottom: 0.6pt solid #000 }
.boxed { border: 1pt solid #000 } .boxed td, .boxed th { border-left: 0.5pt solid #000 } .boxed thead { border-bottom: 1pt solid #000 }
.zebra tbody tr:nth-child(odd) { background: #e9eef2 } pre { font: 8pt "DejaVu Sans Mono", monospace }
</style></head><body>${paper.blocks
  .map((block) => {
    switch (block.kind) {
      case 'table':
        return htmlTable(block);
      case 'heading':
        return `<h2>${html(block.text)}</h2>`;
      case 'prose':
        return `<p>${html(block.text)}</p>`;
      case 'points':
        return `<${block.numbered ? 'ol' : 'ul'}>${block.texts.map((t) => `<li>${html(t)}</li>`).join('')}</${block.numbered ? 'ol' : 'ul'}>`;
      case 'code':
        return `<pre>${html(block.lines.join('\n'))}</pre>`;
      case 'formula':
        return `<p style="text-align:center;font-style:italic">${html(block.plain)}</p>`;
      case 'references':
        return `<h3>References</h3>${block.texts.map((t) => `<p style="padding-left:14pt;text-indent:-14pt;margin:2pt 0">${html(t)}</p>`).join('')}`;
    }
  })
  .join('\n')}</body></html>`;

export const weasyprint: Writer = {
  name: 'weasyprint',
  write(paper, folder, base) {
    writeFileSync(join(folder, `${base}.html`), pageOf(paper));
    run('weasyprint', ['-q', `${base}.html`, `${base}.pdf`], folder);
  },
};

export const chromium: Writer = {
  name: 'chromium',
  write(paper, folder, base) {
    writeFileSync(join(folder, `${base}.html`), pageOf(paper));
    run(
      'chromium',
      [
        '--headless',
        '--no-sandbox',
        '--disable-gpu',
        '--disable-background-networking',
        '--no-first-run',
        '--no-pdf-header-footer',
        `--print-to-pdf=${base}.pdf`,
        `file://${join(folder, `${base}.html`)}`,
      ],
      folder,
    );
  },
};

// --- XSL-FO ----------------------------------------------------------------------------------------------------------

function foTable(table: Table, narrow: boolean): string {
  const cells = placed(table);
  const edge = table.style === 'grid' ? 'border="0.5pt solid black"' : '';
  const size = table.tight ? 6.5 : narrow ? 7 : 8.5;
  const total = narrow ? 84 : 172;
  const weight = [...table.align].map((a, i) => (a === 'p' ? 6 : i === 0 ? 2.2 : 1));
  const sum = weight.reduce((a, b) => a + b, 0);
  const columns = weight
    .map(
      (w) =>
        `<fo:table-column column-width="${((w / sum) * Math.min(total, table.tight ? 110 : total)).toFixed(1)}mm"/>`,
    )
    .join('');
  const rowOf = (r: number) => {
    const own = cells.filter((c) => c.row === r);
    const lines = table.style === 'lines' ? ' border-bottom="0.4pt solid black"' : '';
    const shade =
      table.style === 'zebra' && r >= table.headingRows && (r - table.headingRows) % 2 === 0
        ? ' background-color="#e8e8e8"'
        : '';
    return `<fo:table-row${shade}>${table.rows[r]
      .map((cell, i) => {
        const align = { l: 'start', p: 'start', c: 'center', r: 'end' }[table.align[own[i].col]];
        const side = (cell.columns ?? 1) > 1 ? 'center' : align;
        const upright = table.style === 'boxed' && own[i].col > 0 ? ' border-left="0.4pt solid black"' : '';
        return `<fo:table-cell padding="1.6pt 3pt" ${edge}${lines}${upright}${cell.columns ? ` number-columns-spanned="${cell.columns}"` : ''}${cell.rows ? ` number-rows-spanned="${cell.rows}"` : ''}><fo:block text-align="${side}"${cell.bold ? ' font-weight="bold"' : ''}${cell.indent ? ' start-indent="10pt"' : ''}>${html(plainMinus(cell.text))}</fo:block></fo:table-cell>`;
      })
      .join('')}</fo:table-row>`;
  };
  const all = table.rows.map((_, r) => rowOf(r));
  const border =
    table.style === 'booktabs'
      ? ' border-top="1pt solid black" border-bottom="1pt solid black"'
      : table.style === 'boxed'
        ? ' border="0.8pt solid black"'
        : '';
  const headEdge = table.style === 'booktabs' || table.style === 'boxed' ? ' border-bottom="0.5pt solid black"' : '';
  const title = table.title
    ? `<fo:block font-weight="bold" space-before="6pt" keep-with-next="always" text-align="start" font-size="9pt">${html(table.title)}</fo:block>`
    : '';
  const long = table.rows.length > 60;
  const whole = `<fo:table table-layout="fixed" width="100%"${border} font-family="sans-serif" font-size="${size}pt" space-after="8pt"${long && !table.repeats ? ' table-omit-header-at-break="true"' : ''}>${columns}<fo:table-header${headEdge}>${all.slice(0, table.headingRows).join('')}</fo:table-header><fo:table-body>${all.slice(table.headingRows).join('')}</fo:table-body></fo:table>`;
  return `<fo:block${long ? '' : ' keep-together.within-page="always"'}>${table.titleBelow ? whole + title : title + whole}</fo:block>`;
}

export const fop: Writer = {
  name: 'fop',
  write(paper, folder, base) {
    const blocks = paper.blocks.map((block) => {
      switch (block.kind) {
        case 'table':
          return foTable(block, paper.twoColumns === true);
        case 'heading':
          return `<fo:block font-size="14pt" font-weight="bold" space-before="8pt" space-after="4pt">${html(block.text)}</fo:block>`;
        case 'prose':
          return `<fo:block text-align="justify" space-after="5pt">${html(block.text)}</fo:block>`;
        case 'points':
          return `<fo:list-block provisional-distance-between-starts="14pt">${block.texts.map((t, i) => `<fo:list-item><fo:list-item-label end-indent="label-end()"><fo:block>${block.numbered ? `${i + 1}.` : '•'}</fo:block></fo:list-item-label><fo:list-item-body start-indent="body-start()"><fo:block>${html(t)}</fo:block></fo:list-item-body></fo:list-item>`).join('')}</fo:list-block>`;
        case 'code':
          return `<fo:block font-family="monospace" font-size="8pt" white-space-treatment="preserve" white-space-collapse="false" linefeed-treatment="preserve">${html(block.lines.join('\n'))}</fo:block>`;
        case 'formula':
          return `<fo:block text-align="center">${html(block.plain)}</fo:block>`;
        case 'references':
          return block.texts
            .map((t) => `<fo:block start-indent="14pt" text-indent="-14pt" font-size="8pt">${html(t)}</fo:block>`)
            .join('');
      }
    });
    const columns = paper.twoColumns ? ' column-count="2" column-gap="8mm"' : '';
    const source = `<?xml version="1.0" encoding="UTF-8"?><fo:root xmlns:fo="http://www.w3.org/1999/XSL/Format"><fo:layout-master-set><fo:simple-page-master master-name="a" page-height="297mm" page-width="210mm" margin="18mm"><fo:region-body margin-bottom="8mm"${columns}/><fo:region-after extent="6mm"/></fo:simple-page-master></fo:layout-master-set><fo:page-sequence master-reference="a"><fo:static-content flow-name="xsl-region-after"><fo:block text-align="center" font-size="8pt">– <fo:page-number/> –</fo:block></fo:static-content><fo:flow flow-name="xsl-region-body" font-family="serif" font-size="${paper.twoColumns ? 8.5 : 10}pt">${blocks.join('')}</fo:flow></fo:page-sequence></fo:root>`;
    writeFileSync(join(folder, `${base}.fo`), source);
    run('fop', ['-q', '-fo', `${base}.fo`, '-pdf', `${base}.pdf`], folder);
  },
};

// --- A line printer --------------------------------------------------------------------------------------------------

/** Fixed pitch, a page of 60 lines, dashes for rules: what host systems print to a file. */
export const linePrinter: Writer = {
  name: 'line-printer',
  write(paper, folder, base) {
    const lines: string[] = [];
    const wrap = (text: string, width: number) =>
      text
        .split(' ')
        .reduce<string[]>(
          (out, word) =>
            (out.at(-1) ?? '').length + word.length < width && out.length
              ? [...out.slice(0, -1), `${out.at(-1)} ${word}`]
              : [...out, word],
          [],
        );
    for (const block of paper.blocks) {
      if (block.kind === 'table') lines.push(...plainTable(block), '');
      else if (block.kind === 'heading') lines.push(block.text.toUpperCase(), '');
      else if (block.kind === 'prose') lines.push(...wrap(block.text, 92), '');
      else if (block.kind === 'points')
        lines.push(
          ...block.texts.flatMap((t, i) =>
            wrap(t, 88).map((l, n) => `${n === 0 ? (block.numbered ? `${i + 1}.` : '- ') : '  '} ${l}`),
          ),
          '',
        );
      else if (block.kind === 'code') lines.push(...block.lines, '');
    }
    const pages: string[][] = [];
    for (let i = 0; i < lines.length; i += 60) pages.push(lines.slice(i, i + 60));
    const show = (text: string, i: number) =>
      `40 ${800 - i * 12.2} moveto (${text
        .replace(/[\\()]/g, '\\$&')
        .replace(/[−–]/g, '-')
        .replace(/³/g, '3')}) show`;
    const source = `%!PS\n${pages.map((page) => `/Courier findfont 9 scalefont setfont\n${page.map(show).join('\n')}\nshowpage`).join('\n')}\n`;
    writeFileSync(join(folder, `${base}.ps`), source);
    run(
      'gs',
      [
        '-q',
        '-dNOPAUSE',
        '-dBATCH',
        '-dSAFER',
        '-sPAPERSIZE=a4',
        '-sDEVICE=pdfwrite',
        `-sOutputFile=${base}.pdf`,
        `${base}.ps`,
      ],
      folder,
    );
  },
};

function plainTable(table: Table): string[] {
  const cells = placed(table);
  const width = table.align.length;
  const sizes = Array.from({ length: width }, (_, col) =>
    Math.max(3, ...cells.filter((c) => c.col === col && c.colSpan === 1).map((c) => c.text.length)),
  );
  const gap = 2;
  const across = sizes.reduce((a, b) => a + b, 0) + gap * (width - 1);
  const lines = table.rows.map((_, r) => {
    let line = '';
    let from = 0;
    for (let col = 0; col < width;) {
      const at = cells.find((c) => c.row === r && c.col === col);
      const span = at?.colSpan ?? 1;
      const size = sizes.slice(col, col + span).reduce((a, b) => a + b, 0) + gap * (span - 1);
      const source = at && table.rows[r][cells.filter((c) => c.row === r).indexOf(at)];
      const text = `${source?.indent ? '  ' : ''}${at?.text ?? ''}`;
      const left = span > 1 ? Math.floor((size - text.length) / 2) : table.align[col] === 'r' ? size - text.length : 0;
      line = `${line.padEnd(from)}${' '.repeat(Math.max(0, left))}${text}`;
      from += size + gap;
      col += span;
    }
    return line;
  });
  const rule = (table.style === 'booktabs' ? '=' : '-').repeat(across);
  const ruled = table.style !== 'plain';
  return [
    ...(table.title && !table.titleBelow ? [table.title] : []),
    ...(ruled ? [rule] : []),
    ...lines.slice(0, table.headingRows),
    ...(ruled ? [rule] : []),
    ...lines.slice(table.headingRows),
    ...(ruled ? [rule] : []),
    ...(table.title && table.titleBelow ? [table.title] : []),
  ];
}

export const readText = (folder: string, base: string, page: number): string => {
  const done = spawnSync('pdftotext', ['-f', String(page), '-l', String(page), '-raw', `${base}.pdf`, '-'], {
    cwd: folder,
    encoding: 'utf8',
  });
  return done.stdout;
};

export const pageCount = (folder: string, base: string): number =>
  Number(/Pages:\s+(\d+)/.exec(spawnSync('pdfinfo', [`${base}.pdf`], { cwd: folder, encoding: 'utf8' }).stdout)![1]);
