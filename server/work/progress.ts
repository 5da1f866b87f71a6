import type { FoundFacts } from '../contract/answers';

/** What a thread tells while it reads: pages done and in all, and what was found on those done since it told last. */
export interface Progress {
  readonly done: number;
  readonly total: number;
  readonly found: FoundFacts;
}
