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
  constructor(private readonly root: HTMLElement) {}

  titles = () => [...this.root.querySelectorAll('label, legend')].map((each) => each.textContent!.trim());
  field<Kind extends HTMLElement = HTMLInputElement>(title: string): Kind {
    const label = [...this.root.querySelectorAll<HTMLLabelElement>('label')].find((each) => each.textContent!.trim() === title);
    if (!label) throw new Error(`The form has no field “${title}”. It has: ${this.titles().join(', ')}.`);
    return this.root.querySelector<Kind>(`[id="${label.htmlFor}"]`)!;
  }
  write(title: string, text: string) {
    const field = this.field(title);
    field.value = text;
    field.dispatchEvent(new Event('input'));
  }
  pick(title: string, option: string) {
    const field = this.field<HTMLSelectElement>(title);
    field.value = option;
    field.dispatchEvent(new Event('change'));
  }
  chips = () => [...this.root.querySelectorAll(settingsFormParts.chips)].map((each) => each.textContent!.trim());
  press = (part: keyof typeof settingsFormParts, at = 0) => this.root.querySelectorAll<HTMLElement>(settingsFormParts[part])[at].click();
  lines = () => this.root.querySelectorAll(settingsFormParts.lines).length;
}
