// What a fresh machine needs, step by step. Node built-ins only: this runs before anything is installed.
import { spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { cpSync, existsSync, mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join, relative } from 'node:path';
import { fileURLToPath } from 'node:url';

export const root = fileURLToPath(new URL('..', import.meta.url));

/** How the program is started; server/setup/engine.ts says why. */
export const { program: engineFlags } = JSON.parse(readFileSync(join(root, 'bin/engine.json'), 'utf8'));

export const tool = (name) => join(root, 'node_modules/.bin', name);

/** Runs a command with its output shown; ends the script when it fails. */
export function run(command, args, options = {}) {
  const { status, signal, error } = spawnSync(command, args, { cwd: root, stdio: 'inherit', ...options });
  if (status !== 0) {
    console.error(
      `${relative(root, command) || command} ${args.join(' ')} failed (${error?.message ?? signal ?? `exit code ${status}`}).`,
    );
    process.exit(status || 1);
  }
}

const files = (folder) =>
  readdirSync(join(root, folder), { withFileTypes: true, recursive: true })
    .filter((entry) => entry.isFile())
    .map((entry) => relative(root, join(entry.parentPath, entry.name)))
    .sort();

function hashOf(paths) {
  const hash = createHash('sha256').update(process.version);
  for (const path of paths) hash.update(path).update(readFileSync(join(root, path)));
  return hash.digest('hex');
}

const stamped = (stamp, value) => existsSync(join(root, stamp)) && readFileSync(join(root, stamp), 'utf8') === value;

/** Installs the dependencies unless those of this lock file and Node are there. */
export function dependencies() {
  const value = hashOf(['package-lock.json']);
  if (stamped('node_modules/.stamp', value)) return;
  console.log('Installing dependencies ...');
  run('npm', ['ci', '--no-audit', '--no-fund'], { env: { ...process.env, NODE_ENV: '', npm_config_omit: '' } });
  writeFileSync(join(root, 'node_modules/.stamp'), value);
}

const isSource = (path) => !/\.(?:test|spec)\.ts$/.test(path);

/** Builds what is not built of these sources yet: the server, and the screens. */
export function build() {
  const common = [
    'package-lock.json',
    'tsconfig.json',
    'bin/engine.json',
    'scripts/prepare.mjs',
    'scripts/empty-database.mjs',
    'scripts/fingerprints.mjs',
    'scripts/import-graph.mjs',
    'package.json',
    ...files('core').filter(isSource),
  ];
  part('server', [...common, ...files('server').filter(isSource)], buildServer);
  part(
    'web',
    [...common, 'angular.json', ...files('server/contract').filter(isSource), ...files('web').filter(isSource)],
    () => run(tool('ng'), ['build', '--no-progress'], { env: { ...process.env, NG_CLI_ANALYTICS: 'false' } }),
  );
}

function part(name, sources, make) {
  const stamp = `dist/.${name}-stamp`;
  const value = hashOf(sources);
  if (stamped(stamp, value) && existsSync(join(root, 'dist', name))) return;
  console.log(`Building the ${name === 'web' ? 'screens' : name} ...`);
  rmSync(join(root, 'dist', name), { recursive: true, force: true });
  mkdirSync(join(root, 'dist'), { recursive: true });
  make();
  writeFileSync(join(root, stamp), value);
}

function buildServer() {
  const { dependencies } = JSON.parse(readFileSync(join(root, 'package.json'), 'utf8'));
  // What the program needs beside it; all else is bundled, such as what is made of hundreds of files, which every thread would load.
  const outside = Object.keys(dependencies);
  run(tool('esbuild'), [
    'cli=server/cli.ts',
    'work-thread=server/work/thread.ts',
    'pglite-thread=server/store/pglite-thread.ts',
    'export-thread=server/export/thread.ts',
    'sql-thread=server/sql/thread.ts',
    'sql-process=server/sql/process.ts',
    '--bundle',
    '--splitting',
    ...outside.map((name) => `--external:${name}`),
    // What is bundled and made for the older way of modules asks for Node's own by this.
    `--banner:js=import { createRequire as requireFrom } from 'node:module'; const require = requireFrom(import.meta.url);`,
    '--platform=node',
    '--target=node20',
    '--format=esm',
    '--sourcemap',
    '--outdir=dist/server',
    '--out-extension:.js=.mjs',
    '--log-level=warning',
  ]);
  run(process.execPath, [join(root, 'scripts/fingerprints.mjs'), join(root, 'dist/server/build.json')]);
  run(process.execPath, [join(root, 'scripts/empty-database.mjs'), join(root, 'dist/server/empty-database.tar')]);
  cpSync(join(root, 'server/store/migrations'), join(root, 'dist/server/migrations'), { recursive: true });
}

/** Chromium and its driver for the tests in a browser: from the environment, the system, or Debian's packages. */
export function chromium() {
  const first = (...paths) => paths.find((path) => path && existsSync(path));
  const find = () => ({
    browser: first(process.env.CHROME_BIN, '/usr/bin/chromium', '/usr/bin/chromium-browser', '/usr/bin/google-chrome'),
    driver: first(process.env.CHROMEDRIVER, '/usr/bin/chromedriver'),
  });
  let found = find();
  if (!(found.browser && found.driver) && process.getuid?.() === 0 && existsSync('/usr/bin/apt-get')) {
    console.log('Installing chromium and chromium-driver ...');
    const options = ['-o', 'DPkg::Lock::Timeout=300', '-qq'];
    const env = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' };
    run('apt-get', ['update', ...options], { env });
    run(
      'apt-get',
      ['install', '-y', '--no-install-recommends', ...options, 'chromium', 'chromium-driver', 'fonts-dejavu-core'],
      { env },
    );
    found = find();
  }
  if (!(found.browser && found.driver)) {
    console.error(
      'The tests need Chromium and ChromeDriver, and they are not on this machine. Install the packages chromium and chromium-driver (Debian), or set CHROME_BIN and CHROMEDRIVER to where they are.',
    );
    process.exit(1);
  }
  return found;
}

/** Every optional dependency named in the lock file must stand in it, or `npm ci` fails on other machines. */
export function lockIsWhole() {
  const packages = JSON.parse(readFileSync(join(root, 'package-lock.json'), 'utf8')).packages;
  const missing = [];
  for (const [path, { optionalDependencies = {} }] of Object.entries(packages))
    for (const name of Object.keys(optionalDependencies)) {
      const parents = [path];
      while (parents.at(-1))
        parents.push(
          parents.at(-1).includes('/node_modules/')
            ? parents.at(-1).replace(/\/node_modules\/(?:(?!\/node_modules\/).)*$/, '')
            : '',
        );
      if (!parents.some((parent) => packages[`${parent ? `${parent}/` : ''}node_modules/${name}`]))
        missing.push(`${path} -> ${name}`);
    }
  if (missing.length > 0) {
    console.error(
      `package-lock.json lacks optional entries, so that npm ci fails:\n${missing.join('\n')}\nRun npm install again with the overrides of package.json.`,
    );
    process.exit(1);
  }
}
