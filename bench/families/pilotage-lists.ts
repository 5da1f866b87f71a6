// English: the rows of a day stand under its date, in bold print over narrow columns; times with am and pm, units behind amounts.
import { page, plain, random, row, type ReportFamily } from './family';

const heading = ['Time', 'Vessel', 'Draught'];
const weekdays = ['Monday', 'Tuesday', 'Wednesday', 'Thursday'];
const two = (n: number) => String(n).padStart(2, '0');

function report(nth: number) {
  const draw = random(1030 + nth);
  const rows: string[][] = [];
  const days = weekdays.map((weekday, at) => {
    const day = 2 + at + 7 * nth;
    const calls = Array.from({ length: draw.whole(2, 6) }, (_, i) => {
      const [minutes, vessel, draught] = [
        two(draw.whole(0, 59)),
        draw.one(['Marlin', 'Heron', 'Tern']),
        draw.whole(20, 120) / 10,
      ];
      rows.push([`2025-06-${two(day)}`, `${two(i % 2 ? i + 13 : i + 1)}:${minutes}`, vessel, plain(draught, 1)]);
      return row([`${i + 1}:${minutes} ${i % 2 ? 'pm' : 'am'}`, vessel, `${draught.toFixed(1)} m`], [2]);
    });
    return `<tr><td colspan="3" class="b">${weekday}, ${day} June 2025</td></tr>${calls.join('')}`;
  });
  return {
    path: `pilotage-w${23 + nth}.pdf`,
    html: page(
      `<h1>Pilotage list</h1><table><tr>${heading.map((text, i) => `<th${i === 2 ? ' class="n"' : ''}>${text}</th>`).join('')}</tr>${days.join('')}</table>`,
    ),
    rows,
  };
}

const made = [0, 1].map(report);
export const pilotageLists: ReportFamily = {
  name: 'pilotage lists (en)',
  heading,
  reports: made,
  columns: ['Section', ...heading],
  rows: made.map(({ rows }) => rows),
};
