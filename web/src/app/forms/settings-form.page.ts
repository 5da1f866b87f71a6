/**
 * Where the parts of the form are, for tests of the component and of the whole program alike. `id` of a field is read
 * off the label that names it.
 */
export const settingsFormParts = {
  labels: 'sieve-settings-form label',
  chips: '.chip',
  addLine: 'fieldset > button',
  removeLine: '.item > button',
  lines: 'fieldset .item',
} as const;

/** The form in a document of the test's own. */
export class SettingsFormPage {
  /** @param settled waits until what was done shows */
  constructor(
    private readonly root: HTMLElement,
    private readonly settled: () => Promise<unknown> = () => Promise.resolve(),
  ) {}

  titles = () => [...this.root.querySelectorAll('label, legend')].map((each) => each.textContent!.trim());
  field<Kind extends HTMLElement = HTMLInputElement>(title: string): Kind {
    const label = [...this.root.querySelectorAll<HTMLLabelElement>('label')].find((each) => each.textContent!.trim() === title);
    if (!label) throw new Error(`The form has no field “${title}”. It has: ${this.titles().join(', ')}.`);
    return this.root.querySelector<Kind>(`[id="${label.htmlFor}"]`)!;
  }
  write(title: string, text: string) {
    const field = this.field(title);
    if (field.getAttribute('role') === 'spinbutton') return this.type(field, text);
    field.value = text;
    field.dispatchEvent(new Event('input'));
  }
  /** Number fields take key by key. */
  private type(field: HTMLInputElement, digits: string) {
    field.focus();
    field.setSelectionRange(0, field.value.length);
    for (const key of digits) field.dispatchEvent(new KeyboardEvent('keypress', { key, code: `Digit${key}`, keyCode: key.charCodeAt(0), bubbles: true, cancelable: true }));
  }
  /** Ticks or unticks columns in the list of a choice of columns. */
  async tickColumns(title: string, ...names: string[]) {
    const list = this.named(`Columns of ${title}`)!.closest<HTMLElement>('.p-multiselect')!;
    list.click();
    await this.settled();
    for (const name of names) {
      [...document.querySelectorAll<HTMLElement>('.p-multiselect-overlay [role="option"]')].find((each) => each.textContent!.trim() === name)!.click();
      await this.settled();
    }
  }
  pick = (title: string, option: string) => this.pickFrom(this.field<HTMLElement>(title), option);
  /** Opens a list and presses the option that says this. */
  private async pickFrom(list: HTMLElement, option: string) {
    list.click();
    await this.settled();
    const found = [...document.querySelectorAll<HTMLElement>('.p-select-overlay [role="option"]')].find((each) => each.textContent!.trim() === option);
    if (!found) throw new Error(`The list has no option “${option}”.`);
    found.click();
    await this.settled();
  }
  /** A part by the name that it is read out with. */
  named = (label: string) => this.root.querySelector<HTMLElement>(`[aria-label="${label}"]`);
  private sent(label: string, text: string, event: 'input' | 'change') {
    const field = this.named(label) as HTMLInputElement;
    field.value = text;
    field.dispatchEvent(new Event(event));
  }
  writeLabelled = (label: string, text: string) => this.sent(label, text, 'input');
  changeLabelled = (label: string, text: string) => this.sent(label, text, 'change');
  pickLabelled = (label: string, option: string) => this.pickFrom(this.named(label)!, option);
  pressNamed(name: string) {
    const button = [...this.root.querySelectorAll('button')].find((each) => (each.getAttribute('aria-label') ?? each.textContent!.trim()) === name);
    if (!button) throw new Error(`The form has no button “${name}”.`);
    button.click();
  }
  tick(value: string) {
    [...this.root.querySelectorAll<HTMLElement>('sieve-value-list label')].find((each) => each.textContent!.includes(value))!.querySelector('input')!.click();
  }
  said = () => this.root.querySelector('[role="status"]')?.textContent?.trim();
  list = (label: string) => [...(this.named(label)?.querySelectorAll('li') ?? [])].map((each) => [...each.children].map((part) => part.textContent!.trim()).join(''));
  chips = () => [...this.root.querySelectorAll(settingsFormParts.chips)].map((each) => each.textContent!.trim());
  press = (part: keyof typeof settingsFormParts, at = 0) => this.root.querySelectorAll<HTMLElement>(settingsFormParts[part])[at].click();
  lines = () => this.root.querySelectorAll(settingsFormParts.lines).length;
}
