import { MessageService } from 'primeng/api';
import { TestBed } from '@angular/core/testing';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { show } from '../../testing/shown';
import { Clipboard } from './clipboard';
import { addressNumber } from './look';
import { MiniSheet } from './mini-sheet';
import { saved } from './saved';
import { isWritten } from './written';

afterEach(() => vi.restoreAllMocks());

describe('a number of the address bar', () => {
  it('is one, or is not there', () => expect(['7', 7, undefined, null, 'seven', '7a'].map(addressNumber)).toEqual([7, 7, undefined, undefined, undefined, undefined]));
});

describe('rows in small', () => {
  it('say how many more there are', async () => {
    const rows = Array.from({ length: 9 }, (_, i) => [`row ${i}`, String(i)]);
    const { root, texts, give } = await show(MiniSheet, { rows, headingRows: 1, most: 4 });
    expect([texts('tr'), texts('tr.heading'), texts('p')]).toEqual([['row 00', 'row 11', 'row 22', 'row 33'].map((text) => expect.stringMatching(new RegExp(`^${text.slice(0, -1)}\\s*${text.slice(-1)}$`))), [expect.stringContaining('row 0')], ['and 5 more rows']]);
    await give({ most: 60 });
    expect([root.querySelectorAll('tr').length, texts('p')]).toEqual([9, []]);
  });
});

describe('a file given to the user', () => {
  it('has a name that every disk takes', () => {
    const names: string[] = [];
    Object.assign(URL, { createObjectURL: () => 'blob:x', revokeObjectURL: () => undefined });
    vi.spyOn(HTMLAnchorElement.prototype, 'click').mockImplementation(function (this: HTMLAnchorElement) {
      names.push(this.download);
    });
    saved('Total: Tern/Point  “Größe”.html', 'text/html', '<p>');
    saved('a.pdf', '', new Blob(['x']));
    expect(names).toEqual(['Total Tern Point Größe .html', 'a.pdf']);
  });
});

describe('a key', () => {
  it('means nothing else where something is written, chosen or asked, or with a key of the browser', () => {
    const root = document.createElement('div');
    root.innerHTML = '<p></p><input><div role="dialog"><button></button></div><div contenteditable="true"><b></b></div>';
    const pressed = (css: string, some: object = {}) => {
      let written = false;
      root.addEventListener('keydown', (event) => (written = isWritten(event)), { once: true });
      root.querySelector(css)!.dispatchEvent(new KeyboardEvent('keydown', { key: 'g', bubbles: true, ...some }));
      return written;
    };
    expect([pressed('p'), pressed('input'), pressed('button'), pressed('b'), pressed('p', { ctrlKey: true }), pressed('p', { shiftKey: true })]).toEqual([false, true, true, true, true, false]);
  });
});

describe('the clipboard', () => {
  it('says that a text was copied, or shows it where the browser does not let it', async () => {
    const told: [string, string, boolean][] = [];
    TestBed.resetTestingModule();
    TestBed.configureTestingModule({ providers: [{ provide: MessageService, useValue: { add: ({ severity, detail, sticky }: { severity: string; detail: string; sticky: boolean }) => told.push([severity, detail, sticky]) } }] });
    const clipboard = TestBed.inject(Clipboard);
    let lets = true;
    Object.defineProperty(navigator, 'clipboard', { configurable: true, value: { writeText: () => (lets ? Promise.resolve() : Promise.reject(new Error('no'))) } });
    clipboard.put('HK1');
    await Promise.resolve();
    lets = false;
    clipboard.put('HK1', 'Copied.');
    clipboard.put('x'.repeat(400));
    await new Promise((resolve) => setTimeout(resolve));
    expect(told).toEqual([['success', 'Copied.', false], ['warn', 'The browser did not let the clipboard be used. Here it is: HK1', true], ['warn', 'The browser did not let the clipboard be used.', true]]);
  });
});
