/** How much of its usual size a benchmark has; a small part shows that it still runs. */
const share = Number(process.env.BENCH_SHARE ?? 1);

/** A size, or a count of rounds, of a benchmark: what is given, or else what is usual. */
export const sized = (usual: number, given?: string): number =>
  given === undefined ? Math.max(1, Math.round(usual * share)) : Number(given);
