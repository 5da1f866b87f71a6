/** Gives a file to whoever sits before the page. */
export function saved(name: string, type: string, content: string | Blob): void {
  const link = document.createElement('a');
  link.href = URL.createObjectURL(content instanceof Blob ? content : new Blob([content], { type }));
  link.download = name.replace(/[^\p{L}\p{N} ._-]+/gu, ' ').replace(/\s+/g, ' ').trim();
  link.click();
  // The browser has it by then.
  setTimeout(() => URL.revokeObjectURL(link.href), 10_000);
}
