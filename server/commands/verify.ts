import { createHash } from 'node:crypto';
import { mkdtemp, readdir, readFile, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { basename, join, resolve } from 'node:path';
import { strFromU8, unzipSync } from 'fflate';
import * as v from 'valibot';
import { bundleFirst } from '../../core/evidence/bundle';
import { evidenceIn, type Evidence } from '../../core/evidence/evidence';
import { carryReport } from '../../core/pipeline/carry';
import { lookUpSteps } from '../../core/pipeline/bound-lists';
import { faultsOf, parsePipeline, splitAllReports } from '../../core/pipeline/document';
import { tied } from '../../core/ties/tied';
import { cellText } from '../../core/values/cell';
import { plainNumber } from '../../core/values/plain-number';
import { thisBuild } from '../setup/build';
import { listsIn } from '../lists/lists-in';
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

function evidenceOf(html: string): Evidence {
  try {
    return evidenceIn(html);
  } catch (error) {
    throw v.isValiError(error) ? new Error(`The evidence in the slip is damaged: ${faultsOf(error)}.`) : error;
  }
}

/** The slips of a file, by name: one page, or those of a bundle. @throws Error saying what is wrong with it */
async function slipsIn(path: string): Promise<{ name: string; html: string }[]> {
  const bytes = await readFile(path).catch(() => {
    throw new Error(`There is no file ${path}.`);
  });
  // ZIP files begin so.
  if (bytes.subarray(0, 2).toString('latin1') !== 'PK') return [{ name: basename(path), html: bytes.toString('utf8') }];
  let files: Record<string, Uint8Array>;
  try {
    files = unzipSync(bytes);
  } catch {
    throw new Error(`${path} is damaged: it cannot be unpacked.`);
  }
  const slips = Object.entries(files).filter(([name]) => name.endsWith('.html') && name !== bundleFirst);
  if (slips.length === 0) throw new Error(`${path} is no bundle of evidence slips: no slip stands in it.`);
  return slips.map(([name, html]) => ({ name, html: strFromU8(html) }));
}

/** Checks a slip against the files: the file is the same, the words stand where it says, and the steps give the same figure again. */
export async function verified(evidence: Evidence, folder: string): Promise<Verified[]> {
  const { file, figure } = evidence;
  const found = await fileOf(evidence, folder);
  if (!found)
    return [
      {
        what: `the file ${file.path}`,
        wrong: `no file in ${folder} has the content that the slip names (SHA-256 ${file.sha256.slice(0, 12)}...); it is missing or was changed`,
      },
    ];
  const checks: Verified[] = [{ what: `the file ${found}, by its SHA-256` }];
  const cacheFolder = await mkdtemp(join(tmpdir(), 'able-sieve-verify-'));
  try {
    const { content } = await reportContent(
      { file: join(folder, found), sha256: file.sha256, cacheFolder, path: file.path },
      {},
    );
    for (const { page, words } of evidence.print) {
      const there = content.pages.find(({ number }) => number === page)?.words ?? [];
      const lost = words.filter(
        ({ text, box }) =>
          !there.some((word) => word.text === text && word.box.every((edge, i) => Math.abs(edge - box[i]) < 0.6)),
      );
      checks.push({
        what: `the words on page ${page}`,
        ...(lost.length > 0
          ? {
              wrong: `${lost.map(({ text }) => `“${text}”`).join(', ')} ${lost.length === 1 ? 'does' : 'do'} not stand there`,
            }
          : {}),
      });
    }
    const document = parsePipeline(evidence.pipeline.document);
    const again = figureAgain(
      evidence,
      carryReport(
        document,
        { key: 'report', path: file.path, period: file.period, pages: content.pages, tables: content.tables },
        { lists: listsIn(cacheFolder) },
      ),
    );
    checks.push(
      again.wrong && lookUpSteps(document).length > 0
        ? { what: again.what, unchecked: 'a step looks values up in lists that are not in the slip' }
        : again,
    );
    const { reading } = thisBuild.stages;
    if (evidence.reader !== 0 && evidence.reader !== reading)
      checks.push({
        what: 'the reader of tables',
        unchecked: `the slip was made with reader ${evidence.reader}, this is ${reading}`,
      });
  } catch (error) {
    if (!(error instanceof UnreadableReport)) throw error;
    checks.push({
      what: `the pages of ${found}`,
      wrong: `expected ${error.problem.expected}, got ${error.problem.came}`,
    });
  } finally {
    await rm(cacheFolder, { recursive: true, force: true });
  }
  return figure.kind === 'cell' && evidence.passed.some(({ whole }) => whole)
    ? [...checks, { what: 'the steps over all reports', unchecked: 'they need all files, and are not run again' }]
    : checks;
}

/** The path of the file, or of one with the same content, below a folder. */
async function fileOf({ file: { path, sha256 } }: Evidence, folder: string): Promise<string | undefined> {
  const isIt = async (name: string) => {
    const bytes = await readFile(join(folder, name)).catch(() => undefined);
    return bytes !== undefined && createHash('sha256').update(bytes).digest('hex') === sha256;
  };
  if (await isIt(path)) return path;
  for (const name of (await readdir(folder, { recursive: true })).sort())
    if (/\.pdf$/i.test(name) && (await isIt(name))) return name;
  return undefined;
}

/** Carries the report through the steps of the slip, and holds its figure against what comes. */
function figureAgain(evidence: Evidence, carried: ReturnType<typeof carryReport>): Verified {
  const { figure } = evidence;
  if (figure.kind === 'total') {
    const { table, ordinal } = figure.row;
    const tie = tied(parsePipeline(evidence.pipeline.document), carried).ties.find(
      ({ row, step, column }) =>
        row.table === table && row.ordinal === ordinal && step === figure.tie.step && column === figure.tie.column,
    );
    const what = `the total “${figure.tie.label || 'Total'}” of ${figure.tie.column}`;
    if (!tie) return { what, wrong: 'the steps keep no such total of the file' };
    if (
      tie.outcome !== figure.tie.outcome &&
      splitAllReports(parsePipeline(evidence.pipeline.document)).whole.length > 0
    )
      return {
        what,
        unchecked: 'it was compared after the steps over all reports, which need all files and are not run again',
      };
    const same =
      tie.printed === figure.tie.printed && tie.computed === figure.tie.computed && tie.outcome === figure.tie.outcome;
    return {
      what,
      ...(same
        ? {}
        : {
            wrong: `printed ${plainNumber(tie.printed)}, its rows give ${tie.computed === undefined ? 'nothing' : plainNumber(tie.computed)}: ${tie.outcome}`,
          }),
    };
  }
  const own = evidence.passed.filter(({ whole }) => !whole).at(-1);
  const [column, text] = evidence.passed.some(({ whole }) => whole)
    ? [own?.column ?? figure.column, own?.text ?? figure.text]
    : [figure.column, figure.text];
  const at = rowNamed(carried.sheet.rows, 'report', figure.row);
  const cell = carried.sheet.columns.find(({ name }) => name === column)?.cells[at];
  const what = `the value of “${column}”`;
  if (cell === undefined) return { what, wrong: 'the steps give no such cell of the file' };
  return {
    what,
    ...(cellText(cell) === text ? {} : { wrong: `the steps give “${cellText(cell)}”, the slip says “${text}”` }),
  };
}

export async function verify(path: string, options: { reports: string }): Promise<void> {
  const slips = await slipsIn(resolve(path));
  let failing = 0;
  for (const { name, html } of slips) {
    if (slips.length > 1) process.stdout.write(`${name}\n`);
    const checks = await verified(evidenceOf(html), resolve(options.reports));
    for (const { what, wrong, unchecked } of checks)
      process.stdout.write(
        `${(wrong ? 'differs' : unchecked ? 'not checked' : 'as it says').padEnd(11)}  ${what}${(wrong ?? unchecked) ? `: ${wrong ?? unchecked}` : ''}\n`,
      );
    if (checks.some(({ wrong }) => wrong)) failing++;
  }
  if (slips.length === 1) process.stdout.write(failing === 0 ? 'The slip holds.\n' : 'The slip does not hold.\n');
  else
    process.stdout.write(
      failing === 0
        ? `All ${slips.length} slips hold.\n`
        : `${failing} of ${slips.length} slips ${failing === 1 ? 'does' : 'do'} not hold.\n`,
    );
  if (failing > 0) process.exitCode = 1;
}
