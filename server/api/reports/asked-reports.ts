import type { Request } from 'express';
import { join } from 'node:path';
import type { StoredReport } from '../../contract/answers';
import { withinRoots } from '../../folder/roots';
import { boundDocument } from '../../lists/bind';
import type { StoredPipeline } from '../../store/pipelines';
import { reportsOf } from '../../store/reports';
import type { ReportTask } from '../../work/session';
import type { Deps } from '../deps';
import { Fault } from '../fault';
import { pipelineOf } from '../pipelines/pipeline-of';

/** The file of a report, if it is there: a link inside the folder must not lead out of the roots. @throws OutsideRoots */
export const fileOf = ({ config }: Deps, pipeline: StoredPipeline, path: string): Promise<string> =>
  withinRoots(join(pipeline.folder, path), pipeline.managed ? [pipeline.folder] : config.roots);

/** Is it an issue of a report, also one that does not count: one that can be looked at? */
export const isIssue = ({ standing }: StoredReport): boolean =>
  ['counts', 'replaced', 'undecided', 'set aside'].includes(standing);

/** The reports of a pipeline, as the handlers beside ask for them. */
export class AskedReports {
  constructor(readonly deps: Deps) {}

  pipelineIn = (params: Request['params']): Promise<StoredPipeline> =>
    pipelineOf(this.deps, (params as { id: string }).id);

  /** The document as threads are given it: with the lists that it looks into now. */
  async documentOf(pipeline: StoredPipeline): Promise<string> {
    const { store, cacheFolder, runs } = this.deps;
    const reading = <T>(publication: number, work: () => Promise<T>) => runs.reading(publication, work);
    return JSON.stringify((await boundDocument({ store, cacheFolder, reading }, pipeline)).document);
  }

  /** What a thread is asked with. @throws Fault for a report that cannot be read */
  async taskOf(
    pipeline: StoredPipeline,
    { id, path, sha256, period, standing, standingOf }: StoredReport,
  ): Promise<ReportTask> {
    if (standing === 'gone') throw new Fault('not found', `${path} is no longer in the folder.`);
    if (standing === 'not a PDF') throw new Fault('unreadable', `${path} is not a PDF.`);
    if (standing === 'not readable' || standing === 'left out')
      throw new Fault('unreadable', `${path} cannot be read: ${standingOf ?? standing}.`);
    const file = await fileOf(this.deps, pipeline, path);
    return { file, sha256, cacheFolder: this.deps.cacheFolder, key: String(id), path, period };
  }

  /** The report of a request's path, with the steps it is looked at by. */
  async asked(params: Request['params']) {
    const pipeline = await this.pipelineIn(params);
    const { report: id } = params as { report: string };
    const report = (await reportsOf(this.deps.store, pipeline.id)).find((each) => String(each.id) === id);
    if (!report) throw new Fault('not found', `There is no report ${id} in “${pipeline.document.name}”.`);
    return {
      steps: pipeline.document,
      document: await this.documentOf(pipeline),
      source: await this.taskOf(pipeline, report),
    };
  }
}
