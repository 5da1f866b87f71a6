import type { RequestHandler } from 'express';
import { changesBetween } from '../../../core/pipeline/changes';
import type { VersionAnswer } from '../../contract/answers';
import { versionsQuery } from '../../contract/contract';
import { publicationOf } from '../../store/dataset';
import { versionOf, versionsOf } from '../../store/pipelines';
import type { Deps } from '../deps';
import { Fault, checked } from '../fault';
import { pipelineOf } from './pipeline-of';

/** The versions of the document, the last first, each with what it changed. */
export function listVersions(deps: Deps): RequestHandler<{ id: string }> {
  const { store } = deps;
  return async (request, response) => {
    const pipeline = await pipelineOf(deps, request.params.id);
    const { below, count } = checked(versionsQuery, request.query, 'The versions');
    const found = await versionsOf(store, pipeline.id, count + 1, below);
    const published = (await publicationOf(store, pipeline.id))?.version;
    const answer: VersionAnswer[] = found.slice(0, count).map(({ version, document, savedAt, savedBy }, i) => ({
      version,
      savedAt,
      savedBy,
      changes: found[i + 1] ? changesBetween(found[i + 1].document, document) : [],
      same:
        found.slice(i + 2).find((older) => JSON.stringify(older.document) === JSON.stringify(document))?.version ??
        null,
      published: version === published,
    }));
    response.json(answer);
  };
}

/** One version whole. */
export function oneVersion(deps: Deps): RequestHandler<{ id: string; version: string }> {
  const { store } = deps;
  return async (request, response) => {
    const pipeline = await pipelineOf(deps, request.params.id);
    const found = /^\d{1,9}$/.test(request.params.version)
      ? await versionOf(store, pipeline.id, Number(request.params.version))
      : undefined;
    if (!found) throw new Fault('not found', `“${pipeline.document.name}” has no version ${request.params.version}.`);
    response.json({ version: found.version, savedAt: found.savedAt, savedBy: found.savedBy, document: found.document });
  };
}
