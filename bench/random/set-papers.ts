// Sets random papers by several writers: two PDF libraries drawing line by line, the browser, and where it is installed a
// second engine for HTML. The same seed gives the same papers.
import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { WebDriver } from 'selenium-webdriver';
import type { PageContent } from '../../core/page/page';
import type { House } from '../../demo/layout';
import { jspdfPen } from '../../demo/jspdf-pen';
import { pdfkitPen } from '../../demo/pdfkit-pen';
import { readPages } from '../../server/pdf/read-pages';
import type { Truth, TruthTable } from '../scoring/score-files';
import { pageOf, tablesOnPages } from './browser';
import { drawPaper, formOf, withSigns } from './drawn';
import { randomPaper } from './random-paper';
import { sheetsOf, type Block, type Paper } from './sheet';

export interface SetPaper {
  readonly paper: Paper;
  readonly truth: Truth;
  readonly pages: readonly PageContent[];
  readonly bytes: Uint8Array;
}

const date = new Date('2025-01-06T09:00:00Z');
const upright: House = { width: 595.28, height: 841.89, margin: 46, size: 8, pitch: 12, ruleEveryRow: false, shadedHeading: false };
const letter: House = { ...upright, width: 612, height: 792 };
const landscape: House = { ...upright, width: 841.89, height: 595.28 };

const signed = (block: Block): Block =>
  block.kind === 'sheet' ? withSigns(block) : block.kind === 'beside' ? { ...block, left: block.left.map(signed), right: block.right.map(signed) } : block;

/** The fonts that every reader has by itself know no minus sign. */
const plain = (paper: Paper): Paper => JSON.parse(JSON.stringify(paper).replace(/−/g, '-'));

const truthOf = (producer: string, paper: Paper, pages: number, tables: readonly TruthTable[]): Truth => ({
  producer,
  layout: 'random',
  tags: sheetsOf(paper.blocks).some((sheet) => sheet.columns.some(({ signApart }) => signApart)) ? ['symbol-column'] : [],
  password: null,
  error: false,
  scanned: false,
  pages,
  tables,
});

async function drawn(paper: Paper, by: 'pdfkit' | 'jspdf', index: number): Promise<{ bytes: Uint8Array; tables: TruthTable[] }> {
  const own = plain(paper);
  const measuring = pdfkitPen(upright, 'measure', date).pen;
  measuring.newPage();
  const wide = sheetsOf(own.blocks).some((sheet) => formOf(measuring, { ...sheet, size: Math.max(7, sheet.size), spreads: false }, Infinity).width > upright.width - 92);
  const house = wide && !own.blocks.some(({ kind }) => kind === 'beside') ? landscape : index % 3 === 0 ? letter : upright;
  // jsPDF turns a page that is wider than high.
  if (by === 'jspdf' && house !== landscape) {
    const { pen, end } = jspdfPen(house, paper.name, date);
    const { tables } = drawPaper(pen, own, house);
    return { bytes: end(), tables };
  }
  const { pen, end } = pdfkitPen(house, paper.name, date);
  const { tables } = drawPaper(pen, own, house);
  return { bytes: new Uint8Array(await end()), tables };
}

async function printed(browser: WebDriver, paper: Paper): Promise<Uint8Array> {
  const address = `data:text/html;charset=utf-8,${encodeURIComponent(pageOf(paper))}`;
  await browser.get(address);
  const { data } = (await (browser as unknown as { sendAndGetDevToolsCommand(name: string, parameters: object): Promise<{ data: string }> }).sendAndGetDevToolsCommand('Page.printToPDF', { preferCSSPageSize: true, printBackground: true }));
  return new Uint8Array(Buffer.from(data, 'base64'));
}

let installed: boolean | undefined;
const hasWeasyprint = () => (installed ??= spawnSync('weasyprint', ['--version']).status === 0);

function setByWeasyprint(paper: Paper): Uint8Array {
  const folder = mkdtempSync(join(tmpdir(), 'paper-'));
  try {
    writeFileSync(join(folder, 'a.html'), pageOf(paper));
    const done = spawnSync('weasyprint', ['-q', 'a.html', 'a.pdf'], { cwd: folder, timeout: 60_000 });
    if (done.status !== 0) throw new Error(`weasyprint: ${done.stderr}`);
    return new Uint8Array(readFileSync(join(folder, 'a.pdf')));
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

/** Which writer sets the paper at a place. Without a browser the two that draw line by line take over. */
const writerOf = (index: number, browser: boolean) => {
  const at = index % 20;
  if (at === 19 && browser && hasWeasyprint()) return 'weasyprint';
  if (at >= 14 && browser) return 'chromium';
  return index % 2 === 0 ? 'pdfkit' : 'jspdf';
};

/** Sets one paper and reads its pages. */
export async function setPaper(seed: number, index: number, browser?: WebDriver): Promise<SetPaper> {
  const described = randomPaper(seed, index);
  const writer = writerOf(index, browser !== undefined);
  const paper: Paper = { ...described, blocks: described.blocks.map(signed), properties: [...described.properties, `writer ${writer}`] };
  const done = writer === 'pdfkit' || writer === 'jspdf' ? await drawn(paper, writer, index) : { bytes: writer === 'chromium' ? await printed(browser!, paper) : setByWeasyprint(paper), tables: undefined };
  // The parser takes the bytes away from who hands them over.
  const { pages } = await readPages(done.bytes.slice(), paper.name);
  const tables = done.tables ?? tablesOnPages(paper, pages);
  return { paper, truth: truthOf(writer, paper, pages.length, tables), pages, bytes: done.bytes };
}
