import { random } from '../../demo/random';

/** Reports of one kind, as HTML to be printed, and the rows that their dataset should have. */
export interface ReportFamily {
  readonly name: string;
  /** Headings of the table that is wanted. */
  readonly heading: readonly string[];
  readonly reports: readonly { readonly path: string; readonly html: string }[];
  readonly columns: readonly string[];
  /** By report. */
  readonly rows: readonly (readonly (readonly string[])[])[];
}

/** A number with so many decimals, as it is printed with these marks. */
export function printed(value: number, decimals: number, group: string, mark: string): string {
  const [whole, fraction] = value.toFixed(decimals).split('.');
  return `${whole.replace(/\B(?=(\d{3})+$)/g, group)}${fraction ? mark + fraction : ''}`;
}

/** The same as a file has it. */
export const plain = (value: number, decimals: number): string => String(Number(value.toFixed(decimals)));

export const page = (body: string, style = '') => `<!doctype html><meta charset="utf-8"><style>
@page { size: A4; margin: 18mm } body { font: 10pt 'DejaVu Sans', sans-serif } h1 { font-size: 14pt } table { border-collapse: collapse; margin-top: 8mm } td, th { padding: 1.2mm 3mm; text-align: left; vertical-align: top } .n { text-align: right } .b { font-weight: bold } ${style}
</style>${body}`;

export const cells = (texts: readonly string[], numbers: readonly number[] = [], tag = 'td') =>
  texts.map((text, i) => `<${tag}${numbers.includes(i) ? ' class="n"' : ''}>${text}</${tag}>`).join('');
export const row = (texts: readonly string[], numbers: readonly number[] = [], more = '') =>
  `<tr${more}>${cells(texts, numbers)}</tr>`;
export { random };
