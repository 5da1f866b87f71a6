import { Zip, ZipDeflate } from 'fflate';
import type { Check } from '../../core/checks/check';
import { plainCsv } from '../../core/dataset/file-options';
import { slug } from '../store/names';
import type { Publication } from '../store/dataset';
import type { StoredPipeline } from '../store/pipelines';
import type { Store } from '../store/store';
import { csv } from './csv';
import type { OutColumn, RowsAsked } from './out-rows';
import type { Provenance } from './provenance';
import { Gathered } from './writer';

/** Types of a Table Schema (Frictionless Data, Table Schema 1). */
const schemaTypes: Readonly<Record<OutColumn['type'], string>> = {
  text: 'string',
  period: 'string',
  integer: 'integer',
  decimal: 'number',
  percent: 'number',
  date: 'date',
  time: 'time',
  datetime: 'datetime',
  boolean: 'boolean',
};

/** What the checks of a pipeline say of one column, as constraints; those that hold for each report only are none of the whole. */
function constraintsOf(
  { heading, type }: OutColumn,
  checks: readonly Check[],
  errorCells: number,
): Record<string, unknown> {
  const ofColumn = checks.flatMap((check): [string, unknown][] => {
    if (check.kind === 'filled' && check.columns.includes(heading) && errorCells === 0) return [['required', true]];
    if (
      check.kind === 'unique' &&
      check.over === 'dataset' &&
      check.columns.length === 1 &&
      check.columns[0] === heading
    )
      return [['unique', true]];
    if (check.kind === 'range' && check.column === heading)
      return [
        ...(check.least === undefined ? [] : [['minimum', check.least] as [string, unknown]]),
        ...(check.most === undefined ? [] : [['maximum', check.most] as [string, unknown]]),
      ];
    if (check.kind === 'allowed' && check.column === heading && type === 'text' && check.values.length > 0)
      return [['enum', check.values]];
    return [];
  });
  return Object.fromEntries(ofColumn);
}

/** The descriptor of the package: schema, units, sources with their hashes, how the printed totals stand. */
export function descriptorOf(
  { document, viewName }: Pick<StoredPipeline, 'document' | 'viewName'>,
  {
    columns,
    provenance,
    rows,
    all,
  }: { columns: readonly OutColumn[]; provenance: Provenance; rows: number; all: boolean },
): Record<string, unknown> {
  const failing = new Set(provenance.reports.flatMap(({ problems }) => problems));
  // A check that fails somewhere would make the package invalid: it is told, not demanded.
  const checks = failing.size === 0 ? document.checks : [];
  return {
    profile: 'data-package',
    name: slug(document.name, 'dataset').replaceAll('_', '-'),
    title: document.name,
    created: new Date(provenance.publishedAt).toISOString(),
    version: String(provenance.version ?? 0),
    sources: provenance.reports.map(({ path, period, sha256 }) => ({
      title: period === null ? path : `${path} (${period})`,
      path,
      hash: `sha256:${sha256}`,
    })),
    resources: [
      {
        profile: 'tabular-data-resource',
        name: viewName.replaceAll('_', '-'),
        path: 'data.csv',
        format: 'csv',
        mediatype: 'text/csv',
        encoding: 'utf-8',
        dialect: { delimiter: ',', quoteChar: '"', doubleQuote: true, header: true, lineTerminator: '\n' },
        schema: {
          fields: columns.map((column) => {
            const constraints = constraintsOf(column, checks, provenance.errorCells);
            const { heading, type, unit, identifier } = column;
            return {
              name: heading,
              title: heading,
              type: schemaTypes[type],
              ...(type === 'datetime' ? { format: '%Y-%m-%d %H:%M:%S' } : {}),
              ...(unit ? { unit } : {}),
              ...(type === 'percent' ? { unit: '%' } : {}),
              identifier,
              ...(Object.keys(constraints).length > 0 ? { constraints } : {}),
            };
          }),
          missingValues: [''],
        },
        rows,
      },
      {
        profile: 'data-resource',
        name: 'totals',
        path: 'totals.json',
        format: 'json',
        mediatype: 'application/json',
        description: 'Printed totals beside what their rows give',
      },
      {
        profile: 'data-resource',
        name: 'reports',
        path: 'reports.json',
        format: 'json',
        mediatype: 'application/json',
        description: 'The reports, and what needs a look in each',
      },
    ],
    errorCells: provenance.errorCells,
    ...(all ? {} : { selection: `${rows} of ${provenance.rows} rows` }),
  };
}

/** A Frictionless data package: the rows as CSV, their schema, and where they come from, packed into one file. */
export async function* dataPackage(
  store: Store,
  pipeline: StoredPipeline,
  publication: Publication,
  { columns, places, taken, provenance }: RowsAsked & { columns: readonly OutColumn[]; provenance: Provenance },
): AsyncGenerator<Uint8Array> {
  const out = new Gathered();
  let failed: Error | undefined;
  const zip = new Zip((error, bytes) => {
    if (error) failed = error;
    else out.add(bytes);
  });
  const encoder = new TextEncoder();
  const mtime = new Date(publication.publishedAt);
  const file = (name: string) => {
    const entry = new ZipDeflate(name, { level: 6 });
    entry.mtime = mtime;
    zip.add(entry);
    return entry;
  };
  const whole = (name: string, content: unknown) =>
    file(name).push(encoder.encode(`${JSON.stringify(content, null, 2)}\n`), true);
  whole(
    'datapackage.json',
    descriptorOf(pipeline, {
      columns,
      provenance,
      rows: places?.length ?? publication.rows,
      all: places === undefined,
    }),
  );
  whole('totals.json', provenance.totals);
  whole(
    'reports.json',
    provenance.reports.map(({ report: _, ...told }) => told),
  );
  const data = file('data.csv');
  // Texts stay as they are: a package is read by programs.
  for await (const piece of csv(store, publication, { ...plainCsv, guard: false }, { columns, places, taken })) {
    data.push(typeof piece === 'string' ? encoder.encode(piece) : piece);
    if (failed) throw failed;
    yield out.take();
  }
  data.push(new Uint8Array(0), true);
  zip.end();
  if (failed) throw failed;
  yield out.take();
}
