// English: traffic through locks, hours planned and worked under each weekday, over two heading rows.
import { page, plain, printed, random, row, type ReportFamily } from './family';

const locks = ['Upper lock', 'Middle lock', 'Lower lock', 'Sea lock', 'Mill lock', 'Old lock', 'Ferry gate'];
const days = ['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday'];
const en = (value: number) => printed(value, 1, ',', '.');

function week(number: number) {
  const draw = random(5000 + number);
  const rows: string[][] = [];
  const body = locks.map((lock) => {
    const hours = days.map(() => [draw.whole(20, 240) / 10, draw.whole(20, 240) / 10]);
    days.forEach((day, d) => rows.push([String(number), lock, day, plain(hours[d][0], 1), plain(hours[d][1], 1)]));
    return row(
      [lock, ...hours.flat().map(en)],
      Array.from({ length: 10 }, (_, i) => i + 1),
    );
  });
  const html = page(
    `<h1>Lock traffic, week ${number}</h1><table><tr><th rowspan="2">Lock</th>${days.map((day) => `<th colspan="2">${day}</th>`).join('')}</tr><tr>${days.map(() => '<th class="n">Planned</th><th class="n">Worked</th>').join('')}</tr>${body.join('')}</table>`,
    '@page { size: A4 landscape } tr:nth-child(2) th { border-bottom: 0.8pt solid #333 }',
  );
  return { path: `locks-wk${number}.pdf`, html, rows };
}

const made = [31, 32, 33, 34].map(week);
export const lockTraffic: ReportFamily = {
  name: 'lock traffic (en)',
  heading: ['Lock', ...days],
  reports: made,
  columns: ['week', 'Lock', 'Day', 'Planned', 'Worked'],
  rows: made.map(({ rows }) => rows),
};
