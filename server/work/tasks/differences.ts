import type { Difference, Seen } from '../../../core/drift/difference';
import { differencesOf } from '../../../core/drift/differences';
import { expectingOf } from '../../../core/pipeline/expecting';
import { pipelineFrom } from '../session';

/** What is different about some of the reports seen. */
export const differences = async ({ document, seen }: { document: string; seen: readonly Seen[] }): Promise<Difference[]> => differencesOf(seen, expectingOf(await pipelineFrom(document)));
