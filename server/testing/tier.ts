/** Whether all that is long by number runs in full (`npm run test:long`), or with a small count of its own (`npm test`). */
export const isLong = process.env.TEST_TIER === 'long';

/** How often something is tried: in full, or before each commit. */
export const often = (full: number, short: number): number => (isLong ? full : short);
