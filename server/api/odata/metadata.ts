import type { ValueType } from '../../../core/sheet/column';
import { headingWithUnit } from '../../store/data-table';
import { keyName, type PublishedSet } from './sets';

/** Types of OData (CSDL 4.01, 4.4). Moments have no zone on paper: they are told as if in UTC. */
const edmTypes: Readonly<Record<ValueType, string>> = {
  text: 'Edm.String',
  period: 'Edm.String',
  integer: 'Edm.Int64',
  decimal: 'Edm.Decimal',
  percent: 'Edm.Decimal',
  date: 'Edm.Date',
  time: 'Edm.TimeOfDay',
  datetime: 'Edm.DateTimeOffset',
  boolean: 'Edm.Boolean',
};

const escaped = (text: string) =>
  text.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('>', '&gt;').replaceAll('"', '&quot;');

/** What there is, as CSDL in XML: a type and a set for each dataset, the printed headings and units as annotations. */
export function metadata(all: readonly PublishedSet[]): string {
  const types = all.map(({ pipeline: { viewName }, publication }) => {
    const properties = publication.columns.map(
      ({ identifier, type, ...named }) =>
        `<Property Name="${identifier}" Type="${edmTypes[type]}"${type === 'decimal' || type === 'percent' ? ' Scale="variable"' : ''}><Annotation Term="Org.OData.Core.V1.Description" String="${escaped(headingWithUnit(named))}"/></Property>`,
    );
    return `<EntityType Name="${viewName}"><Key><PropertyRef Name="${keyName}"/></Key><Property Name="${keyName}" Type="Edm.Int64" Nullable="false"/>${properties.join('')}</EntityType>`;
  });
  const sets = all.map(
    ({ pipeline: { viewName, document } }) =>
      `<EntitySet Name="${viewName}" EntityType="Datasets.${viewName}"><Annotation Term="Org.OData.Core.V1.Description" String="${escaped(document.name)}"/></EntitySet>`,
  );
  return `<?xml version="1.0" encoding="UTF-8"?><edmx:Edmx Version="4.0" xmlns:edmx="http://docs.oasis-open.org/odata/ns/edmx"><edmx:DataServices><Schema Namespace="Datasets" xmlns="http://docs.oasis-open.org/odata/ns/edm">${types.join('')}<EntityContainer Name="All">${sets.join('')}</EntityContainer></Schema></edmx:DataServices></edmx:Edmx>`;
}
