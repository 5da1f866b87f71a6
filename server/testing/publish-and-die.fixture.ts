// Publishes a second version of a dataset and kills its own process at a named moment.
import { openPglite } from '../store/pglite-store';
import { allPipelines } from '../store/pipelines';
import { publishMade } from './rows';

const [folder, moment] = process.argv.slice(2);
const store = await openPglite(folder);
const [pipeline] = await allPipelines(store);
await publishMade(store, pipeline.id, 300, {
  size: 100,
  watch: (now) => {
    if (now === moment) process.kill(process.pid, 'SIGKILL');
  },
});
