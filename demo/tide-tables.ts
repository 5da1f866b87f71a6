import { stringify } from 'csv-stringify/sync';
import { printHtml } from './html-print';
import { monthNames } from './throughput';
import { hours, sumOf, type TideDay, type TideMonth, type Water } from './tides';

const two = (n: number) => String(n).padStart(2, '0');
const tenths = (n: number | null) => (n === null ? '–' : `${Math.floor(n / 10)}.${n % 10}`);
const clock = ({ at }: Water) => `${two(Math.floor(at / 60))}:${two(at % 60)}`;
const title = ({ year, month }: TideMonth) => `Tide tables, ${monthNames[month - 1]} ${year}`;

/** Weeks are set apart by white space: Sundays end them. */
const endsWeek = ({ year, month }: TideMonth, { day }: TideDay) =>
  new Date(Date.UTC(year, month - 1, day)).getUTCDay() === 0;
const rowOf = (of: TideMonth, day: TideDay, cells: readonly string[]) =>
  `<tr><th>${day.day}</th>${cells.map((cell) => `<td>${cell}</td>`).join('')}</tr>${endsWeek(of, day) ? '<tr class="gap"><td></td></tr>' : ''}`;

function flows(of: TideMonth): string {
  const sums = hours.map((_, i) => of.days.reduce((sum, { flow }) => sum + (flow[i] ?? 0), 0));
  return `<h2>Flow through the tide gates</h2><table><thead>
<tr><th rowspan="3">Day</th><th colspan="12">Thousand m³ in two hours from</th><th rowspan="3">All day</th></tr>
<tr><th colspan="6">a.m.</th><th colspan="6">p.m.</th></tr>
<tr>${hours.map((hour) => `<th>${two(hour)}:00</th>`).join('')}</tr></thead><tbody>
${of.days.map((day) => rowOf(of, day, [...day.flow.map(tenths), tenths(sumOf(day.flow))])).join('\n')}
<tr class="sum"><th>Month</th>${[...sums, sums.reduce((sum, each) => sum + each, 0)].map((each) => `<td>${tenths(each)}</td>`).join('')}</tr></tbody></table>`;
}

function waters(of: TideMonth): string {
  const pair = (water: Water | null) => (water === null ? ['–', '–'] : [clock(water), tenths(water.height)]);
  return `<h2>High and low water</h2><table class="waters"><thead>
<tr><th rowspan="2">Day</th>${['First high water', 'Second high water', 'First low water', 'Second low water'].map((heading) => `<th colspan="2">${heading}</th>`).join('')}</tr>
<tr>${'<th>Time</th><th>Height (m)</th>'.repeat(4)}</tr></thead><tbody>
${of.days.map((day) => rowOf(of, day, [...day.high, ...day.low].flatMap(pair))).join('\n')}</tbody></table>`;
}

const page = (of: TideMonth) => `<!doctype html><html><head><meta charset="utf-8"><title>${title(of)}</title><style>
@page { size: A4; margin: 10mm 14mm }
body { font: 7px/1.25 "DejaVu Serif", Georgia, serif; margin: 0 } h1 { font-size: 14px; margin: 0 0 1mm } h2 { font-size: 9.5px; margin: 3.5mm 0 1.5mm } p { margin: 0; font-size: 8.5px }
table { border-collapse: collapse; border-top: 1px solid #222; border-bottom: 1px solid #222 }
th, td { padding: .75px 6.5px; text-align: right; font-weight: normal; white-space: nowrap } thead th { font-weight: bold; text-align: center } thead tr:last-child th { border-bottom: .7px solid #222; text-align: right }
.gap td { height: 4px; padding: 0 } .sum th, .sum td { border-top: .7px solid #222; font-weight: bold }
.waters th, .waters td { padding: .75px 10px }
</style></head><body><h1>${title(of)}</h1><p>Saltby tide gates, Northreach Harbour Board. Times of the day as on the clock. – no measurement, or no second water on that day.</p>
${flows(of)}
${waters(of)}</body></html>`;

export const printTides = (of: TideMonth): Buffer =>
  printHtml(page(of), `${of.year}${two(of.month)}01`, { tagged: false });

const dateOf = ({ year, month }: TideMonth, day: number) => `${year}-${two(month)}-${two(day)}`;
const cubic = (hundreds: number | null) => (hundreds === null ? '' : String(hundreds * 100));
const metres = (height: number) => String(height / 10);

/** The dataset of the flows: a row for each day and stretch of two hours, in cubic metres. */
export const expectedFlows = (months: readonly TideMonth[]): string =>
  stringify(
    [
      ['Date', 'Half', 'From', 'Flow'],
      ...months.flatMap((of) =>
        of.days.flatMap(({ day, flow }) =>
          flow.map((each, i) => [
            dateOf(of, day),
            hours[i] < 12 ? 'a.m.' : 'p.m.',
            `${two(hours[i])}:00:00`,
            cubic(each),
          ]),
        ),
      ),
    ],
    { record_delimiter: 'unix' },
  );

/** The dataset of the tides: a row for each high and low water. */
export const expectedWaters = (months: readonly TideMonth[]): string =>
  stringify(
    [
      ['Date', 'Water', 'Time', 'Height (m)'],
      ...months.flatMap((of) =>
        of.days.flatMap(({ day, high, low }) =>
          [
            ['First high', high[0]],
            ['Second high', high[1]],
            ['First low', low[0]],
            ['Second low', low[1]],
          ].flatMap(([name, water]) =>
            water === null
              ? []
              : [[dateOf(of, day), name as string, `${clock(water as Water)}:00`, metres((water as Water).height)]],
          ),
        ),
      ),
    ],
    { record_delimiter: 'unix' },
  );
