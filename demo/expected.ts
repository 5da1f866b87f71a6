import { stringify } from 'csv-stringify/sync';
import type { LandingSheet } from './landings';

export const datasetColumns = ['Week', 'Week ending', 'Quay', 'Code', 'Species', 'Boxes', 'Weight (kg) Gutted', 'Weight (kg) Whole', 'Price per kg', 'Value', 'Quota left (t)'];

const decimal = (units: number | null | undefined, places: number) => (units === null || units === undefined ? '' : String(units / 10 ** places));

/** The dataset that the landing sheets must become, written from the same data that they were printed from. */
export function expectedLandings(sheets: readonly LandingSheet[]): string {
  const rows = sheets.flatMap((sheet) =>
    sheet.quays.flatMap(({ quay, landings }) =>
      landings.map((l) => [
        String(sheet.week),
        sheet.ending,
        quay,
        l.code,
        l.species,
        String(l.boxes),
        decimal(l.gutted, 1),
        decimal(l.whole, 1),
        decimal(l.price, 2),
        decimal(l.value, 2),
        sheet.withQuota && l.code !== 'ADJ' ? decimal(l.quotaLeft, 1) : '',
      ]),
    ),
  );
  return stringify([datasetColumns, ...rows], { record_delimiter: 'unix' });
}
