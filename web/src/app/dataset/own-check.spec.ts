import { provideZonelessChangeDetection } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { parse } from 'valibot';
import { check, type Check } from '../../../../core/checks/check';
import { OwnCheck } from './own-check';

describe('a check written by hand', () => {
  async function writing(kind: string) {
    TestBed.configureTestingModule({ providers: [provideZonelessChangeDetection()] });
    const fixture = TestBed.createComponent(OwnCheck);
    fixture.componentRef.setInput('columns', ['Code', 'Boxes']);
    fixture.componentRef.setInput('sample', { columns: [], rows: [] });
    const added: Check[] = [];
    fixture.componentInstance.added.subscribe((each) => added.push(each));
    fixture.componentInstance['kind'].set(kind);
    await fixture.whenStable();
    const root = fixture.nativeElement as HTMLElement;
    const write = async (label: string, text: string) => {
      const field = root.querySelector<HTMLInputElement>(`[aria-label="${label}"]`)!;
      field.value = text;
      field.dispatchEvent(new Event('input'));
      await fixture.whenStable();
    };
    const button = [...root.querySelectorAll('button')].find((each) => each.textContent!.includes('Add the check'))!;
    return { write, button, added };
  }

  it('is offered once it is whole: a line of the paper needs the place of its number', async () => {
    const { write, button, added } = await writing('printed count');
    await write('The line, with {n} for the number', 'entries');
    expect(button.disabled).toBe(true);
    await write('The line, with {n} for the number', ' {n} entries ');
    button.click();
    expect(added.map((each) => ({ ...parse(check, each), id: '' }))).toEqual([{ kind: 'printed count', line: '{n} entries', severity: 'tell', id: '' }]);
  });

  it('of how many rows needs a bound, which is a number', async () => {
    const { write, button, added } = await writing('rows');
    await write('At least', 'many');
    expect(button.disabled).toBe(true);
    await write('At least', '10');
    button.click();
    expect(added).toMatchObject([{ kind: 'rows', least: 10, severity: 'tell' }]);
  });
});
