import { plainNumber } from '../values/plain-number';
import { embedded, type Evidence } from './evidence';

/** A piece of the paper as a picture. */
export interface CutOut {
  readonly page: number;
  /** A data address of an image. */
  readonly image: string;
}

export const escaped = (text: string) =>
  text.replace(/[&<>"']/g, (sign) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;', "'": '&#39;' })[sign]!);
const row = (...cells: readonly string[]) => `<tr>${cells.map((cell) => `<td>${escaped(cell)}</td>`).join('')}</tr>`;
const table = (headings: readonly string[], rows: readonly string[]) =>
  `<table><thead><tr>${headings.map((heading) => `<th scope="col">${escaped(heading)}</th>`).join('')}</tr></thead><tbody>${rows.join('')}</tbody></table>`;
const part = (title: string, content: string) =>
  content === '' ? '' : `<section><h2>${escaped(title)}</h2>${content}</section>`;

const style = `body{font:14px/1.45 "Source Sans 3",system-ui,sans-serif;color:#1B2530;margin:32px auto;max-width:780px}h1{font-size:20px;margin:0}h2{font-size:15px;margin:20px 0 4px}.figure{font-size:26px;font-weight:600;font-variant-numeric:tabular-nums}table{border-collapse:collapse;width:100%}th,td{text-align:left;padding:2px 10px 2px 0;border-bottom:1px solid #D3D9D6;vertical-align:top}th{color:#565E6B;font-weight:600}img{max-width:100%;border:1px solid #D3D9D6;display:block;margin:4px 0}code{font-size:12px;word-break:break-all}.muted{color:#565E6B}@media print{body{margin:0}}`;

/** A page that stands alone, in the look of slips. @param content HTML */
export const page = (
  title: string,
  content: string,
): string => `<!doctype html><html lang="en"><head><meta charset="utf-8"><title>${escaped(title)}</title><style>${style}</style></head><body>
${content}
</body></html>
`;

/** What a figure is called, and what it says. */
export function figureOf({ figure }: Evidence): { named: string; value: string } {
  if (figure.kind === 'cell') return { named: figure.column, value: figure.text || '(blank)' };
  const { label, column, printed, computed, rows } = figure.tie;
  return {
    named: `${label || 'Total'}, ${column}`,
    value: `${plainNumber(printed)} printed${computed === undefined ? '' : `, ${plainNumber(computed)} from its ${rows} rows`}`,
  };
}

/** One page that shows where a figure comes from; it stands alone, and holds its evidence to be checked later. */
export function slipHtml(of: Evidence, cutOuts: readonly CutOut[]): string {
  const { figure, file, pipeline } = of;
  const { named, value } = figureOf(of);
  const says = (tie: Evidence['ties'][number]) =>
    (tie.accepted === undefined ? tie.outcome : `${tie.outcome}, accepted: ${tie.accepted}`) +
    (tie.because ? `: ${tie.because}` : '');
  return page(
    `Evidence: ${named}`,
    `<p class="muted">Evidence slip · ${escaped(pipeline.name)}, version ${pipeline.version}, published ${escaped(of.publishedAt)}</p>
<h1>${escaped(named)}</h1><p class="figure">${escaped(value)}</p>
${part('On paper', `<p>${escaped(file.path)}${of.print.length > 0 ? `, page ${[...new Set(of.print.map(({ page }) => page))].join(', ')}: “${escaped(of.print.flatMap(({ words }) => words.map(({ text }) => text)).join(' '))}”` : ': not from the paper; it comes from a file name or a step'}</p>${cutOuts.map(({ page, image }) => `<img alt="${escaped(`Page ${page} as printed`)}" src="${escaped(image)}">`).join('')}<p>SHA-256 <code>${escaped(file.sha256)}</code></p>`)}
${
  figure.kind === 'cell'
    ? part(
        'In its row',
        table(
          ['Column', 'Value'],
          figure.beside.map(({ column, text }) => row(column, text)),
        ),
      )
    : part(
        'The rows that it covers',
        table(
          ['Row', 'Amount', 'Page'],
          figure.covers.map(({ label, amount, page }) => row(label, amount, String(page))),
        ) + (figure.more > 0 ? `<p class="muted">and ${figure.more} more</p>` : ''),
      )
}
${part(
  'What each step made of it',
  of.passed.length === 0
    ? ''
    : table(
        ['After', 'Column', 'Value'],
        of.passed.map(({ title, column, text, whole }) => row(whole ? `${title} (all reports)` : title, column, text)),
      ),
)}
${part(
  'Corrected by hand',
  of.corrections.length === 0
    ? ''
    : table(
        ['Step', 'Column', 'Before', 'Why'],
        of.corrections.map(({ title, column, old, why }) => row(title, column, old, why)),
      ),
)}
${part(
  'Held nearby',
  of.held.length === 0
    ? ''
    : table(
        ['Row', 'Held by', 'Why', 'Page'],
        of.held.map(({ text, title, reason, page }) => row(text, title, reason, String(page))),
      ),
)}
${part(
  'How it ties out',
  of.ties.length === 0
    ? ''
    : table(
        ['Printed total', 'Column', 'Printed', 'Its rows', 'Stands'],
        of.ties.map((tie) =>
          row(
            tie.label || 'Total',
            tie.column,
            plainNumber(tie.printed),
            tie.computed === undefined ? '' : plainNumber(tie.computed),
            says(tie),
          ),
        ),
      ),
)}
<p class="muted">To check it against the files: <code>able-sieve verify SLIP --reports FOLDER</code></p>
${embedded(of)}`,
  );
}
