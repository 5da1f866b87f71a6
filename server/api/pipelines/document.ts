import type { RequestHandler } from 'express';
import { expectsOf } from '../../../core/drift/expects';
import type { ReportTraits } from '../../../core/drift/traits';
import { documentText } from '../../../core/pipeline/document';
import { slug } from '../../store/names';
import { publishedParts } from '../../store/published';
import { storedTraits } from '../../store/report-traits';
import type { Deps } from '../deps';
import { pipelineOf } from './pipeline-of';

/** The document as a file, with what the reports in the dataset look like, so that the first that come anywhere else are held against it. */
export function documentFile(deps: Deps): RequestHandler<{ id: string }> {
  const { store } = deps;
  return async (request, response) => {
    const { id, document } = await pipelineOf(deps, request.params.id);
    const looks = new Map((await storedTraits(store, id)).map((each) => [each.report, each]));
    const inputs = (await publishedParts(store, id)).flatMap((part) => part.inputs);
    const seen = inputs.flatMap(({ report, path, sha256, period = null }) => {
      const own = looks.get(report);
      return own?.sha256 === sha256 ? [{ path, period, traits: JSON.parse(own.traits) as ReportTraits }] : [];
    });
    const expects = seen.length > 0 ? expectsOf(seen) : document.expects;
    const name = `${slug(document.name, 'pipeline')}.sieve.json`;
    response
      .type('application/json')
      .attachment(name)
      .send(documentText({ ...document, ...(expects ? { expects } : {}) }));
  };
}
