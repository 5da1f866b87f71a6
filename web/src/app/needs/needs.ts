import { gapsIn } from '../../../../core/intake/periods';
import type { Difference } from '../../../../core/drift/difference';
import { stillOpen } from '../../../../core/drift/differences';
import { noteSentence } from '../../../../core/runs/run';
import { differenceSentence } from '../../../../core/drift/words';
import type { Problem } from '../../../../core/sheet/problem';
import type { Need, PublishedAnswer, RunFull, StoredReport } from '../../../../server/contract/contract';
import { toldTies } from '../dataset/told-ties';
import { cellShown } from '../shared/cell-shown';
import { needSentence, plural } from '../shared/words';
import type { Pipeline } from '../../../../core/pipeline/document';

/** Something that waits for the analyst, in a sentence. */
export interface NeedItem {
  readonly id: string;
  readonly kind: 'difference' | 'report' | 'total' | 'check' | 'step' | 'hole' | 'run';
  readonly says: string;
  /** What becomes of it as long as nothing is done. */
  readonly until: string;
  readonly mark: string;
  /** The report and page to look at. */
  readonly report?: number;
  readonly page?: number;
  readonly difference?: Difference;
  /** The period of a hole. */
  readonly period?: string;
  /** The step that it comes from. */
  readonly step?: string;
}

export interface NeedsInput {
  readonly document: Pick<Pipeline, 'answers' | 'accepted' | 'checks' | 'reports'>;
  readonly reports: readonly StoredReport[];
  /** What the server says that it needs: how the last run ended, whatever came of reports before. */
  readonly needs: readonly Need[];
  /** The last run that came to the reports. */
  readonly run: RunFull | undefined;
  readonly published: PublishedAnswer | undefined;
  readonly sentenceOf: (problem: Problem) => string;
}

const reportOf = (reports: readonly StoredReport[]) => (key: string) => reports.find(({ id }) => String(id) === key);

/** All that needs the analyst, what holds reports back first. */
export function needsOf({ document, needs, reports, run, published, sentenceOf }: NeedsInput): NeedItem[] {
  const ended = needs.filter(({ kind }) => kind === 'not refreshed' || kind === 'run ended').map((need): NeedItem => ({ id: `run ${need.kind}`, kind: 'run', says: `${needSentence(need).replace(/\.$/, '')}.`, until: need.kind === 'run ended' ? 'the dataset is as it was before' : 'there is no dataset yet', mark: 'pi-times-circle' }));
  const told = run?.run.notes.flatMap((note) => (note.kind === 'differences' ? note.differences : [])) ?? [];
  const differences = stillOpen(told, document.answers, reportOf(reports)).map((difference): NeedItem => {
    const first = Number(difference.reports[0]);
    const waits = plural(difference.reports.length, 'report is', 'reports are');
    return { id: `difference ${difference.rule} ${difference.what} ${difference.column} ${difference.now ?? ''}`, kind: 'difference', says: differenceSentence(difference), until: difference.holds ? `${waits} held back until it is answered` : 'published; worth a look', mark: difference.holds ? 'pi-pause' : 'pi-eye', report: first, page: difference.page ?? 1, difference };
  });
  const out = (run?.reports ?? []).filter(({ state, problems }) => ['failed', 'stale'].includes(state) && !problems.some(({ kind }) => kind === 'differs'));
  const notHad = out.flatMap(({ report, path, state, problems }): NeedItem[] =>
    // The first says why; what follows from it is told at the run.
    problems.filter(({ kind }) => !['differs', 'drift', 'misfit', 'tie-out', 'check'].includes(kind)).slice(0, 1).map((problem, n): NeedItem => ({ id: `report ${report} ${n}`, kind: 'report', says: sentenceOf({ ...problem, report: String(report) }), until: state === 'stale' ? 'the rows of its last good version stay' : `nothing of ${path} is in the dataset`, mark: 'pi-times-circle', report, page: problem.page ?? 1 })),
  );
  const totals = published ? toldTies(published, document.accepted).ties.filter(({ stands }) => stands === 'off') : [];
  const off = totals.map((tie): NeedItem => ({ id: `total ${tie.id}`, kind: 'total', says: `${tie.path}: “${tie.label || 'Total'}” of ${tie.column} is ${tie.says}: printed ${cellShown(tie.printed, tie.decimals)}, its ${plural(tie.rows, 'row')} give ${cellShown(tie.computed ?? null, tie.decimals)}.`, until: 'published as it was read', mark: 'pi-exclamation-triangle', report: tie.report, page: tie.page }));
  // What a step could not do, or what was not taken for sure: alike ones of several reports are told once.
  const steps = new Map<string, NeedItem & { readonly alike: string[] }>();
  for (const { report, path, problems } of published?.reports ?? [])
    for (const problem of problems.filter(({ kind }) => kind === 'step' || kind === 'not taken' || kind === 'drift')) {
      const key = JSON.stringify([problem.kind, problem.step, problem.column, problem.expected, problem.remedy]);
      const known = steps.get(key);
      if (known) known.alike.push(path);
      else steps.set(key, { id: `step ${key}`, kind: problem.step === undefined ? 'report' : 'step', says: sentenceOf({ ...problem, report: String(report) }), until: 'published as it is', mark: 'pi-wrench', report, page: problem.page ?? 1, alike: [], ...(problem.step === undefined ? {} : { step: problem.step }) });
    }
  const ofSteps = [...steps.values()].map(({ alike, ...item }): NeedItem => (alike.length === 0 ? item : { ...item, says: `${item.says} So in ${plural(alike.length, 'more report', 'more reports')}.` }));
  const checks = new Map<string, NeedItem & { readonly alike: string[] }>();
  for (const { report, path, problems } of [...(published?.reports ?? []), ...(run?.reports.filter(({ state, problems }) => (state === 'held back' || state === 'stale') && !problems.some(({ kind }) => kind === 'differs')) ?? [])])
    for (const problem of problems.filter(({ check }) => check !== undefined)) {
      const known = checks.get(problem.check!);
      if (!known) checks.set(problem.check!, { id: `check ${problem.check}`, kind: 'check', says: sentenceOf({ ...problem, report: String(report) }), until: document.checks.find(({ id }) => id === problem.check)?.severity === 'hold back' ? 'the report is held back; rows of its last good version stay' : 'published as it is', mark: 'pi-list-check', report, page: problem.page ?? 1, alike: [path] });
      else if (!known.alike.includes(path)) known.alike.push(path);
    }
  const ofChecks = [...checks.values()].map(({ alike, ...item }): NeedItem => (alike.length === 1 ? item : { ...item, says: `${item.says} It fails in ${alike.length} reports.` }));
  const ofDataset = (run?.run.notes ?? []).flatMap((note): NeedItem[] => (note.kind === 'check' ? [{ id: `check ${note.check}`, kind: 'check', says: noteSentence(note), until: note.stops ? 'nothing was published' : 'published as it is', mark: 'pi-list-check' }] : []));
  const misfits = (published?.reports ?? []).flatMap(({ report, problems }) =>
    problems.filter(({ kind }) => kind === 'misfit').map((problem, n): NeedItem => ({ id: `misfits ${report} ${n}`, kind: 'step', says: sentenceOf({ ...problem, report: String(report) }), until: 'its cell is an error cell, blank in files', mark: 'pi-question-circle', report, page: problem.page ?? 1, ...(problem.step === undefined ? {} : { step: problem.step }) })),
  );
  const missing = gapsIn(reports, document.reports.none).map((period): NeedItem => ({ id: `hole ${period}`, kind: 'hole', says: `There is no report for ${period}.`, until: 'the dataset has no rows for it', mark: 'pi-calendar-minus', period }));
  const files = (run?.run.notes ?? []).flatMap((note): NeedItem[] => (note.kind === 'files' ? note.failed.map(({ path, because }): NeedItem => ({ id: `file ${path}`, kind: 'run', says: `${path} could not be written: ${because}`, until: 'the file is as it was before', mark: 'pi-file' })) : []));
  return [...ended, ...files, ...differences, ...notHad, ...off, ...ofDataset, ...ofChecks, ...ofSteps, ...misfits, ...missing];
}
