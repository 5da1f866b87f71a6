import { provideZonelessChangeDetection, type Provider, type Type, type EnvironmentProviders } from '@angular/core';
import { TestBed } from '@angular/core/testing';

const said = (element: Element) => element.textContent!.replace(/\s+/g, ' ').trim();

/** A component as it is shown, with what a test does to it. One at a time: what was shown before is gone. */
export async function show<Of>(component: Type<Of>, inputs: Readonly<Record<string, unknown>> = {}, providers: readonly (Provider | EnvironmentProviders)[] = []) {
  TestBed.resetTestingModule();
  TestBed.configureTestingModule({ providers: [provideZonelessChangeDetection(), ...providers] });
  const fixture = TestBed.createComponent(component);
  const root = fixture.nativeElement as HTMLElement;
  const settle = async () => {
    fixture.detectChanges();
    await fixture.whenStable();
    fixture.detectChanges();
  };
  const give = async (given: Readonly<Record<string, unknown>>) => {
    for (const [name, value] of Object.entries(given)) fixture.componentRef.setInput(name, value);
    await settle();
  };
  await give(inputs);
  return {
    of: fixture.componentInstance,
    root,
    settle,
    /** Other inputs. */
    give,
    texts: (css: string) => [...root.querySelectorAll(css)].map(said),
    /** Presses the nth button that says this or is called so. */
    press: async (says: string, nth = 0) => {
      const buttons = [...root.querySelectorAll('button')].filter((each) => said(each).includes(says) || each.getAttribute('aria-label') === says);
      if (!buttons[nth]) throw new Error(`There is no button “${says}”; there are ${[...root.querySelectorAll('button')].map(said).join(', ')}.`);
      buttons[nth].click();
      await settle();
    },
    write: async (css: string, text: string) => {
      const field = root.querySelector<HTMLInputElement>(css)!;
      field.value = text;
      field.dispatchEvent(new Event('input'));
      await settle();
    },
  };
}
