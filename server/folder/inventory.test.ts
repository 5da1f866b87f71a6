import { execFileSync } from 'node:child_process';
import { mkdir, rm, stat, symlink, utimes, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { temporaryFolder } from '../testing/folders';
import { FolderTrouble, inventory } from './inventory';

const paths = async (folder: string, roots?: readonly string[]) =>
  (await inventory(folder, new Map(), roots)).files.map(({ path, left }) => [path, left]);

describe('the files of a folder', () => {
  it('are told by what is in them, also when size and time are the same', async () => {
    const folder = await temporaryFolder();
    const file = join(folder, 'a.pdf');
    await writeFile(file, '%PDF-one');
    const when = new Date('2025-06-14T12:00:00Z');
    await utimes(file, when, when);
    const { files } = await inventory(folder);
    const known = new Map(files.map((each) => [each.path, each]));
    expect((await inventory(folder, known)).files).toEqual(files);
    await writeFile(file, '%PDF-two');
    await utimes(file, when, when);
    const [other] = (await inventory(folder, known)).files;
    expect([other.size, other.modified]).toEqual([files[0].size, files[0].modified]);
    expect(other.sha256).not.toBe(files[0].sha256);
  });

  it('are all listed: what is left out says why', async () => {
    const root = await temporaryFolder();
    const outside = await temporaryFolder();
    const folder = join(root, 'reports');
    await mkdir(join(folder, 'north'), { recursive: true });
    await mkdir(join(root, 'archive'));
    await writeFile(join(folder, 'north', 'week\\24.pdf'), '%PDF-');
    await writeFile(join(root, 'archive', 'old.pdf'), '%PDF-old');
    await writeFile(join(outside, 'secret.pdf'), '%PDF-secret');
    await symlink(join(root, 'archive', 'old.pdf'), join(folder, 'linked.pdf'));
    await symlink(join(root, 'archive'), join(folder, 'older'));
    await symlink(join(outside, 'secret.pdf'), join(folder, 'out.pdf'));
    await symlink(join(root, 'no-such-file'), join(folder, 'lost.pdf'));
    await symlink(folder, join(folder, 'north', 'round'));
    // A name in Latin 1: the program hands over no such bytes itself.
    execFileSync('/bin/sh', ['-c', `cd '${folder}' && printf x > "$(printf 'caf\\351.pdf')"`]);
    expect(await paths(folder, [root])).toEqual([
      ['café.pdf', 'name is not UTF-8'],
      ['linked.pdf', undefined],
      ['lost.pdf', 'a link that leads nowhere'],
      ['north/round', 'a link to a folder that is here already'],
      ['north/week\\24.pdf', undefined],
      ['older/old.pdf', undefined],
      ['out.pdf', 'a link that leads out'],
    ]);
  });

  it('that differ in the form of a letter only are two', async () => {
    const folder = await temporaryFolder();
    await writeFile(join(folder, 'café.pdf'.normalize('NFC')), '%PDF-1');
    await writeFile(join(folder, 'café.pdf'.normalize('NFD')), '%PDF-2');
    expect((await paths(folder)).map(([path]) => path)).toEqual([
      'café.pdf'.normalize('NFD'),
      'café.pdf'.normalize('NFC'),
    ]);
  });

  it('are not told by a folder that is gone', async () => {
    const folder = await temporaryFolder();
    await rm(folder, { recursive: true });
    await expect(inventory(folder)).rejects.toThrow(FolderTrouble);
    await expect(inventory(folder)).rejects.toThrow(/cannot be read \(ENOENT\)/);
  });

  it('name a file that cannot be opened, and go on', async () => {
    const folder = await temporaryFolder();
    await writeFile(join(folder, 'good.pdf'), '%PDF-');
    await symlink('loop.pdf', join(folder, 'loop.pdf'));
    expect(await paths(folder)).toEqual([
      ['good.pdf', undefined],
      ['loop.pdf', 'a link that leads nowhere'],
    ]);
    expect((await stat(join(folder, 'good.pdf'))).size).toBe(5);
  });
});
