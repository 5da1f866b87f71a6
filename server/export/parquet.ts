import { ByteWriter, ParquetWriter } from 'hyparquet-writer';
import { scaled } from '../../core/values/exact';
import { isErrorCell, type OutCell, type OutRow } from './out-row';
import type { OutColumn } from './out-rows';
import { totalsInWords } from './provenance';
import type { Head, Writer } from './writer';

type SchemaElement = ConstructorParameters<typeof ParquetWriter>[0]['schema'][number];

/** Rows that stand in one row group: what a reader must unpack at least, and all that is kept while writing. */
const groupRows = 50_000;

/** A DECIMAL in 64 bits has at most so many digits (Parquet format, logical types). */
const mostDigits = 18;

type Value = bigint | number | string | boolean | null;

/** Whole numbers up to here are what they were rounded to. */
const safely = 2 ** 51;

/** A number as so many of its last digits; most take the short way, which is exact as long as they are small. */
function unscaled(value: number, digits: number): bigint {
  const whole = value * 10 ** digits;
  return Math.abs(whole) < safely ? BigInt(Math.round(whole)) : scaled(value, digits);
}

/** How a column stands in the file: exact decimals, days since 1970, microseconds; texts in UTF-8. */
export function parquetColumn({ heading, type, digits = 0, whole = 1 }: OutColumn): {
  schema: SchemaElement;
  value: (cell: Exclude<OutCell, object | null>) => Value;
} {
  const base = { name: heading, repetition_type: 'OPTIONAL' } as const;
  switch (type) {
    case 'integer':
      return { schema: { ...base, type: 'INT64' }, value: (cell) => BigInt(cell) };
    case 'decimal':
    case 'percent':
      if (digits + whole > mostDigits) return { schema: { ...base, type: 'DOUBLE' }, value: Number };
      return {
        schema: { ...base, type: 'INT64', converted_type: 'DECIMAL', scale: digits, precision: mostDigits },
        value: (cell) => unscaled(Number(cell), digits),
      };
    case 'date':
      return {
        schema: { ...base, type: 'INT32', converted_type: 'DATE' },
        value: (cell) => Math.round(Date.parse(`${String(cell)}T00:00:00Z`) / 86_400_000),
      };
    case 'time':
      return {
        schema: { ...base, type: 'INT64', converted_type: 'TIME_MICROS' },
        value: (cell) => BigInt(Date.parse(`1970-01-01T${String(cell)}Z`)) * 1000n,
      };
    case 'datetime':
      return {
        schema: { ...base, type: 'INT64', converted_type: 'TIMESTAMP_MICROS' },
        value: (cell) => BigInt(Date.parse(`${String(cell).replace(' ', 'T')}Z`)) * 1000n,
      };
    case 'boolean':
      return { schema: { ...base, type: 'BOOLEAN' }, value: (cell) => cell === true || cell === 'true' };
    case 'text':
    case 'period':
      return { schema: { ...base, type: 'BYTE_ARRAY', converted_type: 'UTF8' }, value: String };
  }
}

/** A Parquet file with exact decimals, dates and nulls; error cells are null, and counted in the file's metadata. */
export class ParquetFile implements Writer {
  private readonly out = new ByteWriter();
  private readonly columns: readonly ReturnType<typeof parquetColumn>[];
  private readonly writer: ParquetWriter;
  private values: Value[][];

  constructor(private readonly head: Head) {
    this.columns = head.columns.map(parquetColumn);
    this.values = head.columns.map(() => []);
    const { provenance } = head;
    this.writer = new ParquetWriter({
      writer: this.out,
      schema: [{ name: 'root', num_children: head.columns.length }, ...this.columns.map(({ schema }) => schema)],
      createdBy: 'Able Sieve',
      kvMetadata: [
        { key: 'dataset', value: provenance.dataset },
        { key: 'published at', value: provenance.publishedAt },
        { key: 'error cells', value: String(provenance.errorCells) },
        { key: 'printed totals', value: totalsInWords(provenance) },
        {
          key: 'units',
          value: JSON.stringify(
            Object.fromEntries(head.columns.flatMap(({ heading, unit }) => (unit ? [[heading, unit]] : []))),
          ),
        },
        { key: 'provenance', value: JSON.stringify({ ...provenance, totals: undefined }) },
      ],
    });
  }

  async rows(piece: readonly OutRow[]): Promise<Uint8Array> {
    for (const { cells } of piece)
      cells.forEach((cell, i) =>
        this.values[i].push(cell === null || isErrorCell(cell) ? null : this.columns[i].value(cell)),
      );
    if ((this.values[0]?.length ?? 0) >= groupRows) await this.group();
    return this.taken();
  }

  async end(): Promise<Uint8Array> {
    await this.group();
    await this.writer.finish();
    return this.taken();
  }

  /** What was written since it was last taken; the places that the file tells of its own count on. */
  private taken(): Uint8Array {
    const bytes = this.out.getBytes().slice();
    this.out.index = 0;
    return bytes;
  }

  private async group(): Promise<void> {
    const columnData = this.values.map((data, i) => ({ name: this.head.columns[i].heading, data }));
    this.values = this.columns.map(() => []);
    if ((columnData[0]?.data.length ?? 0) > 0) await this.writer.write({ columnData, rowGroupSize: groupRows * 2 });
  }
}
