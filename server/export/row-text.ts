// Rows as the database copies them out, and as cells: copying is several times as fast as asking for values one by one.
import { isNumeric, type ValueType } from '../../core/sheet/column';
import type { DatasetColumn } from '../store/data-table';
import type { ErrorCell, OutCell, OutRow } from './out-row';

/** Some rows, not taken apart yet: part, ordinal, report and page of each, then its cells. */
export interface RowText {
  readonly csv: Uint8Array;
  /** Texts that did not fit their column, by part, ordinal and identifier. */
  readonly problems: readonly (readonly [key: string, problem: ErrorCell])[];
}

export const problemKey = (part: number | string, ordinal: number | string, identifier: string): string =>
  `${part} ${ordinal} ${identifier}`;

const placeFields = 4;
const comma = 44;
const quote = 34;
const lineEnd = 10;

const decoder = new TextDecoder();

/** The rows of a piece as cells. An empty value that is not quoted is none. */
export function rowsFrom(
  { csv, problems }: RowText,
  columns: readonly Pick<DatasetColumn, 'identifier' | 'type'>[],
): OutRow[] {
  const problemAt = new Map(problems);
  const text = decoder.decode(csv);
  const rows: OutRow[] = [];
  const kinds = columns.map(({ type }) => kindOf(type));
  let at = 0;
  while (at < text.length) {
    const place: string[] = [];
    const cells: OutCell[] = [];
    for (let field = 0; ; field++) {
      let value: string | null;
      if (text.charCodeAt(at) === quote) {
        let end = text.indexOf('"', at + 1);
        let doubled = false;
        while (text.charCodeAt(end + 1) === quote) {
          doubled = true;
          end = text.indexOf('"', end + 2);
        }
        value = text.slice(at + 1, end);
        if (doubled) value = value.replaceAll('""', '"');
        at = end + 1;
      } else {
        const from = at;
        for (
          let code = text.charCodeAt(at);
          at < text.length && code !== comma && code !== lineEnd;
          code = text.charCodeAt(++at)
        );
        value = from === at ? null : text.slice(from, at);
      }
      if (field < placeFields) place.push(value ?? '');
      else cells.push(cellOf(value, kinds[field - placeFields]));
      const ends = text.charCodeAt(at) !== comma;
      at++;
      if (ends) break;
    }
    const [part, ordinal, report, page] = place;
    if (problemAt.size > 0)
      cells.forEach(
        (cell, i) =>
          cell === null && (cells[i] = problemAt.get(problemKey(part, ordinal, columns[i].identifier)) ?? null),
      );
    rows.push({ report, page: Number(page), cells });
  }
  return rows;
}

type Kind = 'number' | 'boolean' | 'text';
const kindOf = (type: ValueType): Kind => (isNumeric(type) ? 'number' : type === 'boolean' ? 'boolean' : 'text');
const cellOf = (value: string | null, kind: Kind): OutCell =>
  value === null || kind === 'text' ? value : kind === 'number' ? Number(value) : value === 'true';
