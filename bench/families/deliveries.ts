// Polish: deliveries by supplier, whose name is printed once over its rows; values beside labels; one sum.
import { page, plain, printed, random, row, type ReportFamily } from './family';

const suppliers = ['Stocznia Mewa', 'Lin-Mar', 'Olej i Smar', 'Port Serwis'];
const goods = ['lina konopna', 'farba pokładowa', 'olej silnikowy', 'filtr paliwa', 'smar łożyskowy', 'szekla'];
const pl = (value: number, decimals: number) => printed(value, decimals, '\u00a0', ',');
const heading = ['Dostawca', 'Data', 'Towar', 'Ilość', 'Kwota'];

function list(nth: number) {
  const draw = random(3100 + nth);
  const rows: string[][] = [];
  let [body, sum] = ['', 0];
  for (const supplier of suppliers) {
    const count = draw.whole(2, 4);
    for (let i = 0; i < count; i++) {
      const day = draw.whole(10, 28);
      const good = goods[draw.whole(0, goods.length - 1)];
      const amount = draw.whole(1, 240);
      const value = draw.whole(1500, 990000) / 100;
      sum = Math.round((sum + value) * 100) / 100;
      body += row([i === 0 ? supplier : '', `${day}.0${nth + 4}.2025`, good, pl(amount, 0), pl(value, 2)], [3, 4]);
      rows.push([`ZD-${410 + nth}`, supplier, `2025-0${nth + 4}-${day}`, good, plain(amount, 0), plain(value, 2)]);
    }
  }
  body += row(['', '', 'Razem', '', pl(sum, 2)], [3, 4], ' class="b"');
  const html = page(
    `<h1>Zestawienie dostaw</h1><p>Numer zestawienia: ZD-${410 + nth}</p><p>Magazyn: Molo ${nth + 1}</p><table><thead><tr>${heading.map((text, i) => `<th${i > 2 ? ' class="n"' : ''}>${text}</th>`).join('')}</tr></thead>${body}</table>`,
    'thead th { border-bottom: 1pt solid #000 }',
  );
  return { path: `dostawy-2025-0${nth + 4}.pdf`, html, rows };
}

const made = [0, 1, 2, 3].map(list);
export const deliveries: ReportFamily = {
  name: 'deliveries (pl)',
  heading,
  reports: made,
  columns: ['Numer zestawienia', 'Dostawca', 'Data', 'Towar', 'Ilość', 'Kwota'],
  rows: made.map(({ rows }) => rows),
};
