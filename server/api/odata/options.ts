import { parseFilter } from '../../../core/dataset/odata-filter';
import type { OrderBy } from '../../../core/dataset/selection';
import type { Selections } from '../../runs/selections';
import type { DatasetColumn } from '../../store/data-table';
import type { Publication } from '../../store/dataset';
import { filterSql } from '../../store/odata-sql';
import { Fault } from '../fault';
import { keyName } from './sets';

export type Query = Readonly<Record<string, string | undefined>>;

/** Options that an entity set answers. */
export const ofSet = ['$select', '$filter', '$orderby', '$top', '$skip', '$count', '$format', '$skiptoken'];
/** Options that say what is counted. */
export const ofCount = ['$filter'];

/** Something of OData that is not had here. */
const notHad = (what: string) =>
  new Fault(
    'bad input',
    `${what} is not answered here. There are $select, $filter, $orderby, $top, $skip, $count and $format=json.`,
  );

/** @throws Fault for an option that is not answered: it is never passed over */
export function onlyKnown(query: Query, known: readonly string[]): void {
  for (const name of Object.keys(query)) if (name.startsWith('$') && !known.includes(name)) throw notHad(name);
  const format = query['$format'];
  if (format !== undefined && !/json/.test(format)) throw notHad(`$format=${format}`);
}

export function columnIn({ columns }: Publication, name: string): DatasetColumn {
  const found = columns.find(({ identifier }) => identifier === name);
  if (!found) throw new Fault('bad input', `There is no property “${name}”.`);
  return found;
}

/** The columns asked for; undefined: all. */
export function selectedIn(publication: Publication, { $select }: Query): DatasetColumn[] | undefined {
  const names = ($select ?? '')
    .split(',')
    .map((each) => each.trim())
    .filter((each) => each !== '' && each !== '*');
  if (names.length === 0) return undefined;
  return names.filter((each) => each !== keyName).map((each) => columnIn(publication, each));
}

export function numberIn(query: Query, name: string): number | undefined {
  const text = query[name];
  if (text === undefined) return undefined;
  if (!/^\d{1,9}$/.test(text)) throw new Fault('bad input', `${name} is a whole number.`);
  return Number(text);
}

/** An order by columns; the number of a row tells all rows apart, so that what stands behind it changes nothing. */
interface Asked {
  readonly order: readonly OrderBy[];
  /** The last row first. */
  readonly reversed: boolean;
}

function orderIn(publication: Publication, { $orderby = '' }: Query): Asked {
  const order: OrderBy[] = [];
  for (const each of $orderby.split(',').filter((text) => text.trim() !== '')) {
    const [, name, way] = /^\s*(\w+)(?:\s+(asc|desc))?\s*$/.exec(each) ?? [];
    if (name === undefined)
      throw new Fault(
        'bad input',
        `“${each.trim()}” is no order: name a property, “desc” behind it for the largest first.`,
      );
    if (name !== keyName) {
      order.push({ column: columnIn(publication, name).heading, down: way === 'desc' });
      continue;
    }
    if (way === 'desc' && order.length > 0)
      throw new Fault('bad input', `${keyName} desc is answered alone, not behind another property.`);
    return { order, reversed: way === 'desc' };
  }
  return { order, reversed: false };
}

/** The numbers of the rows that a query takes, from 0, in its order. */
export async function placesIn(selections: Selections, publication: Publication, query: Query): Promise<Uint32Array> {
  const { order, reversed } = orderIn(publication, query);
  const { $filter: filter } = query;
  const byName = (name: string) => publication.columns.find(({ identifier }) => identifier === name);
  const parsed = filter ? parseFilter(filter) : undefined;
  const places =
    parsed || order.length > 0
      ? await selections.placesOf(
          publication,
          { where: [], order },
          filter,
          parsed ? (params) => filterSql(parsed, byName, params) : undefined,
        )
      : Uint32Array.from({ length: publication.rows }, (_, row) => row);
  return reversed ? places.slice().reverse() : places;
}
