import { fileURLToPath } from 'node:url';

/** Where the demo lies, if it does: the source and the program built of it are as far from it. */
export const demoBeside = fileURLToPath(new URL('../../demo', import.meta.url));
