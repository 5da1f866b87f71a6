import { Component, provideZonelessChangeDetection, signal } from '@angular/core';
import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { formOf, initialSettings } from '../../../../core/steps/fields';
import { kinds } from '../../../../core/steps/kinds';
import { SettingsForm } from './settings-form';
import { SettingsFormPage } from './settings-form.page';

@Component({ imports: [SettingsForm], template: `<sieve-settings-form [fields]="fields()" [values]="values()" [columns]="['Code', 'Boxes', '<b>Value</b>']" (changed)="values.set($event)" />` })
class Host {
  readonly fields = signal(formOf(kinds.get('trim rows')!));
  readonly values = signal<Record<string, unknown>>({});
}

describe('the form of a step', () => {
  let fixture: ComponentFixture<Host>;
  let form: SettingsFormPage;
  async function show(kind: string) {
    TestBed.configureTestingModule({ providers: [provideZonelessChangeDetection()] });
    fixture = TestBed.createComponent(Host);
    fixture.componentInstance.fields.set(formOf(kinds.get(kind)!));
    fixture.componentInstance.values.set(initialSettings(formOf(kinds.get(kind)!)));
    await fixture.whenStable();
    form = new SettingsFormPage(fixture.nativeElement);
  }
  const values = () => fixture.componentInstance.values();

  it('writes numbers as numbers', async () => {
    await show('trim rows');
    form.write('From the top', '3');
    expect(values()).toMatchObject({ top: 3, bottom: 0 });
  });

  it('chooses columns by list or by rule', async () => {
    await show('pick columns');
    const add = fixture.nativeElement.querySelector('.more') as HTMLSelectElement;
    add.value = 'Boxes';
    add.dispatchEvent(new Event('change'));
    await fixture.whenStable();
    expect(values()).toEqual({ columns: { by: 'names', names: ['Boxes'] } });
    expect(form.chips()).toEqual(['Boxes']);
    form.press('chips');
    await fixture.whenStable();
    expect(values()).toEqual({ columns: { by: 'names', names: [] } });
    form.pick('Keep', 'names matching');
    expect(values()).toEqual({ columns: { by: 'names matching', pattern: '*' } });
  });

  it('adds and removes lines of a list, each with fields of its own', async () => {
    await show('sift rows');
    form.press('addLine');
    await fixture.whenStable();
    expect(form.lines()).toBe(1);
    expect(values()['conditions']).toEqual([{ of: { is: 'column', name: 'Code' }, test: 'is', value: '' }]);
    form.write('Value', 'HK1');
    expect(values()['conditions']).toEqual([{ of: { is: 'column', name: 'Code' }, test: 'is', value: 'HK1' }]);
    form.press('removeLine');
    await fixture.whenStable();
    expect(form.lines()).toBe(0);
  });

  it('shows column names as text, never as markup', async () => {
    await show('sift rows');
    form.press('addLine');
    await fixture.whenStable();
    expect(fixture.nativeElement.querySelector('b')).toBeNull();
    expect(fixture.nativeElement.textContent).toContain('<b>Value</b>');
  });
});
