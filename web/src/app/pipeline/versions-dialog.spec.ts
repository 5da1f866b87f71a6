import { signal } from '@angular/core';
import { of, throwError, type Observable } from 'rxjs';
import { describe, expect, it } from 'vitest';
import type { Pipeline } from '../../../../core/pipeline/document';
import type { VersionAnswer } from '../../../../server/contract/contract';
import { show } from '../../testing/shown';
import { Api } from '../api';
import { PipelineState } from './pipeline-state';
import { VersionsDialog } from './versions-dialog';

const version = (n: number, some: object = {}): VersionAnswer => ({ version: n, savedAt: '2025-06-09 08:00:00+00', savedBy: 'clerk', same: null, published: false, changes: [], ...some }) as unknown as VersionAnswer;
const document_ = { format: 'able-sieve/pipeline', version: 1, name: 'As it was', take: [] };

async function dialog(all: readonly VersionAnswer[], versionDocument: (n: number) => Observable<object> = () => of({ document: document_ })) {
  const [asked, wanted, changed]: [(number | undefined)[], number[], Pipeline[]] = [[], [], []];
  const state = { id: signal(1), pipeline: signal({ version: all[0].version }), change: (next: Pipeline) => changed.push(next) };
  const api = {
    versions: (_: number, below?: number) => (asked.push(below), of(all.filter((each) => below === undefined || each.version < below).slice(0, 50))),
    versionDocument: (_: number, n: number) => (wanted.push(n), versionDocument(n)),
    documentAddress: () => '/document.json',
  };
  const shown = await show(VersionsDialog, { open: true }, [{ provide: PipelineState, useValue: state }, { provide: Api, useValue: api }]);
  const inDialog = (css: string) => [...document.querySelectorAll(`.p-dialog ${css}`)].map((each) => each.textContent!.replace(/\s+/g, ' ').trim());
  const press = async (says: string) => {
    ([...document.querySelectorAll<HTMLElement>('.p-dialog button')].find((each) => each.textContent!.trim() === says))!.click();
    await shown.settle();
  };
  await shown.settle();
  return { ...shown, inDialog, press, asked, wanted, changed };
}

describe('the versions of a pipeline', () => {
  it('are listed, the newest first, with what each changed, and which is in the dataset', async () => {
    const { inDialog } = await dialog([version(3, { same: 1 }), version(2, { published: true }), version(1)]);
    expect(inDialog('li > b')).toEqual(['3', '2', '1']);
    expect(inDialog('li p')).toEqual(['The same in other words', 'The same in other words', 'The pipeline was made']);
    expect(inDialog('.state').map((text) => text.trim())).toEqual(['now', 'in the dataset Go back to 2', 'Go back to 1'].map((text) => expect.stringMatching(new RegExp(`^${text.replaceAll(' ', '\\s*')}$`))));
    expect(inDialog('small')[0]).toMatch(/clerk, says the same as version 1$/);
  });

  it('are gone back to by a new version, which closes the list', async () => {
    const { press, wanted, changed, of: own } = await dialog([version(3), version(2), version(1)]);
    await press('Go back to 2');
    expect([wanted, changed.map(({ name }) => name), own.open()]).toEqual([[2], ['As it was'], false]);
  });

  it('that cannot be had are told so, and nothing is changed', async () => {
    const { press, changed, inDialog, of: own } = await dialog([version(2), version(1)], () => throwError(() => new Error('There is no version 1.')));
    await press('Go back to 1');
    expect([changed, own.open(), inDialog('[role="alert"]').join()]).toEqual([[], true, expect.stringContaining('There is no version 1.')]);
  });

  it('that are many come by fifty, and those before are kept in sight', async () => {
    const { inDialog, press, asked } = await dialog(Array.from({ length: 120 }, (_, i) => version(120 - i)));
    expect(inDialog('li > b')).toHaveLength(50);
    await press('Older versions');
    await press('Older versions');
    expect(asked).toEqual([undefined, 71, 21]);
    expect(inDialog('li > b')).toEqual(Array.from({ length: 120 }, (_, i) => String(120 - i)));
    expect(inDialog('button')).not.toContain('Older versions');
  });
});
