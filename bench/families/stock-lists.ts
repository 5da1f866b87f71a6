// German: a stock list each month, groups of goods over their rows, sums of groups and of all.
import { page, plain, printed, random, row, type ReportFamily } from './family';

const groups = [
  ['Tauwerk', ['Festmacher 24 mm', 'Schleppleine', 'Wurfleine', 'Reeptau']],
  ['Anstriche', ['Rostschutz grau', 'Decksfarbe', 'Unterwasserfarbe']],
  ['Beschläge', ['Schäkel', 'Umlenkrolle', 'Klampe', 'Kausche', 'Wirbel']],
] as const;
const months = [
  ['2025-03', 'März'],
  ['2025-04', 'April'],
  ['2025-05', 'Mai'],
  ['2025-06', 'Juni'],
] as const;
const last = { '2025-03': 31, '2025-04': 30, '2025-05': 31, '2025-06': 30 } as const;
const heading = ['Artikelnr.', 'Bezeichnung', 'Bestand', 'Einheitspreis', 'Wert'];
const numbers = [2, 3, 4];
const de = (value: number, decimals: number) => printed(value, decimals, '.', ',');

function month([period, name]: (typeof months)[number], nth: number) {
  const draw = random(900 + nth);
  const rows: string[][] = [];
  let [body, all] = ['', 0];
  groups.forEach(([group, goods], g) => {
    body += `<tr class="b"><td>${group}</td><td></td><td></td><td></td><td></td></tr>`;
    let sum = 0;
    goods.forEach((good, i) => {
      const count = draw.whole(3, 1900);
      const price = draw.whole(120, 48000) / 100;
      const value = Math.round(count * price * 100) / 100;
      const number = `${g + 1}0-${String(i * 7 + 11).padStart(3, '0')}`;
      sum = Math.round((sum + value) * 100) / 100;
      body += row([number, good, de(count, 0), de(price, 2), de(value, 2)], numbers);
      rows.push([`${period}-${last[period]}`, group, number, good, plain(count, 0), plain(price, 2), plain(value, 2)]);
    });
    all = Math.round((all + sum) * 100) / 100;
    body += row(['', `Summe ${group}`, '', '', de(sum, 2)], numbers, ' class="b"');
  });
  body += row(['', 'Summe gesamt', '', '', de(all, 2)], numbers, ' class="b"');
  const html = page(
    `<h1>Hafenlager Nordufer</h1><p>Bestand zum ${last[period]}. ${name} 2025</p><table><thead><tr>${heading.map((text, i) => `<th${numbers.includes(i) ? ' class="n"' : ''}>${text}</th>`).join('')}</tr></thead><tbody>${body}</tbody></table>`,
  );
  return { path: `bestand-${period}.pdf`, html, rows };
}

const made = months.map(month);
export const stockLists: ReportFamily = {
  name: 'stock lists (de)',
  heading,
  reports: made,
  columns: ['Bestand zum', 'Section', 'Artikelnr.', 'Bezeichnung', 'Bestand', 'Einheitspreis', 'Wert'],
  rows: made.map(({ rows }) => rows),
};
