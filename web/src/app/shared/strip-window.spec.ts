import { TestBed } from '@angular/core/testing';
import { describe, expect, it } from 'vitest';
import { StripWindow } from './strip-window';

/** A strip in a frame of 1280 pixels, which a test scrolls. */
function strip(count: number, slot = 56, start = 0) {
  const window = TestBed.runInInjectionContext(() => new StripWindow(() => count, slot, start));
  const frame = document.createElement('div');
  Object.defineProperty(frame, 'clientWidth', { value: 1280 });
  window.watch(frame);
  const scroll = (left: number) => {
    frame.scrollLeft = left;
    window.scrolled();
  };
  return { window, frame, scroll };
}

describe('a long strip of slots', () => {
  it('is drawn whole where it fits', () => {
    const { window } = strip(22);
    expect([window.fits(), window.range(), window.before(), window.after()]).toEqual([true, { first: 0, last: 22 }, 0, 0]);
    expect(strip(22, 56, 196).window.fits()).toBe(false);
  });

  it('else draws what is in sight and a little more, and leaves the room of the others', () => {
    const { window, scroll } = strip(1000);
    for (const left of [0, 5_000, 30_000, 1000 * 56 - 1280]) {
      scroll(left);
      const { first, last } = window.range();
      expect(first * 56).toBeLessThanOrEqual(left);
      expect(last * 56).toBeGreaterThanOrEqual(Math.min(1000 * 56, left + 1280));
      expect(last - first).toBeLessThan(40);
      expect(window.before() + (last - first) * 56 + window.after()).toBe(1000 * 56);
    }
  });

  it('is scrolled to a slot that is not in sight, and not moved for one that is', () => {
    const { window, frame } = strip(1000);
    window.show(3);
    expect(frame.scrollLeft).toBe(0);
    window.show(500);
    const { first, last } = window.range();
    expect(first <= 500 && 500 < last).toBe(true);
    const there = frame.scrollLeft;
    window.show(501);
    window.show(-1);
    expect(frame.scrollLeft).toBe(there);
  });
});
