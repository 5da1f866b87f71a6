import { signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { beforeEach, describe, expect, it } from 'vitest';
import { AppliedAtOnce } from './applied-at-once';

describe('an answer', () => {
  const version = signal(1);
  const saving = signal(false);
  const running = signal(false);
  const edited = signal(false);
  let refreshed: number[];
  let applied: AppliedAtOnce;
  const settle = () => TestBed.tick();

  beforeEach(() => {
    version.set(1);
    for (const each of [saving, running, edited]) each.set(false);
    refreshed = [];
    applied = TestBed.runInInjectionContext(() => new AppliedAtOnce({ version, saving, running, edited, refresh: () => refreshed.push(version()) }));
    settle();
  });

  it('starts a refresh once it is saved, and no other', () => {
    applied.soon();
    settle();
    expect(refreshed).toEqual([]);
    saving.set(true);
    version.set(2);
    settle();
    expect(refreshed).toEqual([]);
    saving.set(false);
    settle();
    version.set(3);
    settle();
    expect(refreshed).toEqual([2]);
  });

  it('waits for the refresh under way', () => {
    running.set(true);
    applied.soon();
    version.set(2);
    settle();
    expect(refreshed).toEqual([]);
    running.set(false);
    settle();
    expect(refreshed).toEqual([2]);
  });

  it('starts none where somebody works on the steps', () => {
    edited.set(true);
    applied.soon();
    version.set(2);
    edited.set(false);
    settle();
    expect(refreshed).toEqual([]);
  });
});
