import { createHash } from 'node:crypto';
import { mkdtemp, readdir, readFile, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import * as v from 'valibot';
import { evidenceIn, type Evidence } from '../../core/evidence/evidence';
import { carryReport } from '../../core/pipeline/carry';
import { lookUpSteps } from '../../core/pipeline/bound-lists';
import { faultsOf, parsePipeline, splitAllReports } from '../../core/pipeline/document';
import { readerVersion } from '../../core/reading/find-tables';
import { tied } from '../../core/ties/tied';
import { cellText } from '../../core/values/cell';
import { plainNumber } from '../../core/values/plain-number';
import { listsIn } from '../lists/list-files';
import { UnreadableReport } from '../pdf/document';
import { rowNamed } from '../work/looks/trace';
import { reportContent } from '../work/report-content';

/** One thing that was checked: what it is, and what is wrong with it; nothing wrong: it is as the slip says. */
export interface Verified {
  readonly what: string;
  readonly wrong?: string;
  /** It could not be checked, and why. */
  readonly unchecked?: string;
}

const evidenceOf = async (slip: string): Promise<Evidence> => {
  const html = await readFile(slip, 'utf8').catch(() => {
    throw new Error(`There is no file ${slip}.`);
  });
  try {
    return evidenceIn(html);
  } catch (error) {
    throw v.isValiError(error) ? new Error(`The evidence in the slip is damaged: ${faultsOf(error as v.ValiError<v.GenericSchema>)}.`) : error;
  }
};

/** Checks a slip against the files: the file is the same, the words stand where it says, and the steps give the same figure again. */
export async function verified(evidence: Evidence, folder: string): Promise<Verified[]> {
  const { file, figure } = evidence;
  const found = await fileOf(evidence, folder);
  if (!found) return [{ what: `the file ${file.path}`, wrong: `no file in ${folder} has the content that the slip names (SHA-256 ${file.sha256.slice(0, 12)}...); it is missing or was changed` }];
  const checks: Verified[] = [{ what: `the file ${found}, by its SHA-256` }];
  const cacheFolder = await mkdtemp(join(tmpdir(), 'able-sieve-verify-'));
  try {
    const { content } = await reportContent({ file: join(folder, found), sha256: file.sha256, cacheFolder, path: file.path }, {});
    for (const { page, words } of evidence.print) {
      const there = content.pages.find(({ number }) => number === page)?.words ?? [];
      const lost = words.filter(({ text, box }) => !there.some((word) => word.text === text && word.box.every((edge, i) => Math.abs(edge - box[i]) < 0.6)));
      checks.push({ what: `the words on page ${page}`, ...(lost.length > 0 ? { wrong: `${lost.map(({ text }) => `“${text}”`).join(', ')} ${lost.length === 1 ? 'does' : 'do'} not stand there` } : {}) });
    }
    const document = parsePipeline(evidence.pipeline.document);
    const again = figureAgain(evidence, carryReport(document, { key: 'report', path: file.path, period: file.period, pages: content.pages, tables: content.tables }, { lists: listsIn(cacheFolder) }));
    checks.push(again.wrong && lookUpSteps(document).length > 0 ? { what: again.what, unchecked: 'a step looks values up in lists that are not in the slip' } : again);
    if (evidence.reader !== 0 && evidence.reader !== readerVersion) checks.push({ what: 'the reader of tables', unchecked: `the slip was made with reader ${evidence.reader}, this is ${readerVersion}` });
  } catch (error) {
    if (!(error instanceof UnreadableReport)) throw error;
    checks.push({ what: `the pages of ${found}`, wrong: `expected ${error.problem.expected}, got ${error.problem.came}` });
  } finally {
    await rm(cacheFolder, { recursive: true, force: true });
  }
  return figure.kind === 'cell' && evidence.passed.some(({ whole }) => whole) ? [...checks, { what: 'the steps over all reports', unchecked: 'they need all files, and are not run again' }] : checks;
}

/** The path of the file, or of one with the same content, below a folder. */
async function fileOf({ file: { path, sha256 } }: Evidence, folder: string): Promise<string | undefined> {
  const isIt = async (name: string) => {
    const bytes = await readFile(join(folder, name)).catch(() => undefined);
    return bytes !== undefined && createHash('sha256').update(bytes).digest('hex') === sha256;
  };
  if (await isIt(path)) return path;
  for (const name of (await readdir(folder, { recursive: true })).sort()) if (/\.pdf$/i.test(name) && (await isIt(name))) return name;
  return undefined;
}

/** Carries the report through the steps of the slip, and holds its figure against what comes. */
function figureAgain(evidence: Evidence, carried: ReturnType<typeof carryReport>): Verified {
  const { figure } = evidence;
  if (figure.kind === 'total') {
    const { table, ordinal } = figure.row;
    const tie = tied(parsePipeline(evidence.pipeline.document), carried).ties.find(({ row, step, column }) => row.table === table && row.ordinal === ordinal && step === figure.tie.step && column === figure.tie.column);
    const what = `the total “${figure.tie.label || 'Total'}” of ${figure.tie.column}`;
    if (!tie) return { what, wrong: 'the steps keep no such total of the file' };
    if (tie.outcome !== figure.tie.outcome && splitAllReports(parsePipeline(evidence.pipeline.document)).whole.length > 0) return { what, unchecked: 'it was compared after the steps over all reports, which need all files and are not run again' };
    const same = tie.printed === figure.tie.printed && tie.computed === figure.tie.computed && tie.outcome === figure.tie.outcome;
    return { what, ...(same ? {} : { wrong: `printed ${plainNumber(tie.printed)}, its rows give ${tie.computed === undefined ? 'nothing' : plainNumber(tie.computed)}: ${tie.outcome}` }) };
  }
  const own = evidence.passed.filter(({ whole }) => !whole).at(-1);
  const [column, text] = evidence.passed.some(({ whole }) => whole) ? [own?.column ?? figure.column, own?.text ?? figure.text] : [figure.column, figure.text];
  const at = rowNamed(carried.sheet.rows, 'report', figure.row);
  const cell = carried.sheet.columns.find(({ name }) => name === column)?.cells[at];
  const what = `the value of “${column}”`;
  if (cell === undefined) return { what, wrong: 'the steps give no such cell of the file' };
  return { what, ...(cellText(cell) === text ? {} : { wrong: `the steps give “${cellText(cell)}”, the slip says “${text}”` }) };
}

export async function verify(slip: string, options: { reports: string }): Promise<void> {
  const evidence = await evidenceOf(resolve(slip));
  const checks = await verified(evidence, resolve(options.reports));
  for (const { what, wrong, unchecked } of checks) process.stdout.write(`${(wrong ? 'differs' : unchecked ? 'not checked' : 'as it says').padEnd(11)}  ${what}${wrong ?? unchecked ? `: ${wrong ?? unchecked}` : ''}\n`);
  const failing = checks.filter(({ wrong }) => wrong).length;
  process.stdout.write(failing === 0 ? 'The slip holds.\n' : 'The slip does not hold.\n');
  if (failing > 0) process.exitCode = 1;
}
