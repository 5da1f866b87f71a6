import type { Evidence } from './evidence';
import { escaped, figureOf, page } from './slip';

/** A slip of a bundle. */
export interface BundledSlip {
  /** Without ending. */
  readonly name: string;
  readonly evidence: Evidence;
  readonly html: string;
}

/** The page of a bundle that is no slip: it leads to them. */
export const bundleFirst = 'index.html';

const fileName = (name: string) =>
  name
    .replace(/[^\p{L}\p{N} ._-]+/gu, ' ')
    .replace(/\s+/g, ' ')
    .trim();

/** The files of a bundle: its slips, numbered in their order, and a first page that leads to each. */
export function bundleFiles(title: string, slips: readonly BundledSlip[]): { name: string; html: string }[] {
  const digits = String(slips.length).length;
  const files = slips.map(({ name, html }, at) => ({
    name: `${String(at + 1).padStart(digits, '0')} ${fileName(name)}.html`,
    html,
  }));
  const lines = slips.map(({ evidence }, at) => {
    const { named, value } = figureOf(evidence);
    const pages = [...new Set(evidence.print.map(({ page: on }) => on))].join(', ');
    return `<tr><td><a href="${escaped(encodeURIComponent(files[at].name))}">${escaped(named)}</a></td><td>${escaped(value)}</td><td>${escaped(evidence.file.path)}</td><td>${pages}</td></tr>`;
  });
  const first = page(
    title,
    `<h1>${escaped(title)}</h1><table><thead><tr><th scope="col">Figure</th><th scope="col">Value</th><th scope="col">Report</th><th scope="col">Page</th></tr></thead><tbody>${lines.join('')}</tbody></table>
<p class="muted">To check all of them against the files: <code>able-sieve verify BUNDLE.zip --reports FOLDER</code></p>`,
  );
  return [{ name: bundleFirst, html: first }, ...files];
}
