import type { Landing, LandingSheet } from './landings';
import { total } from './landings';

/** A row as printed. A text ending in `^1` carries a raised footnote mark. */
export interface PrintedRow {
  readonly kind: 'section' | 'line' | 'total' | 'grand total';
  readonly cells: readonly string[];
}

const grouped = (whole: string) => whole.replace(/\B(?=(\d{3})+$)/g, ',');

/** A number of units of 10^-places as printed: grouped, in brackets when negative. */
export function printed(units: number, places: number): string {
  const digits = String(Math.abs(units)).padStart(places + 1, '0');
  const text = places === 0 ? grouped(digits) : `${grouped(digits.slice(0, -places))}.${digits.slice(-places)}`;
  return units < 0 ? `(${text})` : text;
}

const weight = (tenths: number | null | undefined) =>
  tenths === undefined ? '' : tenths === null ? '–' : printed(tenths, 1);

/** Two heading rows; the second column of weights is headed together with the first. */
export const headings = (sheet: LandingSheet): [string[], string[]] => [
  [
    'Code',
    'Species',
    sheet.boxesHeading,
    'Weight (kg)',
    '',
    'Price',
    'Value',
    ...(sheet.withQuota ? ['Quota left'] : []),
  ],
  ['', '', '', 'Gutted', 'Whole', 'per kg', '', ...(sheet.withQuota ? ['(t)'] : [])],
];

export function printedRows(sheet: LandingSheet): PrintedRow[] {
  const blanks = (count: number) => Array.from({ length: count }, () => '');
  const columns = headings(sheet)[0].length;
  const line = (l: Landing): PrintedRow => ({
    kind: 'line',
    cells: [
      l.code,
      l.species,
      printed(l.boxes, 0),
      weight(l.gutted),
      weight(l.whole),
      printed(l.price, 2) + (l.marked ? '^1' : ''),
      printed(l.value, 2),
      ...(sheet.withQuota ? [l.code === 'ADJ' ? '' : printed(l.quotaLeft, 1)] : []),
    ],
  });
  const sums = (
    kind: PrintedRow['kind'],
    label: string,
    landings: readonly Landing[],
    misprint: number,
  ): PrintedRow => ({
    kind,
    cells: [
      '',
      label,
      printed(
        total(landings, (l) => l.boxes),
        0,
      ),
      printed(
        total(landings, (l) => l.gutted),
        1,
      ),
      printed(
        total(landings, (l) => l.whole),
        1,
      ),
      '',
      printed(total(landings, (l) => l.value) + misprint, 2),
      ...(sheet.withQuota ? [''] : []),
    ],
  });
  return [
    ...sheet.quays.flatMap(({ quay, landings }, i): PrintedRow[] => [
      { kind: 'section', cells: [quay, ...blanks(columns - 1)] },
      ...landings.map(line),
      sums('total', `Total ${quay}`, landings, i === 1 ? sheet.misprint : 0),
    ]),
    sums(
      'grand total',
      'Total all quays',
      sheet.quays.flatMap((q) => q.landings),
      0,
    ),
  ];
}

const months = [
  'January',
  'February',
  'March',
  'April',
  'May',
  'June',
  'July',
  'August',
  'September',
  'October',
  'November',
  'December',
];
export const longDate = (iso: string) =>
  `${Number(iso.slice(8))} ${months[Number(iso.slice(5, 7)) - 1]} ${iso.slice(0, 4)}`;
