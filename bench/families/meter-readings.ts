// French: what meters used, a column for each month of a quarter and their total, ruled throughout.
import { page, plain, printed, random, row, type ReportFamily } from './family';

const sites = [
  'Quai Est',
  'Quai Ouest',
  'Halle aux poissons',
  'Écluse',
  'Capitainerie',
  'Cale de halage',
  'Phare',
  'Entrepôt A',
  'Entrepôt B',
];
const quarters = [
  ['Janvier', 'Février', 'Mars'],
  ['Avril', 'Mai', 'Juin'],
  ['Juillet', 'Août', 'Septembre'],
  ['Octobre', 'Novembre', 'Décembre'],
];
const fr = (value: number) => printed(value, 1, '\u202f', ',');

function quarter(months: readonly string[], nth: number) {
  const draw = random(70 + nth);
  const heading = ['Compteur', 'Site', ...months, 'Total'];
  const rows: string[][] = [];
  const body = sites.map((site, i) => {
    const amounts = months.map(() => draw.whole(400, 61000) / 10);
    const meter = `C${nth + 1}${String(i + 1).padStart(2, '0')}`;
    months.forEach((month, m) => rows.push([meter, site, month, plain(amounts[m], 1)]));
    return row([meter, site, ...amounts.map(fr), fr(amounts.reduce((a, b) => a + b, 0))], [2, 3, 4, 5]);
  });
  const html = page(
    `<h1>Consommation d'électricité</h1><p>Relevé du trimestre T${nth + 1} 2025</p><table><tr>${heading.map((text, i) => `<th${i > 1 ? ' class="n"' : ''}>${text}</th>`).join('')}</tr>${body.join('')}</table>`,
    'td, th { border: 0.4pt solid #555 }',
  );
  return { path: `releve-2025-T${nth + 1}.pdf`, html, rows };
}

const made = quarters.map(quarter);
export const meterReadings: ReportFamily = {
  name: 'meter readings (fr)',
  heading: ['Compteur', 'Site', 'Total'],
  reports: made,
  columns: ['Compteur', 'Site', 'Month', 'Value'],
  rows: made.map(({ rows }) => rows),
};
