// What browsers have and the simulated one of component tests lacks.
import { vi } from 'vitest';

// A slow machine is no fault.
vi.setConfig({ testTimeout: 60_000, hookTimeout: 60_000 });

globalThis.ResizeObserver ??= class {
  observe() {}
  unobserve() {}
  disconnect() {}
} as never;
window.matchMedia ??= ((media: string) => ({ media, matches: false, addEventListener: () => undefined, removeEventListener: () => undefined })) as unknown as typeof window.matchMedia;
Element.prototype.scrollIntoView ??= () => undefined;
