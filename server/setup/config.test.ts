import { Command } from 'commander';
import { resolve } from 'node:path';
import { afterEach, describe, expect, it } from 'vitest';
import { cacheIn, configFrom, droppedIn, serverOptions, sqlIn, type Config } from './config';

/** The settings that a command line gives, or what is said of it. */
function given(line: string): Config | string {
  const command = new Command().exitOverride().configureOutput({ writeErr: () => undefined });
  for (const option of serverOptions()) command.addOption(option);
  try {
    command.parse(line.split(' ').filter(Boolean), { from: 'user' });
    return configFrom(command.opts());
  } catch (error) {
    return (error as Error).message;
  }
}
const environment = { ...process.env };
afterEach(() => {
  for (const name of Object.keys(process.env)) if (!(name in environment)) delete process.env[name];
  Object.assign(process.env, environment);
});

describe('settings of the server', () => {
  it('have usual values, and listen on this machine only', () => {
    expect(given('')).toMatchObject({
      data: resolve('able-sieve-data'),
      host: '127.0.0.1',
      port: 4870,
      uploadLimit: 200,
      patience: 60,
      cacheLimit: 4000,
      logLevel: 'info',
      sql: undefined,
    });
    expect((given('') as Config).roots).toHaveLength(1);
  });

  it('come from the command line first, then from the environment', () => {
    Object.assign(process.env, { ABLE_SIEVE_PORT: '5000', ABLE_SIEVE_UPLOAD_LIMIT: '7', ABLE_SIEVE_ROOTS: '/a:/b' });
    expect(given('')).toMatchObject({ port: 5000, uploadLimit: 7, roots: ['/a', '/b'] });
    expect(given('--port 0 --upload-limit 9')).toMatchObject({ port: 0, uploadLimit: 9 });
  });

  it('take several folders, each by its full path', () => {
    expect((given('--root /reports --root ./more') as Config).roots).toEqual(['/reports', resolve('more')]);
    expect((given('--root /one:/two:') as Config).roots).toEqual(['/one', '/two']);
  });

  it.each([
    ['--port 70000', 'whole number from 0 to 65535'],
    ['--port -1', 'whole number from 0 to 65535'],
    ['--port 80.5', 'whole number from 0 to 65535'],
    ['--upload-limit 0', 'whole number from 1 to 100000'],
    ['--patience soon', 'whole number from 1 to 86400'],
    ['--sql-limit 1e3', 'whole number from 1 to 86400'],
    ['--log-level loud', 'Allowed choices are silent, error, warn, info, debug'],
  ])('%s is refused in a sentence', (line, says) => expect(given(line)).toContain(says));

  it('of SQL ask for a certificate with its key where tokens would go over the network', () => {
    expect(given('--sql-port 5433')).toMatchObject({ sql: { host: '127.0.0.1', port: 5433, limit: 30 } });
    for (const host of ['localhost', '::1', '127.1.2.3'])
      expect(given(`--sql-port 5433 --sql-host ${host}`)).toMatchObject({ sql: { host } });
    for (const host of ['0.0.0.0', '192.168.1.4', '127.0.0.1.example', '::'])
      expect(given(`--sql-port 5433 --sql-host ${host}`)).toContain('Tokens would go over the network');
    for (const half of ['--sql-cert c.pem', '--sql-key k.pem'])
      expect(given(`--sql-port 5433 ${half}`)).toBe('A certificate needs its key: give both --sql-cert and --sql-key.');
    expect(given('--sql-port 0 --sql-host 0.0.0.0 --sql-cert c.pem --sql-key k.pem --sql-limit 5')).toMatchObject({
      sql: { host: '0.0.0.0', port: 0, limit: 5, tls: { cert: resolve('c.pem'), key: resolve('k.pem') } },
    });
    // Without a port nothing is opened, whatever else is said.
    expect(given('--sql-host 0.0.0.0')).toMatchObject({ sql: undefined });
  });

  it('know where in a data folder everything lies', () => {
    expect([cacheIn('/d'), sqlIn('/d'), droppedIn('/d')]).toEqual(['/d/cache', '/d/sql', '/d/dropped']);
  });
});
