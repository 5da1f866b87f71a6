import * as v from 'valibot';

/** How a file is written; the address of a way out and the document of a pipeline say it in the same words. */
const yes = v.pipe(
  v.union([v.boolean(), v.picklist(['yes', 'no', 'true', 'false', '1', '0'])]),
  v.transform((said) => (typeof said === 'boolean' ? said : ['yes', 'true', '1'].includes(said))),
);

export const separators = { comma: ',', semicolon: ';', tab: '\t', bar: '|' } as const;

export const csvDialect = v.pipe(
  v.object({
    separator: v.optional(v.picklist(Object.keys(separators) as (keyof typeof separators)[]), 'comma'),
    /** The decimal mark of numbers. */
    decimal: v.optional(v.picklist(['point', 'comma']), 'point'),
    quotes: v.optional(v.picklist(['needed', 'all']), 'needed'),
    /** A byte order mark, by which some programs know that a file is UTF-8. */
    mark: v.optional(yes, false),
    lineEnds: v.optional(v.picklist(['lf', 'crlf']), 'lf'),
    /** Three columns more: the report, the page, and what did not fit its column. */
    trace: v.optional(yes, false),
    /** Texts that a spreadsheet would take for a formula get an apostrophe in front. */
    guard: v.optional(yes, true),
  }),
  v.check(
    ({ separator, decimal }) => separator !== 'comma' || decimal !== 'comma',
    'Numbers with a decimal comma need another separator than a comma, such as a semicolon.',
  ),
  v.transform(({ separator, decimal, quotes, ...more }) => ({
    ...more,
    separator: separators[separator],
    decimalMark: decimal === 'comma' ? (',' as const) : ('.' as const),
    quoteAll: quotes === 'all',
  })),
);
export type CsvDialect = v.InferOutput<typeof csvDialect>;
export type CsvOptions = v.InferInput<typeof csvDialect>;
export const plainCsv: CsvDialect = v.parse(csvDialect, {});

/** A file that is written anew after each publication: all rows, or those of the reports that came with it. */
export const keptFile = v.object({
  /** Full path; its ending says the format, and {periods} in its name is the period, or the first and the last, of the reports. */
  path: v.pipe(
    v.string(),
    v.trim(),
    v.minLength(1, 'A kept file needs a path.'),
    v.maxLength(1000, 'A path has at most 1000 characters.'),
  ),
  rows: v.optional(v.picklist(['all', 'new']), 'all'),
  /** How delimited text is written. */
  csv: v.optional(
    v.object({
      separator: v.optional(v.string()),
      decimal: v.optional(v.string()),
      quotes: v.optional(v.string()),
      mark: v.optional(v.boolean()),
      lineEnds: v.optional(v.string()),
      trace: v.optional(v.boolean()),
      guard: v.optional(v.boolean()),
    }),
  ),
});
export type KeptFile = v.InferOutput<typeof keptFile>;

export const formats = ['csv', 'tsv', 'xlsx', 'json', 'jsonl', 'parquet', 'sql', 'zip'] as const;
export type Format = (typeof formats)[number];

/** What a format is called, and by which name programs know it (RFC 7111, IANA media types). */
export const formatFacts: Readonly<
  Record<Format, { readonly title: string; readonly type: string; readonly extension: string }>
> = {
  csv: { title: 'CSV', type: 'text/csv; charset=utf-8', extension: 'csv' },
  tsv: { title: 'Tab-separated text', type: 'text/tab-separated-values; charset=utf-8', extension: 'tsv' },
  xlsx: {
    title: 'XLSX workbook',
    type: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
    extension: 'xlsx',
  },
  json: { title: 'JSON', type: 'application/json; charset=utf-8', extension: 'json' },
  jsonl: { title: 'JSON Lines', type: 'application/jsonl; charset=utf-8', extension: 'jsonl' },
  parquet: { title: 'Parquet', type: 'application/vnd.apache.parquet', extension: 'parquet' },
  sql: { title: 'SQL script', type: 'application/sql; charset=utf-8', extension: 'sql' },
  zip: { title: 'Data package', type: 'application/zip', extension: 'zip' },
};
