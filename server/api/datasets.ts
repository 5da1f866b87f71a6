import compression from 'compression';
import { Router } from 'express';
import { formats, formatFacts, type Format } from '../../core/dataset/file-options';
import { publicationOf } from '../store/dataset';
import { allPipelines } from '../store/pipelines';
import { sendDataset } from './dataset-files';
import type { Deps } from './deps';
import { Fault } from './fault';
import { readersToo } from './key';
import { openApi } from './open-api';

/** A published dataset as other programs find it. */
export interface DatasetListed {
  readonly name: string;
  readonly title: string;
  readonly rows: number;
  readonly publishedAt: string;
  readonly columns: readonly { readonly name: string; readonly type: string; readonly unit?: string }[];
  readonly files: readonly string[];
}

/** The published datasets under their names, for other programs: nothing here changes anything. */
export function datasetsRouter(deps: Deps): Router {
  const { store, key } = deps;
  const router = Router();
  router.use(readersToo(key, store));
  router.use(compression());

  router.get('/', async (_request, response) => {
    const listed: DatasetListed[] = [];
    for (const { id, document, viewName } of await allPipelines(store)) {
      const publication = await publicationOf(store, id);
      if (publication)
        listed.push({
          name: viewName,
          title: document.name,
          rows: publication.rows,
          publishedAt: publication.publishedAt,
          columns: publication.columns.map(({ heading, type, unit }) => ({
            name: heading,
            type,
            ...(unit ? { unit } : {}),
          })),
          files: formats.map((format) => `/datasets/${viewName}.${formatFacts[format].extension}`),
        });
    }
    response.setHeader('Cache-Control', 'no-cache').json(listed);
  });

  router.get('/openapi.json', (_request, response) => void response.json(openApi));

  router.get('/:file', async (request, response) => {
    const { file } = request.params;
    const dot = file.lastIndexOf('.');
    const [name, extension] = [file.slice(0, dot), file.slice(dot + 1)];
    const format = formats.find((each): each is Format => formatFacts[each].extension === extension);
    const pipeline = (await allPipelines(store)).find(({ viewName }) => viewName === name);
    if (dot < 0 || !pipeline)
      throw new Fault(
        'not found',
        `There is no dataset “${dot < 0 ? file : name}”. /datasets lists those that there are.`,
      );
    if (!format) throw new Fault('not found', `A dataset is had as ${formats.join(', ')}, not as “${extension}”.`);
    await sendDataset(deps, pipeline, format, request, response);
  });
  return router;
}
