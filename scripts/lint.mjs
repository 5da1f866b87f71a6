// Holds every source against the formatter and the rules of eslint; what was found right is remembered by its content.
import { dependencies, root, run, tool } from './prepare.mjs';

dependencies();
run(tool('prettier'), ['--check', '--log-level', 'warn', '--cache', '--cache-strategy', 'content', root]);
const cache = ['--cache', '--cache-location', 'node_modules/.cache/eslint/', '--cache-strategy', 'content'];
run(tool('eslint'), [root, ...cache, '--max-warnings', '0']);
