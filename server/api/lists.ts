import { Router, raw } from 'express';
import { lookUpSteps } from '../../core/pipeline/bound-lists';
import type { ListAnswer } from '../contract/answers';
import { listName } from '../contract/contract';
import { versionOfList } from '../lists/list-files';
import { publicationOf } from '../store/dataset';
import { deleteListFile, listFile, listFiles, saveListFile, type StoredListFile } from '../store/lists';
import { allPipelines } from '../store/pipelines';
import type { Deps } from './deps';
import { whileOpen } from './looks';
import { checked, Fault } from './fault';

const told = ({ name, columns, rows, savedAt }: StoredListFile): ListAnswer => ({
  is: 'file',
  name,
  columns,
  rows,
  since: savedAt,
});

/** The tables that steps can look values up in: uploaded files, and what is published. */
export function listsRouter({ store, config, pool }: Deps): Router {
  const router = Router();

  router.get('/', async (_request, response) => {
    const datasets: ListAnswer[] = [];
    for (const { id, document } of await allPipelines(store)) {
      const publication = await publicationOf(store, id);
      if (publication)
        datasets.push({
          is: 'dataset',
          name: document.name,
          columns: publication.columns.map(({ heading }) => heading),
          rows: publication.rows,
          since: publication.publishedAt,
        });
    }
    response.json([...(await listFiles(store)).map(told), ...datasets] satisfies ListAnswer[]);
  });

  /** Keeps a CSV or XLSX file under its name; what looks into it does so from now on. */
  router.put('/:name', raw({ type: () => true, limit: `${config.uploadLimit}mb` }), async (request, response) => {
    const { name } = checked(listName, request.params, 'The file name');
    const bytes = Buffer.isBuffer(request.body) ? request.body : new Uint8Array();
    const list = await pool.run('list', { bytes, name }, { signal: whileOpen(response) }).catch((error: Error) => {
      throw new Fault(
        'bad input',
        `${name} is too much to be read (${error.message.replace(/\s+/g, ' ')}). Upload a part of it, or a CSV.`,
      );
    });
    if ('refused' in list) throw new Fault('bad input', list.refused);
    await saveListFile(store, name, versionOfList(list), config.who ?? '');
    response.status(201).json(told((await listFile(store, name))!));
  });

  router.delete('/:name', async (request, response) => {
    const { name } = checked(listName, request.params, 'The file name');
    if (!(await listFile(store, name)))
      throw new Fault('not found', `There is no list ${name}. It may have been deleted.`);
    const users = (await allPipelines(store))
      .filter(({ document }) => lookUpSteps(document).some(({ from }) => from.is === 'file' && from.name === name))
      .map(({ document }) => `“${document.name}”`);
    if (users.length > 0)
      throw new Fault('conflict', `${name} is looked into by ${users.join(', ')}. Take those steps out first.`);
    await deleteListFile(store, name);
    response.status(204).end();
  });
  return router;
}
