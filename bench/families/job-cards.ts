// English: a form on every page, its labels in bold print without a colon; date and time under one another in a cell.
import { cells, page, plain, printed, random, row, type ReportFamily } from './family';

const heading = ['Part', 'Fitted', 'Qty', 'Price', 'Sum'];
const money = (amount: number) => printed(amount, 2, ',', '.');

function report(nth: number) {
  const draw = random(3800 + nth);
  const rows: string[][] = [];
  const cards = [0, 1, 2].map((at) => {
    const [job, craft] = [`J-${500 + nth * 10 + at}`, draw.one(['Marlin', 'Heron', 'Grey Tern'])];
    const day = 3 + at;
    const parts = Array.from({ length: draw.whole(3, 5) }, () => {
      const [part, hour, qty, price] = [
        draw.one(['Impeller', 'Zinc anode', 'Hose 25 mm', 'Seal kit', 'Filter']),
        draw.whole(10, 17),
        draw.whole(1, 12),
        draw.whole(100, 20000),
      ];
      rows.push([
        job,
        craft,
        part,
        `2025-0${7 + nth}-0${day}T${hour}:15`,
        String(qty),
        plain(price / 100, 2),
        plain((qty * price) / 100, 2),
      ]);
      return {
        sum: qty * price,
        html: row(
          [part, `0${day}/0${7 + nth}/2025<br>${hour}:15`, String(qty), money(price / 100), money((qty * price) / 100)],
          [2, 3, 4],
        ),
      };
    });
    const form = `<table><tr><td class="b">Job number</td><td>${job}</td><td class="b">Craft</td><td>${craft}</td></tr><tr><td class="b">Yard</td><td>Dry dock</td><td class="b">Foreman</td><td>B. Holt</td></tr></table>`;
    const total = parts.reduce((sum, each) => sum + each.sum, 0);
    return `<div style="break-after: page"><h1>Job card</h1>${form}<table><tr>${cells(heading, [2, 3, 4], 'th')}</tr>${parts.map(({ html }) => html).join('')}<tr class="b"><td colspan="4">Total</td><td class="n">${money(total / 100)}</td></tr></table></div>`;
  });
  return { path: `jobs-${['July', 'August'][nth]}-2025.pdf`, html: page(cards.join('')), rows };
}

const made = [0, 1].map(report);
export const jobCards: ReportFamily = {
  name: 'job cards (en)',
  heading,
  reports: made,
  columns: ['Job number', 'Craft', ...heading],
  rows: made.map(({ rows }) => rows),
};
