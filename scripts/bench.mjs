import { build, dependencies, engineFlags, root, run } from './prepare.mjs';
import { existsSync } from 'node:fs';
import { join } from 'node:path';

const [name, ...args] = process.argv.slice(2);
dependencies();
build();
const script = join(root, 'bench', `${name}.ts`);
if (!name || !existsSync(script)) {
  console.error(`There is no benchmark “${name ?? ''}”.`);
  process.exit(1);
}
run(process.execPath, [...engineFlags, '--max-old-space-size=8192', '--import', 'tsx', script, ...args]);
