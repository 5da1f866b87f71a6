// English: a form a page, its labels above a short table; several forms a report.
import { page, random, row, type ReportFamily } from './family';

const items = ['Lifejackets', 'Radio', 'Flares', 'Anchor', 'Bilge pump', 'Lights', 'Horn', 'Hull'];
const heading = ['Item', 'Faults', 'State'];
const formsInReport = 3;

function report(nth: number) {
  const draw = random(1100 + nth);
  const rows: string[][] = [];
  const forms = Array.from({ length: formsInReport }, (_, form) => {
    const number = `IN-${nth + 1}0${form + 1}`;
    const vessel = `${draw.one(['Marlin', 'Heron', 'Tern', 'Petrel'])} ${draw.whole(1, 9)}`;
    const inspector = draw.one(['A. Quill', 'B. Marsh']);
    const body = items.slice(0, draw.whole(4, items.length)).map((item) => {
      const [faults, state] = [String(draw.whole(0, 4)), draw.one(['ok', 'ok', 'worn', 'renew'])];
      rows.push([number, vessel, inspector, item, faults, state]);
      return row([item, faults, state], [1]);
    });
    const labels = [
      ['Report no.', number],
      ['Vessel', vessel],
      ['Inspector', inspector],
    ].map(([label, value]) => `<p>${label}: ${value}</p>`);
    return `<div${form > 0 ? ' style="break-before: page"' : ''}><h1>Inspection report</h1>${labels.join('')}<table><tr>${heading.map((text) => `<th>${text}</th>`).join('')}</tr>${body.join('')}</table></div>`;
  });
  return {
    path: `inspections-2025-0${nth + 4}.pdf`,
    html: page(forms.join(''), 'td, th { border-bottom: 0.4pt solid #999 }'),
    rows,
  };
}

const made = [0, 1, 2].map(report);
export const inspections: ReportFamily = {
  name: 'inspections (en)',
  heading,
  reports: made,
  columns: ['Report no', 'Vessel', 'Inspector', ...heading],
  rows: made.map(({ rows }) => rows),
};
