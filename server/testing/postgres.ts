import { execFileSync } from 'node:child_process';
import { chmodSync, existsSync, mkdtempSync, readdirSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

const versions = '/usr/lib/postgresql';

/** Debian's programs of a PostgreSQL server; undefined where they are not installed. */
export const postgresPrograms: string | undefined = existsSync(versions)
  ? readdirSync(versions)
      .map((version) => join(versions, version, 'bin'))
      .find((folder) => existsSync(join(folder, 'initdb')))
  : undefined;

/** A PostgreSQL server on a socket of its own, run by a user without rights. */
export function startPostgres() {
  const folder = mkdtempSync(join(tmpdir(), 'able-sieve-postgres-'));
  chmodSync(folder, 0o777);
  const data = join(folder, 'data');
  const run = (program: string, ...args: string[]) => {
    const command = [join(postgresPrograms!, program), ...args];
    // It refuses to be run by root.
    const asUser = process.getuid?.() === 0 ? ['setpriv', '--reuid=65534', '--regid=65534', '--clear-groups'] : [];
    const [first, ...rest] = [...asUser, ...command];
    return execFileSync(first, rest, { cwd: folder, encoding: 'utf8' });
  };
  run('initdb', '-D', data, '-U', 'owner', '--auth=trust', '--encoding=UTF8', '--no-sync');
  run('pg_ctl', '-D', data, '-w', '-l', join(folder, 'log'), '-o', `-k ${folder} -c listen_addresses=`, 'start');
  return {
    folder,
    /** Runs psql. @returns what it printed */
    psql: (...args: string[]) =>
      execFileSync(join(postgresPrograms!, 'psql'), ['-h', folder, '-U', 'owner', '-X', ...args, 'postgres'], {
        cwd: folder,
        encoding: 'utf8',
      }),
    stop: () => {
      run('pg_ctl', '-D', data, '-w', '-m', 'immediate', 'stop');
      rmSync(folder, { recursive: true, force: true });
    },
  };
}
