/** What a test page says, before a writer sets it: a list of blocks whose tables are known cell by cell. */
export interface Cell {
  readonly text: string;
  readonly columns?: number;
  readonly rows?: number;
  readonly bold?: boolean;
  readonly indent?: boolean;
}

export type Style = 'grid' | 'booktabs' | 'lines' | 'plain' | 'zebra' | 'boxed';

export interface Table {
  readonly kind: 'table';
  readonly title?: string;
  readonly titleBelow?: boolean;
  readonly style: Style;
  /** One letter a column: left, right, centre, or p for wrapped text. */
  readonly align: string;
  readonly headingRows: number;
  readonly rows: readonly (readonly Cell[])[];
  /** The heading is printed again on each page. */
  readonly repeats?: boolean;
  /** Small type and tight columns. */
  readonly tight?: boolean;
}

export type Block =
  | Table
  | { readonly kind: 'heading'; readonly text: string }
  | { readonly kind: 'prose'; readonly text: string }
  | { readonly kind: 'points'; readonly texts: readonly string[]; readonly numbered?: boolean }
  | { readonly kind: 'code'; readonly lines: readonly string[] }
  | { readonly kind: 'formula'; readonly latex: string; readonly plain: string }
  | { readonly kind: 'references'; readonly texts: readonly string[] };

export interface Paper {
  readonly name: string;
  readonly twoColumns?: boolean;
  readonly blocks: readonly Block[];
}

/** Where each cell stands: row and column of its first place, spans taken into account. */
export function placed(table: Table): { row: number; col: number; rowSpan: number; colSpan: number; text: string }[] {
  const taken = new Set<string>();
  return table.rows.flatMap((cells, row) => {
    let col = 0;
    return cells.map((cell) => {
      while (taken.has(`${row} ${col}`)) col++;
      const at = { row, col, rowSpan: cell.rows ?? 1, colSpan: cell.columns ?? 1, text: cell.text };
      for (let r = 0; r < at.rowSpan; r++) for (let c = 0; c < at.colSpan; c++) taken.add(`${row + r} ${col + c}`);
      col += at.colSpan;
      return at;
    });
  });
}
