import { readFileSync } from 'node:fs';
import type { Stages } from '../../core/pipeline/stages';
import { builtFile } from './built';

/** Which build this is: what is kept of a result says by which it was made. */
export interface Build {
  /** As package.json has it. */
  readonly release: string;
  readonly stages: Stages;
}

/** As the build of the program wrote it down; see scripts/fingerprints.mjs. */
export const thisBuild = JSON.parse(readFileSync(builtFile('build.json'), 'utf8')) as Build;

/** Are results of a build those that this one would make? */
export const isThisBuild = (build: Build | null): boolean =>
  build !== null && JSON.stringify(sorted(build.stages)) === JSON.stringify(sorted(thisBuild.stages));

/** A build in words: its release, and its stages as one short text. */
export const buildWords = (build: Build | null): string =>
  build === null
    ? 'an older program'
    : `release ${build.release} (${Object.values(sorted(build.stages))
        .map((each) => each.slice(0, 3))
        .join('-')})`;

/** The stages of this build as one text. */
export const stagesNow = (): string => JSON.stringify(sorted(thisBuild.stages));

const sorted = (stages: Stages) => Object.fromEntries(Object.entries(stages).sort(([a], [b]) => (a < b ? -1 : 1)));
