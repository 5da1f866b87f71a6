import type { RequestHandler } from 'express';
import { reconciledWords } from '../../../core/checks/reconcile';
import type { ReconciledAnswer } from '../../contract/answers';
import { reconcileQuery } from '../../contract/contract';
import { comparedWith } from '../../runs/dataset-checks';
import { publishedParts } from '../../store/published';
import { Fault, checked } from '../fault';
import type { Published } from './published';

/** So many differences from a list are told one by one. */
const mostUnlike = 500;

/** The published dataset beside the list that a check compares it with. */
export function reconciled(datasets: Published): RequestHandler {
  const { store, runs, cacheFolder } = datasets.deps;
  return async (request, response) => {
    const { check: id } = checked(reconcileQuery, request.query, 'The check');
    const pipeline = await datasets.pipelineIn(request.params);
    const check = pipeline.document.checks.find((each) => each.id === id);
    if (check?.kind !== 'agrees with')
      throw new Fault('not found', `“${pipeline.document.name}” compares the dataset with no list under “${id}”.`);
    const answer = await datasets.reading(pipeline, async (): Promise<ReconciledAnswer> => {
      const parts = (await publishedParts(store, pipeline.id)).map((part) => part.id);
      const compared = await comparedWith(
        { store, cacheFolder, reading: (publication, work) => runs.reading(publication, work) },
        pipeline.id,
        check,
        parts,
      );
      if (typeof compared === 'string') return { because: compared, same: 0, unlike: [], more: 0 };
      const { same, unlike, lacks } = compared;
      return {
        same,
        unlike: unlike.slice(0, mostUnlike),
        more: Math.max(0, unlike.length - mostUnlike),
        ...(lacks.length > 0 ? { because: reconciledWords(compared)! } : {}),
      };
    });
    response.json(answer);
  };
}
