import { provideZonelessChangeDetection } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { provideRouter } from '@angular/router';
import { of } from 'rxjs';
import { describe, expect, it, vi } from 'vitest';
import { Api } from '../api';
import { CommandFinder } from './command-finder';
import { Commands } from './commands';

async function finder() {
  TestBed.configureTestingModule({ providers: [provideZonelessChangeDetection(), provideRouter([]), { provide: Api, useValue: { pipelines: () => of([{ id: 7, name: 'Landing sheets' }]) } }] });
  const fixture = TestBed.createComponent(CommandFinder);
  const commands = TestBed.inject(Commands);
  const settled = async () => {
    fixture.detectChanges();
    await fixture.whenStable();
  };
  await settled();
  const press = async (key: string, target: EventTarget = document) => {
    target.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true }));
    await settled();
  };
  const field = () => document.querySelector<HTMLInputElement>('input[aria-controls="found-commands"]')!;
  const write = async (text: string) => {
    field().value = text;
    field().dispatchEvent(new Event('input'));
    await settled();
  };
  const found = () => [...document.querySelectorAll('#found-commands [role="option"]')].map((each) => each.textContent!.replace(/\s+/g, ' ').trim());
  return { commands, press, write, found, field, settled };
}

describe('the finder of commands', () => {
  it('opens by a key, finds by words, those that begin so first, and runs the one that the arrows come to', async () => {
    const { commands, press, write, found, field } = await finder();
    const run = vi.fn();
    const away = commands.give('test', () => [
      { says: 'Add: Hold totals', run: vi.fn() },
      { says: 'Add: Sort', run },
      { says: 'Report A', beside: 'sorted', run: vi.fn() },
    ]);
    await press('g');
    await write('sort');
    expect(found()).toEqual(['Add: Sort', 'Report A sorted']);
    await write('add');
    expect(found()).toEqual(['Add: Hold totals', 'Add: Sort']);
    await press('ArrowDown', field());
    await press('Enter', field());
    expect(run).toHaveBeenCalledOnce();
    expect(commands.open()).toBeUndefined();
    away();
    expect(commands.all()).toEqual([]);
  });

  it('knows the pipelines, and says so where nothing is called so', async () => {
    const { press, write, found } = await finder();
    await press('g');
    await write('landing');
    expect(found()).toEqual(['Landing sheets pipeline']);
    await write('no such thing');
    expect(found()).toEqual(['Nothing is called so here.']);
  });

  it('leaves the key to whoever is writing', async () => {
    const { commands, press } = await finder();
    const input = document.body.appendChild(document.createElement('input'));
    await press('g', input);
    expect(commands.open()).toBeUndefined();
    await press('?');
    expect(commands.open()).toBe('keys');
    input.remove();
  });
});
