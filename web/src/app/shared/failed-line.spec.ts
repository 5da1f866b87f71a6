import { Component, provideZonelessChangeDetection, signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import type { Asked } from './asked';
import { FailedLine } from './failed-line';

const asking = (failure?: string) => {
  const failed = signal(failure === undefined ? undefined : new Error(failure));
  const it = { waiting: signal(false), value: signal(undefined), failure: failed, times: 0, again: () => void it.times++, mend: () => failed.set(undefined) };
  return it;
};
const [a, b, c, fine] = [asking('The server is away.'), asking('The server is away.'), asking('No such page.'), asking()];

@Component({ imports: [FailedLine], template: `<sieve-failed-line [of]="all" [except]="except()" />` })
class Host {
  readonly all: readonly Asked<unknown>[] = [a, b, c, fine];
  readonly except = signal<string | undefined>(undefined);
}

describe('what could not be had', () => {
  it('is told once a reason, but for the one told elsewhere, and all that failed is asked again', async () => {
    TestBed.configureTestingModule({ providers: [provideZonelessChangeDetection()] });
    const fixture = TestBed.createComponent(Host);
    await fixture.whenStable();
    const lines = () => [...(fixture.nativeElement as HTMLElement).querySelectorAll('[role="alert"]')].map((each) => each.firstChild!.textContent!.trim());
    expect(lines()).toEqual(['The server is away.', 'No such page.']);
    fixture.componentInstance.except.set('The server is away.');
    await fixture.whenStable();
    expect(lines()).toEqual(['No such page.']);
    (fixture.nativeElement as HTMLElement).querySelector('button')!.click();
    expect([a, b, c, fine].map(({ times }) => times)).toEqual([1, 1, 1, 0]);
    for (const each of [a, b, c]) each.mend();
    await fixture.whenStable();
    expect(lines()).toEqual([]);
  });
});
