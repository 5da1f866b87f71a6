// Writes docs/steps.md anew: `npm run docs:steps`.
import { writeFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { stepsPage } from '../core/testing/steps-page';

writeFileSync(fileURLToPath(new URL('steps.md', import.meta.url)), stepsPage());
