import { Router } from 'express';
import * as v from 'valibot';
import { addReader, readersOf, removeReader } from '../store/readers';
import type { Deps } from './deps';
import { checked, Fault } from './fault';

const readerName = v.object({
  name: v.pipe(
    v.string(),
    v.trim(),
    v.minLength(1, 'A reader needs a name.'),
    v.maxLength(80, 'The name of a reader has at most 80 characters.'),
  ),
});

/** Who may read the published datasets with a token of their own. */
export function readersRouter({ store, sql }: Deps): Router {
  const router = Router();
  router.get('/', async (_request, response) => void response.json(await readersOf(store)));
  router.put('/:name', async (request, response) => {
    const { name } = checked(readerName, request.params, 'The reader');
    const token = await addReader(store, name);
    // Whoever came in with the token before is out.
    await sql?.()?.shut(name);
    response.setHeader('Cache-Control', 'no-store').status(201).json({ name, token });
  });
  router.delete('/:name', async (request, response) => {
    const { name } = checked(readerName, request.params, 'The reader');
    if (!(await removeReader(store, name))) throw new Fault('not found', `There is no reader “${name}”.`);
    await sql?.()?.shut(name);
    response.status(204).end();
  });
  return router;
}
