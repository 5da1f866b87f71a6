import { afterAll } from 'vitest';
import { removeTemporaryFolders } from './folders';

// Said before what a test file says, so it is done after it: a hook that a test asks for while it runs is never called.
afterAll(removeTemporaryFolders);
