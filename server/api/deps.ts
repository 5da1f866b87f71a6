import type { Logger } from 'pino';
import type { Config } from '../setup/config';
import type { RunManager } from '../runs/run-manager';
import type { Selections } from '../runs/selections';
import type { PublishedWindows } from '../runs/published-windows';
import type { SqlSnapshot } from '../sql/snapshot';
import type { Store } from '../store/store';
import type { Pool } from '../work/pool';

/** What the routers work with; put together in `open.ts`. */
export interface Deps {
  readonly config: Config;
  readonly store: Store;
  readonly pool: Pool;
  readonly runs: RunManager;
  readonly windows: PublishedWindows;
  readonly selections: Selections;
  readonly cacheFolder: string;
  /** Who sends it is the owner. */
  readonly key: string;
  readonly log: Logger;
  /** Where the published datasets can be queried with SQL, if anywhere. */
  readonly sql?: () => SqlSnapshot | undefined;
}
