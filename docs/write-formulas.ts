// Writes docs/formulas.md from the tables that formulas are checked by: `npm run docs:formulas`.
import { writeFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { formulasPage } from '../core/testing/formulas-page';

writeFileSync(fileURLToPath(new URL('formulas.md', import.meta.url)), formulasPage());
