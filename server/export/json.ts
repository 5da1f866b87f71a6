import { isErrorCell, type OutRow } from './out-row';
import type { OutColumn } from './out-rows';
import type { Head, Writer } from './writer';

const encoder = new TextEncoder();

/** A row as JSON, by headings: numbers as numbers, calendar values as ISO text, error cells as null and told under "$problems". */
export function jsonRow({ cells }: OutRow, keys: readonly string[], columns: readonly OutColumn[]): string {
  let text = '{';
  let problems = '';
  cells.forEach((cell, i) => {
    const wrong = cell !== null && isErrorCell(cell);
    text += `${i > 0 ? ',' : ''}${keys[i]}:${JSON.stringify(wrong ? null : cell)}`;
    if (wrong)
      problems += `${problems === '' ? '' : ','}${JSON.stringify(columns[i].heading)}:${JSON.stringify(cell.text)}`;
  });
  return `${text}${problems === '' ? '' : `,"$problems":{${problems}}`}}`;
}

export const jsonKeys = (columns: readonly OutColumn[]): string[] =>
  columns.map(({ heading }) => JSON.stringify(heading));

/** One JSON object a line (JSON Lines), or all in one array. */
export class JsonWriter implements Writer {
  private readonly keys: readonly string[];
  private any = false;

  constructor(
    private readonly head: Head,
    private readonly lines: boolean,
  ) {
    this.keys = jsonKeys(head.columns);
  }

  async rows(piece: readonly OutRow[]): Promise<Uint8Array> {
    const rows = piece.map((row) => jsonRow(row, this.keys, this.head.columns));
    if (this.lines) return encoder.encode(rows.map((row) => `${row}\n`).join(''));
    const before = this.any ? ',\n' : '[\n';
    this.any ||= rows.length > 0;
    return encoder.encode(rows.length > 0 ? before + rows.join(',\n') : '');
  }

  async end(): Promise<Uint8Array> {
    return encoder.encode(this.lines ? '' : this.any ? '\n]\n' : '[]\n');
  }
}
