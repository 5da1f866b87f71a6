import { stringify } from 'csv-stringify/sync';
import type { Landing, LandingSheet } from './landings';

export const datasetColumns = [
  'Week',
  'Week ending',
  'Quay',
  'Code',
  'Species',
  'Boxes',
  'Weight (kg) Gutted',
  'Weight (kg) Whole',
  'Price per kg',
  'Value',
  'Quota left (t)',
  'Price check',
  'Size',
];

const decimal = (units: number | null | undefined, places: number) =>
  units === null || units === undefined ? '' : String(units / 10 ** places);

/** Is the value the whole weight at its price, to the cent? Blank where no whole weight is printed. */
function priceCheck({ whole, price, value }: Landing): string {
  if (whole === null || whole === undefined) return '';
  const worked = whole * price;
  return Math.sign(worked) * Math.round(Math.abs(worked) / 10) === value ? 'agrees' : 'differs';
}

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
        priceCheck(l),
        l.boxes >= 100 ? 'large' : l.boxes >= 20 ? 'medium' : 'small',
      ]),
    ),
  );
  return stringify([datasetColumns, ...rows], { record_delimiter: 'unix' });
}
