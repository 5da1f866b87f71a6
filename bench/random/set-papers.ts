// Sets random papers by several writers: two PDF libraries drawing line by line, one of them also as a typewriter does,
// the browser, and where they are installed a second engine for HTML, LaTeX and a spreadsheet. The same seed gives the
// same papers where the same writers are installed.
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
import { isWide, pageOf, tablesOnPages } from './browser';
import { spreadsheetOf } from './calc';
import { drawPaper, formOf, withSigns } from './drawn';
import { randomPaper } from './random-paper';
import { texOf } from './tex';
import { typed, typedPen } from './typed-pen';
import { sheetsOf, type Block, type Paper } from './sheet';

export interface SetPaper {
  readonly paper: Paper;
  readonly truth: Truth;
  readonly pages: readonly PageContent[];
  readonly bytes: Uint8Array;
}

const date = new Date('2025-01-06T09:00:00Z');
const upright: House = {
  width: 595.28,
  height: 841.89,
  margin: 46,
  size: 8,
  pitch: 12,
  ruleEveryRow: false,
  shadedHeading: false,
};
const letter: House = { ...upright, width: 612, height: 792 };
const landscape: House = { ...upright, width: 841.89, height: 595.28 };

const signed = (block: Block): Block =>
  block.kind === 'sheet'
    ? withSigns(block)
    : block.kind === 'beside'
      ? { ...block, left: block.left.map(signed), right: block.right.map(signed) }
      : block;

/** The fonts that every reader has by itself know neither a minus sign nor arrows. */
const plain = (paper: Paper): Paper =>
  JSON.parse(JSON.stringify(paper).replace(/−/g, '-').replace(/▲ ?/g, '+').replace(/▼ ?/g, '-'));

const truthOf = (producer: string, paper: Paper, pages: number, tables: readonly TruthTable[]): Truth => ({
  producer,
  layout: 'random',
  tags: sheetsOf(paper.blocks).some((sheet) => sheet.columns.some(({ signApart }) => signApart))
    ? ['symbol-column']
    : [],
  password: null,
  error: false,
  scanned: false,
  pages,
  tables,
});

interface Drawn {
  readonly bytes: Uint8Array;
  /** What is known of the tables; the writers that arrange pages by themselves do not tell. */
  readonly tables?: readonly TruthTable[];
}

async function drawn(paper: Paper, by: 'pdfkit' | 'jspdf' | 'typed', index: number): Promise<Drawn> {
  const own = by === 'typed' ? typed(plain(paper)) : plain(paper);
  const penBy = by === 'typed' ? typedPen : pdfkitPen;
  const measuring = penBy(upright, 'measure', date).pen;
  measuring.newPage();
  const wide = sheetsOf(own.blocks).some(
    (sheet) =>
      formOf(measuring, { ...sheet, size: Math.max(7, sheet.size), spreads: false }, Infinity).width >
      upright.width - 92,
  );
  const house =
    wide && !own.blocks.some(({ kind }) => kind === 'beside') ? landscape : index % 3 === 0 ? letter : upright;
  // jsPDF turns a page that is wider than high.
  if (by === 'jspdf' && house !== landscape) {
    const { pen, end } = jspdfPen(house, paper.name, date);
    const { tables } = drawPaper(pen, own, house);
    return { bytes: end(), tables };
  }
  const { pen, end } = penBy(house, paper.name, date);
  const { tables } = drawPaper(pen, own, house);
  return { bytes: new Uint8Array(await end()), tables };
}

async function printed(browser: WebDriver, paper: Paper): Promise<Drawn> {
  const address = `data:text/html;charset=utf-8,${encodeURIComponent(pageOf(paper))}`;
  await browser.get(address);
  const { data } = await (
    browser as unknown as { sendAndGetDevToolsCommand(name: string, parameters: object): Promise<{ data: string }> }
  ).sendAndGetDevToolsCommand('Page.printToPDF', { preferCSSPageSize: true, printBackground: true });
  return { bytes: new Uint8Array(Buffer.from(data, 'base64')) };
}

/** Writers that run as commands: the source of a paper, and how the command that sets it is called and asked for. */
const commands = {
  weasyprint: { source: pageOf, file: 'a.html', command: ['weasyprint', '-q', 'a.html', 'a.pdf'], runs: 1 },
  latex: {
    source: (paper: Paper) => texOf(paper, isWide(paper)),
    file: 'a.tex',
    command: ['pdflatex', '-interaction=batchmode', '-halt-on-error', 'a.tex'],
    runs: 2,
  },
  calc: {
    source: (paper: Paper) => spreadsheetOf(paper, isWide(paper)),
    file: 'a.fods',
    command: ['soffice', '--headless', '--convert-to', 'pdf', 'a.fods'],
    runs: 1,
  },
} as const;

const installed = new Map<string, boolean>();
function isInstalled(command: string): boolean {
  if (!installed.has(command))
    installed.set(command, spawnSync(command, ['--version'], { timeout: 60_000 }).status === 0);
  return installed.get(command)!;
}

function setByCommand(paper: Paper, by: keyof typeof commands): Drawn {
  const { source, file, command, runs } = commands[by];
  const folder = mkdtempSync(join(tmpdir(), 'paper-'));
  try {
    writeFileSync(join(folder, file), source(paper));
    for (let i = 0; i < runs; i++) {
      const done = spawnSync(command[0], command.slice(1), { cwd: folder, timeout: 120_000 });
      if (done.status !== 0) throw new Error(`${by} could not set ${paper.name}: ${done.stdout}${done.stderr}`);
    }
    return { bytes: new Uint8Array(readFileSync(join(folder, 'a.pdf'))) };
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

type WriterName = 'pdfkit' | 'jspdf' | 'typed' | 'chromium' | keyof typeof commands;

/** Who sets the papers, in turn. Where one is not at hand, those that draw line by line take over. */
const turns: readonly WriterName[] = [
  'pdfkit',
  'jspdf',
  'chromium',
  'pdfkit',
  'typed',
  'jspdf',
  'latex',
  'chromium',
  'pdfkit',
  'jspdf',
  'calc',
  'pdfkit',
  'jspdf',
  'chromium',
  'weasyprint',
  'pdfkit',
  'latex',
  'jspdf',
  'chromium',
  'typed',
];

function writerOf(paper: Paper, index: number, browser: WebDriver | undefined): WriterName {
  const wanted = turns[index % turns.length];
  const own = index % 2 === 0 ? 'pdfkit' : 'jspdf';
  if (wanted === 'chromium') return browser ? wanted : own;
  // A spreadsheet has nothing beside its cells.
  if (wanted === 'calc' && !paper.blocks.every(({ kind }) => kind !== 'beside' && kind !== 'chart' && kind !== 'tiles'))
    return own;
  if (wanted in commands)
    return browser && isInstalled(commands[wanted as keyof typeof commands].command[0]) ? wanted : own;
  return wanted;
}

/** Sets one paper and reads its pages. */
export async function setPaper(seed: number, index: number, browser?: WebDriver): Promise<SetPaper> {
  const described = randomPaper(seed, index);
  const writer = writerOf(described, index, browser);
  const paper: Paper = {
    ...described,
    blocks: described.blocks.map(signed),
    properties: [...described.properties, `writer ${writer}`],
  };
  const done =
    writer === 'chromium'
      ? await printed(browser!, paper)
      : writer === 'pdfkit' || writer === 'jspdf' || writer === 'typed'
        ? await drawn(paper, writer, index)
        : setByCommand(paper, writer);
  // The parser takes the bytes away from who hands them over.
  const { pages } = await readPages(done.bytes.slice(), paper.name);
  const tables = done.tables ?? tablesOnPages(paper, pages);
  return { paper, truth: truthOf(writer, paper, pages.length, tables), pages, bytes: done.bytes };
}
