// English: a sum goes on from page to page, wider than its column and beside a text that is wider than its own.
import { page, plain, printed, random, row, type ReportFamily } from './family';

const heading = ['Lot', 'Buyer', 'Kilos', 'Price'];
const [pagesInReport, lotsOnPage] = [3, 18];
const amount = (value: number) => printed(value, 2, ',', '.');

function report(nth: number) {
  const draw = random(1050 + nth);
  const rows: string[][] = [];
  let sum = 0;
  const sumRow = (text: string, bold = false) => row(['', text, '', amount(sum)], [2, 3], bold ? ' class="b"' : '');
  const pages = Array.from({ length: pagesInReport }, (_, at) => {
    const brought = at > 0 ? sumRow('Brought forward') : '';
    const lots = Array.from({ length: lotsOnPage }, (_, i) => {
      const [kilos, price] = [draw.whole(10, 900) / 10, draw.whole(1000, 99999) / 100];
      sum = Math.round((sum + price) * 100) / 100;
      const [lot, buyer] = [`0${nth}${at}${String(i).padStart(2, '0')}`, draw.one(['Quill', 'Reed', 'Marsh'])];
      rows.push([lot, buyer, plain(kilos, 1), plain(price, 2)]);
      return row([lot, buyer, kilos.toFixed(1), amount(price)], [2, 3]);
    });
    return `<div${at > 0 ? ' style="break-before: page"' : ''}><h1>Auction account ${nth + 1}</h1><table><tr>${heading.map((text, i) => `<th${i > 1 ? ' class="n"' : ''}>${text}</th>`).join('')}</tr>${brought}${lots.join('')}${sumRow(at < pagesInReport - 1 ? 'Carried forward' : 'Total', true)}</table></div>`;
  });
  return { path: `auction-account-${nth + 1}.pdf`, html: page(pages.join('')), rows };
}

const made = [0, 1].map(report);
export const auctionAccounts: ReportFamily = {
  name: 'auction accounts (en)',
  heading,
  reports: made,
  columns: heading,
  rows: made.map(({ rows }) => rows),
};
