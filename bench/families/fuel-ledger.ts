// English: what went into a tank and out of it, with the balance after each line, carried over to the next page.
import { page, printed, random, row, type ReportFamily } from './family';

const heading = ['Date', 'Voucher', 'For', 'In', 'Out', 'Balance'];
const numbers = [3, 4, 5];
const linesInMonth = 58;
const linesOnPage = 30;
const head = `<tr>${heading.map((text, i) => `<th${numbers.includes(i) ? ' class="n"' : ''}>${text}</th>`).join('')}</tr>`;
const whole = (value: number) => printed(value, 0, ',', '.');
const states = (label: string, balance: number) => row(['', '', label, '', '', whole(balance)], numbers);

function month(nth: number) {
  const draw = random(900 + nth);
  const number = `0${nth + 3}`;
  const rows: string[][] = [];
  let balance = draw.whole(5000, 9000);
  let body = states('Opening balance', balance);
  for (let line = 1; line <= linesInMonth; line++) {
    const into = draw.chance(0.4) ? draw.whole(100, 4000) : 0;
    const out = into > 0 ? 0 : draw.whole(50, 900);
    balance += into - out;
    const day = String(1 + Math.floor(line / 2.1)).padStart(2, '0');
    const [voucher, purpose] = [
      `V${nth + 1}${String(line).padStart(3, '0')}`,
      draw.one(['Delivery', 'Tug Marlin', 'Tug Heron', 'Pilot boat', 'Crane 2']),
    ];
    rows.push([
      `2025-${number}-${day}`,
      voucher,
      purpose,
      into ? String(into) : '',
      out ? String(out) : '',
      String(balance),
    ]);
    body += row(
      [`${day}/${number}/2025`, voucher, purpose, into ? whole(into) : '', out ? whole(out) : '', whole(balance)],
      numbers,
    );
    if (line === linesOnPage)
      body += `${states('Carried forward', balance)}</table><div style="break-before: page"></div><table>${head}${states('Brought forward', balance)}`;
  }
  const html = page(
    `<h1>Fuel ledger</h1><p>Tank 4, all amounts in litres</p><table>${head}${body}${states('Closing balance', balance)}</table>`,
  );
  return { path: `fuel-ledger-2025-${number}.pdf`, html, rows };
}

const made = [0, 1, 2].map(month);
export const fuelLedger: ReportFamily = {
  name: 'fuel ledger (en)',
  heading,
  reports: made,
  columns: heading,
  rows: made.map(({ rows }) => rows),
};
