// English: areas in areas, told by how far they stand in, each with the sum of what stands below it.
import { cells, page, printed, random, row, type ReportFamily } from './family';

const heading = ['Area', 'Calls', 'Tonnes'];
const coasts = [
  ['East coast', ['Saltby', 'Fairlead']],
  ['West coast', ['Holm', 'Marsh End', 'Cobble']],
] as const;
const indented = (text: string, depth: number) => `<span style="padding-left:${4 * depth}mm">${text}</span>`;
const line = (area: string, amounts: readonly number[], more = '') =>
  row([area, ...amounts.map((amount) => printed(amount, 0, ',', '.'))], [1, 2], more);
const sum = (all: readonly (readonly number[])[]) => [0, 1].map((i) => all.reduce((total, own) => total + own[i], 0));

function report(nth: number) {
  const draw = random(3100 + nth);
  const rows: string[][] = [];
  const body = coasts.map(([coast, ports]) => {
    const own = ports.map((port) => {
      const kinds = ['Bulk', 'Roll-on', 'Fish'].map((kind) => ({
        kind,
        amounts: [draw.whole(1, 90), draw.whole(100, 9000)],
      }));
      for (const { kind, amounts } of kinds) rows.push([coast, port, kind, ...amounts.map(String)]);
      return { port, kinds, amounts: sum(kinds.map(({ amounts }) => amounts)) };
    });
    const below = own.map(
      ({ port, kinds, amounts }) =>
        line(indented(port, 1), amounts) + kinds.map((each) => line(indented(each.kind, 2), each.amounts)).join(''),
    );
    return line(coast, sum(own.map(({ amounts }) => amounts)), ' class="b"') + below.join('');
  });
  return {
    path: `calls_Q${nth + 1}_2025.pdf`,
    html: page(`<h1>Calls and cargo</h1><table><tr>${cells(heading, [1, 2], 'th')}</tr>${body.join('')}</table>`),
    rows,
  };
}

const made = [0, 1].map(report);
export const portCalls: ReportFamily = {
  name: 'port calls (en)',
  heading,
  reports: made,
  columns: ['Section', 'Subsection', ...heading],
  rows: made.map(({ rows }) => rows),
};
