// What comparing costs beside the steps: printed totals, checks and what differs, over a thousand reports of a thousand rows, as a
// share of the time of the steps of the same reports in the same run.
import { carryReport, type CarriedReport } from '../core/pipeline/carry';
import { parsePipeline } from '../core/pipeline/document';
import { expectingOf } from '../core/pipeline/expecting';
import { runChecks } from '../core/checks/run-checks';
import type { Seen } from '../core/drift/difference';
import { differencesOf } from '../core/drift/differences';
import { findTables } from '../core/reading/find-tables';
import { tied } from '../core/ties/tied';
import type { PageContent } from '../core/page/page';
import { page, words } from '../core/testing/print';
import { random } from '../demo/random';
import { vessels } from '../demo/vessels';
import { sized } from './size';

const reports = sized(1000, process.argv[2]);
const pagesEach = 20;
const rowsAPage = 50;

const fleet = vessels(400);
const line = (...texts: readonly string[]) =>
  texts[0].padEnd(10) +
  texts[1].padEnd(26) +
  texts
    .slice(2)
    .map((text) => text.padStart(12))
    .join('');
const headings = line('Code', 'Vessel', 'Kept', 'Sold', 'Boxes', 'Value');

/** A listing as its page content would be read: headings on every page, a printed total at the end. */
function paper(n: number): PageContent[] {
  const draw = random(n);
  const total = [0, 0, 0, 0];
  let count = 0;
  return Array.from({ length: pagesEach }, (_, p): PageContent => {
    const lines = [headings];
    for (let row = 0; row < rowsAPage; row++) {
      const [kept, sold, value] = [draw.whole(1, 90), draw.whole(1, 90), draw.whole(1000, 900_000)];
      [kept, sold, kept + sold, value].forEach((each, i) => (total[i] += each));
      lines.push(
        line(
          `V${String(count++).padStart(4, '0')}`,
          fleet[count % 400].name,
          String(kept),
          String(sold),
          String(kept + sold),
          (value / 100).toFixed(2),
        ),
      );
    }
    if (p === pagesEach - 1)
      lines.push(line('Total', '', String(total[0]), String(total[1]), String(total[2]), (total[3] / 100).toFixed(2)));
    return page(words(lines, { bold: (_, at) => at === 0, top: 60 }), { number: p + 1 });
  });
}

const step = (id: string, kind: string, settings: object) => ({ id, kind, settings });
const document = parsePipeline({
  format: 'able-sieve/pipeline',
  version: 1,
  name: 'Listing',
  take: [{ name: 'Listing', heading: ['Code', 'Vessel', 'Boxes'], which: 'the likest' }],
  eachTable: [
    step('header', 'promote header rows', { rows: 1 }),
    step('again', 'drop noise', { headings: true, dashes: false, pages: false, headingRows: 1 }),
    step('blank', 'drop blank rows', { columns: { by: 'all' } }),
  ],
  eachReport: [
    step('totals', 'hold totals', { wording: ['Total'], marked: false }),
    step('tidy', 'tidy text', { columns: { by: 'all' } }),
    step('file', 'stamp', { from: 'file name', template: 'r{Number}.pdf' }),
  ],
  allReports: [
    step('types', 'set types', {
      types: [
        { columns: { by: 'names', names: ['Kept', 'Sold', 'Boxes'] }, type: 'integer' },
        { columns: { by: 'names', names: ['Value'] }, type: 'decimal' },
      ],
    }),
    step('sift', 'sift rows', { conditions: [{ of: { is: 'column', name: 'Vessel' }, test: 'is', value: 'none' }] }),
  ],
  checks: [
    { id: 'sum', kind: 'sum', columns: ['Kept', 'Sold'], is: 'Boxes' },
    { id: 'key', kind: 'unique', columns: ['Code'] },
    { id: 'filled', kind: 'filled', columns: ['Code', 'Vessel', 'Boxes', 'Value'] },
    { id: 'range', kind: 'range', column: 'Value', least: 0 },
    { id: 'rows', kind: 'rows', least: 900 },
  ],
});

let [stepTime, tieTime, checkTime, lookTime, rows, equal, failing] = [0, 0, 0, 0, 0, 0, 0];
const seen: Seen[] = [];
const timed = <T>(work: () => T): [T, number] => {
  const began = performance.now();
  const made = work();
  return [made, performance.now() - began];
};
// Reading is not what is measured: a few papers stand for all.
const papers = Array.from({ length: Math.min(reports, 25) }, (_, n) => {
  const pages = paper(n);
  return { pages, tables: findTables(pages) };
});
for (let n = 0; n < reports; n++) {
  const key = `r${n}.pdf`;
  const input = { key, path: key, ...papers[n % papers.length] };
  const [carried, steps] = timed((): CarriedReport => carryReport(document, input));
  const [ties, tieing] = timed(() => tied(document, carried));
  const [problems, checking] = timed(() => runChecks(document.checks, carried.sheet, key, carried.paper));
  const [traits, looking] = timed(() => carried.traits());
  [stepTime, tieTime, checkTime, lookTime] = [
    stepTime + steps,
    tieTime + tieing,
    checkTime + checking,
    lookTime + looking,
  ];
  rows += carried.sheet.rows.length;
  equal += ties.ties.filter(({ outcome }) => outcome === 'equal').length;
  failing += problems.length;
  seen.push({ key, path: key, period: null, known: n < reports - 1, traits });
}
const expecting = expectingOf(document);
const [differing, oneNew] = timed(() => differencesOf(seen, expecting));
const [, allNew] = timed(() =>
  differencesOf(
    seen.map((each) => ({ ...each, known: false })),
    expecting,
  ),
);
const share = (time: number) =>
  `${time.toFixed(0).padStart(7)} ms  ${((100 * time) / stepTime).toFixed(1).padStart(5)} % of the steps`;
process.stdout.write(
  `${reports} reports, ${rows} rows; ${equal} printed totals tie out, ${failing} checks fail, ${differing.length} differences\n`,
);
process.stdout.write(
  `steps            ${stepTime.toFixed(0).padStart(7)} ms\nprinted totals   ${share(tieTime)}\nchecks           ${share(checkTime)}\nwhat it looks like ${share(lookTime)}\none new compared ${share(oneNew)}\nall new compared ${share(allNew)}\nall together     ${share(tieTime + checkTime + lookTime + allNew)}\n`,
);
