import { stringify } from 'csv-stringify/sync';
import { printHtml } from './html-print';
import { halfYear, monthNames, type Throughput } from './throughput';

const grouped = (text: string, mark: string) => text.replace(/\B(?=(\d{3})+$)/g, mark);

/** Tenths as the group prints them: the West group's office has German number style. */
function printedTenths(tenths: number | null, group: Throughput['group']): string {
  if (tenths === null) return '..';
  const [whole, part] = [Math.floor(tenths / 10), tenths % 10];
  return group === 'West' ? `${grouped(String(whole), '.')},${part}` : `${grouped(String(whole), ',')}.${part}`;
}

const title = ({ year, group }: Throughput) => `Quay throughput ${year}, ${group} group (tonnes in thousands)`;
const indent = ['', '', 'kind'];

/** One half of the year as a table: plan and actual in pairs under each month, then the half-year with the share reached. */
function half(report: Throughput, from: number): string {
  const months = monthNames.slice(from, from + 6);
  const number = (tenths: number | null) => `<td>${printedTenths(tenths, report.group)}</td>`;
  const row = ({ cargo, level, months: all }: Throughput['lines'][number]) => {
    const own = all.slice(from, from + 6);
    const { plan, actual, reached } = halfYear(own);
    return `<tr class="l${level}"><th class="${indent[level]}">${cargo}</th>${own.map((month) => number(month.plan) + number(month.actual)).join('')}${number(plan)}${number(actual)}<td>${reached === null ? '..' : `${printedTenths(reached, report.group)} %`}</td></tr>`;
  };
  return `<table><thead><tr><th rowspan="2">Cargo</th>${months.map((month) => `<th colspan="2">${month}</th>`).join('')}<th colspan="3">${from === 0 ? 'First' : 'Second'} half-year</th></tr>
<tr>${'<th>Plan</th><th>Actual</th>'.repeat(6)}<th>Plan</th><th>Actual</th><th>Reached</th></tr></thead><tbody>${report.lines.map(row).join('')}</tbody></table>`;
}

const page = (
  report: Throughput,
) => `<!doctype html><html><head><meta charset="utf-8"><title>${title(report)}</title><style>
@page { size: A4 landscape; margin: 12mm 7mm }
body { font: 6.5px/1.3 Arial, Helvetica, sans-serif; margin: 0 }
h1 { font-size: 13px; margin: 0 0 3mm } p { margin: 0 0 4mm; font-size: 9px }
.halves { display: flex; justify-content: space-between }
table { border-collapse: collapse; border-top: 1.2px solid #333; border-bottom: 1.2px solid #333 }
thead tr:last-child th { border-bottom: .8px solid #333 }
th, td { padding: 2.6px 3.3px; text-align: right; white-space: nowrap; font-weight: normal }
thead th { font-weight: bold; text-align: center } thead tr:last-child th { text-align: right }
th:first-child { text-align: left } tbody .kind { padding-left: 14px } .l0 th, .l0 td, .l1 th, .l1 td { font-weight: bold } .l0 th, .l0 td { border-top: .8px solid #333 }
</style></head><body><h1>${title(report)}</h1><p>Planned and actual throughput over the quays of the ${report.group} group, by class of cargo. .. not available.</p>
<div class="halves">${half(report, 0)}${half(report, 6)}</div><p style="margin-top:6mm">Northreach Harbour Board, statistics office</p></body></html>`;

/** Prints the report in the January after its year. */
export const printThroughput = (report: Throughput): Buffer => printHtml(page(report), `${report.year + 1}0115`);

const tonnes = (tenths: number | null) => (tenths === null ? '' : String(tenths * 100));

/** The dataset that the reports of both groups must become: a row for each kind of cargo and month. Half-years are held. */
export const expectedThroughput = (reports: readonly Throughput[]): string =>
  stringify(
    [
      ['Group', 'Year', 'Cargo', 'Month', 'Plan', 'Actual'],
      ...reports.flatMap(({ year, group, lines }) =>
        [0, 6].flatMap((from) =>
          lines.flatMap(({ cargo, months }) =>
            months
              .slice(from, from + 6)
              .map(({ plan, actual }, i) => [
                group,
                String(year),
                cargo,
                monthNames[from + i],
                tonnes(plan),
                tonnes(actual),
              ]),
          ),
        ),
      ),
    ],
    { record_delimiter: 'unix' },
  );
