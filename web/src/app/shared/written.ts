/** Is something being written or chosen where the key was pressed, or is it a key of the browser? Then it means nothing else. */
export function isWritten(event: Event): boolean {
  const { ctrlKey, metaKey, altKey } = event as KeyboardEvent;
  return ctrlKey || metaKey || altKey || (event.target instanceof Element && event.target.closest('input:not([aria-readonly="true"]), textarea, select, [contenteditable], [role="dialog"], [role="listbox"], [role="combobox"]') !== null);
}
