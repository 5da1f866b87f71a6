import type { Request } from 'express';
import { publicationOf, type Publication } from '../../store/dataset';
import { allPipelines, type StoredPipeline } from '../../store/pipelines';
import type { Store } from '../../store/store';
import { Fault } from '../fault';

/** The number of a row in the dataset, from 1: the key of an entity. */
export const keyName = 'RowNumber';

/** A published dataset, as an entity set. */
export interface PublishedSet {
  readonly pipeline: StoredPipeline;
  readonly publication: Publication;
}

export async function publishedSets(store: Store): Promise<PublishedSet[]> {
  const all: PublishedSet[] = [];
  for (const pipeline of await allPipelines(store)) {
    const publication = await publicationOf(store, pipeline.id);
    if (publication) all.push({ pipeline, publication });
  }
  return all;
}

/** @throws Fault where no dataset is published under the name */
export async function setNamed(store: Store, name: string): Promise<PublishedSet> {
  const found = (await publishedSets(store)).find(({ pipeline }) => pipeline.viewName === name);
  if (!found) throw new Fault('not found', `There is no published dataset “${name}”.`);
  return found;
}

/** The address that the sets lie below. */
export const rootOf = (request: Pick<Request, 'protocol' | 'headers' | 'baseUrl'>): string =>
  `${request.protocol}://${request.headers.host}${request.baseUrl}`;
