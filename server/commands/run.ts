import { mkdtemp, readFile, realpath, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { basename, dirname, join, resolve } from 'node:path';
import type { Difference } from '../../core/drift/difference';
import { answerTo } from '../../core/drift/differences';
import { decisionWords, differenceSentence } from '../../core/drift/words';
import { lookUpSteps } from '../../core/pipeline/bound-lists';
import type { Pipeline } from '../../core/pipeline/document';
import type { LayerCounts } from '../../core/pipeline/told';
import { noteSentence, stateSentence } from '../../core/runs/run';
import { sentence, type Names } from '../../core/sheet/problem';
import { cacheIn, userName } from '../setup/config';
import { openHouse } from '../house/open';
import type { RefreshResult } from '../runs/refresh/publishing';
import { formatOf } from '../export/to-file';
import { publicationOf } from '../store/dataset';
import { listFromFile } from '../lists/list-from-file';
import { versionOfList } from '../lists/list-files';
import { saveListFile } from '../store/lists';
import { addPipeline, pipelineById, pipelineByName, savePipeline } from '../store/pipelines';
import type { Store } from '../store/store';
import { writeOut, type OutOptions } from './out';
import { pipelineFile } from './pipeline-file';

/** Finds the pipeline of this name in the store or adds it, with the document and folder as given now. */
export async function upsert(store: Store, document: Pipeline, folder: string): Promise<number> {
  const known = await pipelineByName(store, document.name);
  if (!known) return (await addPipeline(store, document, folder, { who: userName() })).id;
  await savePipeline(store, known.id, document, { from: known.version, who: userName(), folder });
  return known.id;
}

/** Uploads the files that steps look into and checks compare with, as they lie beside the pipeline's own. @throws NotAList */
export async function uploadBeside(store: Store, document: Pipeline, file: string): Promise<void> {
  const names = new Set(
    [
      ...lookUpSteps(document),
      ...document.checks.flatMap((check) => (check.kind === 'agrees with' ? [check] : [])),
    ].flatMap(({ from }) => (from.is === 'file' ? [from.name] : [])),
  );
  for (const name of names) {
    const bytes = await readFile(join(dirname(resolve(file)), basename(name))).catch(() => undefined);
    // What is not there may have been uploaded before; a step that finds no list says so.
    if (bytes) await saveListFile(store, name, versionOfList(await listFromFile(bytes, name)), userName());
  }
}

export async function run(
  file: string,
  options: OutOptions & { reports: string; out?: string; data?: string; letGo?: boolean },
): Promise<void> {
  // Said before anything is done.
  if (options.out) formatOf(options.out);
  const document = await pipelineFile(file);
  const folder = await realpath(options.reports).catch(() => {
    throw new Error(`There is no folder ${options.reports}.`);
  });
  const temporary = options.data ? undefined : await mkdtemp(join(tmpdir(), 'able-sieve-'));
  let failure: Error | undefined;
  try {
    const data = options.data && resolve(options.data);
    const house = await openHouse(data, data ? cacheIn(data) : temporary!, { failed: (error) => (failure = error) });
    try {
      await uploadBeside(house.store, document, file);
      const id = await upsert(house.store, document, folder);
      const { finished } = await house.runs.start(id, { letGo: options.letGo ?? false });
      const result = await finished;
      if (!result) throw failure ?? new Error('The refresh was cancelled.');
      process.stdout.write(summary(result));
      if (options.out) {
        const publication = await publicationOf(house.store, id);
        if (publication)
          process.stdout.write(
            await writeOut(house.store, (await pipelineById(house.store, id))!, publication, options.out, options),
          );
      }
      if (result.state === 'nothing published') process.exitCode = 1;
    } finally {
      await house.close();
    }
  } finally {
    if (temporary) await rm(temporary, { recursive: true, force: true });
  }
}

/** The answers to differences for which reports wait, as they may be put into the document. */
function answersFor(differences: readonly Difference[], reports: RefreshResult['reports']): string[] {
  const open = differences.filter(({ holds, stopped }) => holds && !stopped);
  return open.flatMap((difference) => [
    `${differenceSentence(difference)} An answer is put into the list “answers” of the document:`,
    ...difference.proposals.map(
      (proposal) =>
        `    ${decisionWords(difference, proposal)}: ${JSON.stringify(
          answerTo(
            difference,
            proposal,
            reports.filter(({ report }) => difference.reports.includes(String(report))),
          ),
        )}`,
    ),
  ]);
}

/** The result as lines for the terminal: a line a report, its problems below it. */
export function summary({ state, rows, reports, whole, notes }: RefreshResult): string {
  const pathOf = new Map(reports.map(({ report, path }) => [String(report), path]));
  const named = (layers: readonly LayerCounts[]): Names => ({
    report: (key) => pathOf.get(key) ?? key,
    step: (id) => layers.find((layer) => layer.id === id)?.title ?? id,
  });
  const widest = Math.max(8, ...reports.map((report) => report.path.length));
  const lines = [`${'report'.padEnd(widest)}  state       rows   held  misfits  problems`];
  for (const report of reports) {
    const { matches, layers, problems } = report;
    const told = [
      stateSentence(report) ?? [],
      ...problems.map((problem) =>
        sentence({ report: report.path, ...problem }, named([...layers, ...(whole?.layers ?? [])])),
      ),
    ].flat();
    lines.push(
      `${report.path.padEnd(widest)}  ${report.state.padEnd(9)} ${String(report.rows).padStart(6)} ${String(report.held).padStart(6)} ${String(report.misfits).padStart(8)} ${String(told.length).padStart(9)}` +
        (matches.length > 0
          ? `  took ${matches.map((m) => `“${m.rule}” on page ${m.pages[0]}${m.pages.length > 1 ? `-${m.pages.at(-1)}` : ''} (sure ${m.sure})`).join(', ')}`
          : ''),
    );
    for (const each of told) lines.push(`    ${each}`);
  }
  for (const problem of whole?.problems ?? []) lines.push(sentence(problem, named(whole!.layers)));
  lines.push([`${state}: ${rows} rows.`, ...notes.map(noteSentence)].join(' '));
  for (const note of notes) if (note.kind === 'differences') lines.push(...answersFor(note.differences, reports));
  return `${lines.join('\n')}\n`;
}
