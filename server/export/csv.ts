// The dataset as delimited text. The database writes the rows itself: it is by far the fastest at it.
import { isNumeric } from '../../core/sheet/column';
import type { CsvDialect } from '../../core/dataset/file-options';
import type { Publication } from '../store/dataset';
import type { DatasetColumn } from '../store/data-table';
import { literal, quoted, type Store } from '../store/store';
import { copyOf, type RowsAsked } from './out-rows';

/**
 * Texts that a spreadsheet would take for a formula get an apostrophe in front (OWASP, CSV injection): also behind blanks, which some
 * take away, and with the wide signs of East Asian print. What is a number as it stands, or a sign alone, is none.
 */
const blanks = ' \n\u00a0\u3000';
const looksLikeFormula = new RegExp(`^(?:[\t\r]|[${blanks}]*[=+@＝＋－＠-])`);
const isPlain = new RegExp(`^[${blanks}]*[-+]?[0-9.,]*$`);
export const guarded = (text: string): string =>
  looksLikeFormula.test(text) && !isPlain.test(text) ? `'${text}` : text;
const guardedSql = (cell: string) =>
  `case when ${cell} ~ ${literal(looksLikeFormula.source)} and ${cell} !~ ${literal(isPlain.source)} then '''' || ${cell} else ${cell} end`;

function cellSql({ identifier, type }: DatasetColumn, { decimalMark, guard }: CsvDialect): string {
  const cell = `d.${quoted(identifier)}`;
  if (isNumeric(type)) return decimalMark === ',' ? `replace(${cell}::text, '.', ',')` : cell;
  if (type === 'text' && guard) return guardedSql(cell);
  return type === 'boolean' ? `${cell}::text` : cell;
}

/** What did not fit its column, beside the row: a blank cell alone would not say so. */
const problemsSql = (columns: readonly DatasetColumn[], { guard }: CsvDialect): string => {
  const told = `(select string_agg(case p.identifier ${columns.map(({ identifier, heading }) => `when ${literal(identifier)} then ${literal(`${heading}: `)}`).join(' ')} end || p.text, '; ' order by p.identifier) from dataset_problem p where p.part = d.part and p.ordinal = d.ordinal and p.identifier in (${columns.map(({ identifier }) => literal(identifier)).join(', ')}))`;
  return guard ? guardedSql(told) : told;
};

const traceHeadings = ['Report', 'Page', 'Problems'];

/** A heading as a value of the first line. */
function headingText(heading: string, { separator, quoteAll, guard }: CsvDialect): string {
  const text = guard ? guarded(heading) : heading;
  return quoteAll || /["\r\n]/.test(text) || text.includes(separator) ? `"${text.replaceAll('"', '""')}"` : text;
}

/** The published rows as delimited text in pieces, the headings first. Error cells are blank. @param places rows by their number, in the order wanted */
export async function* csv(
  store: Store,
  publication: Publication,
  dialect: CsvDialect,
  { columns = publication.columns, ...rows }: RowsAsked & { columns?: readonly DatasetColumn[] } = {},
): AsyncGenerator<Uint8Array | string> {
  const headings = [...columns.map(({ heading }) => heading), ...(dialect.trace ? traceHeadings : [])];
  const lineEnd = dialect.lineEnds === 'crlf' ? '\r\n' : '\n';
  yield `${dialect.mark ? '\ufeff' : ''}${headings.map((heading) => headingText(heading, dialect)).join(dialect.separator)}${lineEnd}`;
  const cells = [
    ...columns.map((column) => cellSql(column, dialect)),
    ...(dialect.trace
      ? [dialect.guard ? guardedSql('r.path') : 'r.path', 'd.page', problemsSql(columns, dialect)]
      : []),
  ];
  const ended = new LineEnds();
  for await (const piece of copyOf(store, publication, cells, {
    ...rows,
    separator: dialect.separator,
    quoteAll: dialect.quoteAll,
  }))
    yield dialect.lineEnds === 'crlf' ? ended.inDos(piece) : piece;
}

/** Writes line ends of rows in another way; those inside quoted values stay. */
class LineEnds {
  private quoted = false;

  inDos(bytes: Uint8Array): Uint8Array {
    let ends = 0;
    for (const byte of bytes) if (byte === 10) ends++;
    const out = new Uint8Array(bytes.length + ends);
    let at = 0;
    for (const byte of bytes) {
      if (byte === 34) this.quoted = !this.quoted;
      if (byte === 10 && !this.quoted) out[at++] = 13;
      out[at++] = byte;
    }
    return out.subarray(0, at);
  }
}
