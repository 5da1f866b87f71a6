import { isCovered, sideOf, type Block, type Paper, type Row, type Sheet } from './sheet';

const escaped = (text: string) =>
  text
    .replace(/&/g, '&amp;')
    .replace(/</g, '&lt;')
    .replace(/>/g, '&gt;')
    .replace(/"/g, '&quot;')
    .replace(/ {2,}/g, ' ');

/** Width of a letter of the font, in sizes. */
const letter = 0.56;
/** Room at both sides of a cell's text, in points. */
const padding = 4;

/** Which width a column needs for its texts, in points; columns are shared by all sheets that stand in them. */
function widthsOf(sheets: readonly Sheet[]): number[] {
  const count = Math.max(1, ...sheets.map(({ columns }) => columns.length));
  return Array.from({ length: count }, (_, column) =>
    Math.max(
      24,
      ...sheets.flatMap((sheet) =>
        sheet.rows.flatMap(({ kind, cells }) => {
          const cell = cells[column];
          if (!cell || cell.columns || (kind === 'section' && column === 0)) return [];
          const measure = kind === 'body' ? sheet.columns[column]?.measure : undefined;
          return [
            Math.min(cell.text.length, measure ?? Infinity) *
              letter *
              sheet.size *
              (sheet.rows.some(({ bold }) => bold) ? 1.08 : 1) +
              padding +
              Math.min(10, sheet.gutter / 2),
          ];
        }),
      ),
    ),
  );
}

/** A spreadsheet in the flat open document format. */
export function spreadsheetOf(paper: Paper, wide: boolean): string {
  const sheets = paper.blocks.flatMap((block) => (block.kind === 'sheet' ? [block] : []));
  const widths = widthsOf(sheets);
  const styles = new Map<string, string>();
  const styleOf = (properties: string) => {
    if (!styles.has(properties)) styles.set(properties, `c${styles.size}`);
    return styles.get(properties)!;
  };
  const line = (inner: string) => `<table:table-row table:style-name="row">${inner}</table:table-row>`;
  const plain = (text: string, bold: boolean, size: number) =>
    line(
      `<table:table-cell office:value-type="string" table:style-name="${styleOf(`<style:text-properties fo:font-size="${size}pt"${bold ? ' fo:font-weight="bold"' : ''}/>`)}"><text:p>${escaped(text)}</text:p></table:table-cell>`,
    );
  const prose = (text: string) =>
    line(
      `<table:table-cell office:value-type="string" table:number-columns-spanned="${widths.length}" table:style-name="${styleOf('<style:table-cell-properties fo:wrap-option="wrap"/><style:text-properties fo:font-size="9pt"/>')}"><text:p>${escaped(text)}</text:p></table:table-cell>`,
    );
  const blank = line('<table:table-cell/>');
  const cellOf = (sheet: Sheet, row: Row, r: number, column: number) => {
    if (isCovered(sheet, r, column)) return '<table:covered-table-cell/>';
    const cell = row.cells[column];
    const last = r === sheet.rows.length - 1;
    const { style } = sheet;
    const rule = 'border-RULE="0.5pt solid #222222"';
    const borders = [
      style === 'grid' ? 'fo:border="0.5pt solid #222222"' : '',
      style !== 'grid' &&
      (row.ruleAbove === 'row' ||
        (row.ruleAbove === 'figures' && column > 0 && cell) ||
        (r === sheet.headingRows && style !== 'none') ||
        (r === 0 && (style === 'booktabs' || style === 'box')))
        ? `fo:${rule.replace('RULE', 'top')}`
        : '',
      style !== 'grid' && (style === 'rows' || (last && (style === 'booktabs' || style === 'box')))
        ? `fo:${rule.replace('RULE', 'bottom')}`
        : '',
      style === 'upright' && column > 0 ? `fo:${rule.replace('RULE', 'left')}` : '',
    ].join(' ');
    const shade = row.shaded
      ? '#dfe6e4'
      : style === 'zebra' && row.kind === 'body' && r % 2 === 0
        ? '#eef1f0'
        : undefined;
    const align = { left: 'start', right: 'end', centre: 'center', decimal: 'end' }[sideOf(sheet, row, column, cell)];
    const wraps = sheet.columns[column].measure !== undefined && row.kind === 'body';
    const name = styleOf(
      `<style:table-cell-properties ${borders} style:vertical-align="${cell?.rows ? sheet.levelOfSpans : row.kind === 'heading' ? 'bottom' : sheet.level}"${shade ? ` fo:background-color="${shade}"` : ''}${wraps ? ' fo:wrap-option="wrap"' : ''}/><style:paragraph-properties fo:text-align="${align}"${cell?.indent ? ' fo:margin-left="10pt"' : ''}/><style:text-properties fo:font-size="${sheet.size}pt"${row.bold ? ' fo:font-weight="bold"' : ''}/>`,
    );
    const spans = `${cell?.columns ? ` table:number-columns-spanned="${cell.columns}"` : ''}${cell?.rows ? ` table:number-rows-spanned="${cell.rows}"` : ''}`;
    return `<table:table-cell office:value-type="string" table:style-name="${name}"${spans}>${cell ? `<text:p>${escaped(cell.text)}</text:p>` : ''}</table:table-cell>`;
  };
  const rowsOf = (block: Block): string[] => {
    if (block.kind === 'prose') return [prose(block.text), blank];
    if (block.kind === 'heading') return [plain(block.text, true, 13)];
    if (block.kind === 'address') return [...block.lines.map((text) => plain(text, false, 9)), blank];
    if (block.kind === 'points') return [...block.texts.map((text) => prose(text)), blank];
    if (block.kind !== 'sheet') return [];
    const title = block.title ? [plain(block.title, true, block.size + 1)] : [];
    const body = block.rows.map((row, r) =>
      row.kind === 'spacer' ? blank : line(block.columns.map((_, column) => cellOf(block, row, r, column)).join('')),
    );
    return [
      ...(block.titleBelow ? [] : title),
      ...(block.units ? [plain(block.units, false, block.size)] : []),
      ...body,
      ...(block.titleBelow ? title : []),
      ...block.notes.map((note) => plain(note, false, block.size - 1)),
      blank,
    ];
  };
  const body = paper.blocks.flatMap(rowsOf).join('\n');
  const columns = widths.map((width, i) => ({ name: `w${i}`, width }));
  return `<?xml version="1.0" encoding="UTF-8"?>
<office:document xmlns:office="urn:oasis:names:tc:opendocument:xmlns:office:1.0" xmlns:style="urn:oasis:names:tc:opendocument:xmlns:style:1.0" xmlns:text="urn:oasis:names:tc:opendocument:xmlns:text:1.0" xmlns:table="urn:oasis:names:tc:opendocument:xmlns:table:1.0" xmlns:fo="urn:oasis:names:tc:opendocument:xmlns:xsl-fo-compatible:1.0" office:version="1.2" office:mimetype="application/vnd.oasis.opendocument.spreadsheet">
<office:automatic-styles>
<style:style style:name="row" style:family="table-row"><style:table-row-properties style:use-optimal-row-height="true"/></style:style>
${columns.map(({ name, width }) => `<style:style style:name="${name}" style:family="table-column"><style:table-column-properties style:column-width="${width.toFixed(1)}pt"/></style:style>`).join('\n')}
${[...styles].map(([properties, name]) => `<style:style style:name="${name}" style:family="table-cell">${properties}</style:style>`).join('\n')}
<style:style style:name="ta1" style:family="table" style:master-page-name="Default"/>
<style:page-layout style:name="pm1"><style:page-layout-properties fo:page-width="${wide ? '29.7cm' : '21cm'}" fo:page-height="${wide ? '21cm' : '29.7cm'}" style:print-orientation="${wide ? 'landscape' : 'portrait'}" fo:margin="1.6cm" style:scale-to-X="1" style:scale-to-Y="0"/></style:page-layout>
</office:automatic-styles>
<office:master-styles><style:master-page style:name="Default" style:page-layout-name="pm1"/></office:master-styles>
<office:body><office:spreadsheet><table:table table:name="Sheet" table:style-name="ta1">
${columns.map(({ name }) => `<table:table-column table:style-name="${name}"/>`).join('')}
${body}
</table:table></office:spreadsheet></office:body></office:document>
`;
}
