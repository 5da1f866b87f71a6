// What browsers have and the simulated one of component tests lacks.
globalThis.ResizeObserver ??= class {
  observe() {}
  unobserve() {}
  disconnect() {}
} as never;
window.matchMedia ??= ((media: string) => ({ media, matches: false, addEventListener: () => undefined, removeEventListener: () => undefined })) as unknown as typeof window.matchMedia;
Element.prototype.scrollIntoView ??= () => undefined;
