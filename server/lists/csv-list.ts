import { CsvError, parse } from 'csv-parse/sync';
import type { List } from '../../core/sheet/list';
import { listOf, NotAList } from './list-of';

const separators = [',', ';', '\t', '|'];

/** The mark that parts the heading line most often, outside quotes. */
function separatorOf(heading: string): string {
  const plain = heading.replace(/"(?:[^"]|"")*"/g, '');
  const counts = separators.map((mark) => plain.split(mark).length);
  return separators[counts.indexOf(Math.max(...counts))];
}

/** The text of a file; byte order marks say how it is written. */
function textOf(bytes: Uint8Array, name: string): string {
  const utf16 =
    bytes[0] === 0xff && bytes[1] === 0xfe
      ? 'utf-16le'
      : bytes[0] === 0xfe && bytes[1] === 0xff
        ? 'utf-16be'
        : undefined;
  try {
    return new TextDecoder(utf16 ?? 'utf-8', { fatal: true }).decode(bytes);
  } catch {
    throw new NotAList(`${name} is not written in UTF-8. Save it as CSV in UTF-8 and upload it again.`);
  }
}

/**
 * The rows of a CSV file as texts, the first line being the names of its columns; parted by commas, semicolons, tabs or bars.
 * @throws NotAList
 */
export function listFromCsv(bytes: Uint8Array, name: string): List {
  const text = textOf(bytes, name);
  const first = /^.*/.exec(text)![0];
  let lines: string[][];
  try {
    lines = parse(text, { delimiter: separatorOf(first), skip_empty_lines: true, relax_column_count: false });
  } catch (error) {
    if (!(error instanceof CsvError)) throw error;
    const { lines: line = 0 } = error as unknown as { lines?: number };
    throw new NotAList(
      error.code === 'CSV_RECORD_INCONSISTENT_FIELDS_LENGTH'
        ? `Line ${line} of ${name} has another number of values than its first line. Mend it and upload it again.`
        : `${name} cannot be read as CSV from line ${line} on: a quotation mark is not closed, or stands inside a value. Mend it and upload it again.`,
    );
  }
  return listOf(name, lines);
}
