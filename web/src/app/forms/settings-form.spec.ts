import { Component, provideZonelessChangeDetection, signal } from '@angular/core';
import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { of } from 'rxjs';
import { formOf, initialSettings } from '../../../../core/steps/fields';
import { kinds } from '../../../../core/steps/kinds';
import type { ValuesSubject } from '../../../../server/contract/contract';
import { SettingsForm } from './settings-form';
import { SettingsFormPage } from './settings-form.page';

@Component({ imports: [SettingsForm], template: `<sieve-settings-form [fields]="fields()" [values]="values()" [columns]="columns" [selected]="selected()" [valuesOf]="valuesOf" (changed)="values.set($event)" />` })
class Host {
  readonly fields = signal(formOf(kinds.get('trim rows')!));
  readonly values = signal<Record<string, unknown>>({});
  readonly columns = ['Code', 'Boxes', '<b>Value</b>'];
  readonly selected = signal<readonly string[]>([]);
  readonly asked: ValuesSubject[] = [];
  readonly valuesOf = (subject: ValuesSubject) => {
    this.asked.push(subject);
    return of({ values: [{ text: 'HK1 - Hake', count: 3 }, { text: 'SL2 - Sole', count: 1 }], different: 2, blanks: 0, rows: 4 });
  };
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
    form = new SettingsFormPage(fixture.nativeElement, () => fixture.whenStable());
  }
  const values = () => fixture.componentInstance.values();

  it('writes numbers as numbers', async () => {
    await show('trim rows');
    form.write('From the top', '3');
    expect(values()).toMatchObject({ top: 3, bottom: 0 });
  });

  it('chooses columns by list or by rule', async () => {
    await show('pick columns');
    await form.tickColumns('Keep', 'Boxes');
    expect(values()).toEqual({ columns: { by: 'names', names: ['Boxes'] } });
    expect(form.chips()).toEqual(['Boxes']);
    form.press('chips');
    await fixture.whenStable();
    expect(values()).toEqual({ columns: { by: 'names', names: [] } });
    await form.pick('Keep', 'names matching');
    expect(values()).toEqual({ columns: { by: 'names matching', pattern: '*' } });
  });

  it('takes the columns that are selected in the sheet', async () => {
    await show('pick columns');
    fixture.componentInstance.selected.set(['Boxes', '<b>Value</b>', 'gone']);
    await fixture.whenStable();
    form.pressNamed('Take the 2 selected in the sheet');
    await fixture.whenStable();
    expect(values()).toEqual({ columns: { by: 'names', names: ['Boxes', '<b>Value</b>'] } });
    expect(() => form.pressNamed('Take the 2 selected in the sheet')).toThrow();
  });

  it('says in words what cannot be seen: a space between texts, and a zero that means something', async () => {
    await show('promote header rows');
    expect(form.field<HTMLElement>('Join with').textContent).toContain('a space');
    expect(form.field('Rows').closest('sieve-number')!.textContent).toContain('as many as are marked as heading');
    form.write('Rows', '2');
    await form.pick('Join with', 'another text');
    form.writeLabelled('Join with: the text', ' / ');
    expect(values()).toMatchObject({ rows: 2, joiner: ' / ' });
    await form.pick('Join with', 'nothing');
    expect(values()).toMatchObject({ joiner: '' });
  });

  it('adds and removes lines of a list, each with fields of its own', async () => {
    await show('sort');
    form.press('addLine');
    await fixture.whenStable();
    expect(form.lines()).toBe(1);
    await form.pick('Column', 'Boxes');
    expect(values()['by']).toEqual([{ column: 'Boxes', order: 'up' }]);
    form.press('removeLine');
    await fixture.whenStable();
    expect(form.lines()).toBe(0);
  });

  it('builds conditions with an operand that fits the test', async () => {
    await show('sift rows');
    form.pressNamed('+ condition');
    await fixture.whenStable();
    expect(values()['conditions']).toEqual([{ of: { is: 'column', name: 'Code' }, test: 'is', value: '', values: [] }]);
    form.writeLabelled('Value, condition 1', 'HK1');
    expect(values()['conditions']).toMatchObject([{ value: 'HK1' }]);
    await form.pickLabelled('Test, condition 1', 'is one of');
    await fixture.whenStable();
    form.tick('HK1 - Hake');
    expect(values()['conditions']).toMatchObject([{ test: 'is one of', values: ['HK1 - Hake'] }]);
    await form.pickLabelled('Test, condition 1', 'is blank');
    await fixture.whenStable();
    expect(form.named('Value, condition 1')).toBeNull();
    form.pressNamed('Remove condition 1');
    expect(values()['conditions']).toEqual([]);
  });

  it('offers the values that are there while one is written', async () => {
    await show('sift rows');
    form.pressNamed('+ condition');
    await fixture.whenStable();
    form.writeLabelled('Value, condition 1', 'ha');
    await vi.waitFor(() => expect(document.querySelectorAll('.p-autocomplete-overlay [role="option"]').length).toBe(1));
    const [option] = document.querySelectorAll<HTMLElement>('.p-autocomplete-overlay [role="option"]');
    expect(option.textContent!.replace(/\s+/g, ' ').trim()).toBe('HK1 - Hake3');
    option.click();
    expect(values()['conditions']).toMatchObject([{ value: 'HK1 - Hake' }]);
  });

  it('gives each value that is there the one that it becomes, or blank', async () => {
    await show('recode');
    fixture.componentInstance.values.update((own) => ({ ...own, columns: { by: 'names', names: ['Code'] } }));
    await fixture.whenStable();
    expect(fixture.componentInstance.asked.at(-1)).toEqual({ by: 'names', names: ['Code'] });
    form.changeLabelled('HK1 - Hake becomes', 'Hake');
    expect(values()['values']).toEqual([{ from: ['HK1 - Hake'], to: 'Hake' }]);
    await fixture.whenStable();
    form.pressNamed('SL2 - Sole becomes blank');
    expect(values()['values']).toEqual([{ from: ['HK1 - Hake'], to: 'Hake' }, { from: ['SL2 - Sole'], to: '' }]);
  });

  it('names columns by a pasted list', async () => {
    await show('rename');
    form.pressNamed('Paste a list');
    await fixture.whenStable();
    (form.named('The list') as HTMLTextAreaElement).value = 'Item\nCount';
    form.pressNamed('Use the list');
    expect(values()['names']).toEqual([{ from: ['Code'], to: 'Item' }, { from: ['Boxes'], to: 'Count' }]);
  });

  it('shows what a pattern finds while it is written, and what is wrong with it', async () => {
    await show('find and replace');
    await form.pick('Find', 'a pattern');
    await fixture.whenStable();
    form.write('Text or pattern', '^[A-Z]+');
    await fixture.whenStable();
    expect(form.said()).toBe('Found in 2 of 2 different values, 4 cells.');
    expect(form.list('Matches')).toEqual(['HK1 - Hake3', 'SL2 - Sole1']);
    form.write('Text or pattern', '(');
    await fixture.whenStable();
    expect(form.said()).toContain('This is not a regular expression');
  });

  it('makes the selected part of a sample a hole of a template', async () => {
    await show('pull text');
    await form.pick('Column', 'Code');
    await fixture.whenStable();
    await form.pickLabelled('Sample', 'HK1 - Hake');
    await fixture.whenStable();
    expect(values()['template']).toBe('HK1 - Hake');
    for (const [start, end, name] of [[6, 10, 'Name'], [0, 3, 'Code']] as const) {
      form.field('Template').setSelectionRange(start, end);
      (form.named('Name of the selected part') as HTMLInputElement).value = name;
      form.pressNamed('Make a hole');
      await fixture.whenStable();
    }
    expect(values()['template']).toBe('{Code} - {Name}');
    expect(form.list('What the holes hold')).toEqual(['Code HK1Name Hake', 'Code SL2Name Sole']);
  });

  it('draws cuts between the letters of a sample', async () => {
    await show('split column');
    await form.pick('Column', 'Code');
    await fixture.whenStable();
    await form.pick('Cut', 'at cuts');
    await fixture.whenStable();
    form.pressNamed('Cut after 3 letters');
    await fixture.whenStable();
    expect(values()['cuts']).toEqual([3]);
    form.pressNamed('Cut after 3 letters');
    expect(values()['cuts']).toEqual([]);
  });

  it('shows a setting only while it means something', async () => {
    await show('split column');
    expect(form.titles()).toContain('Mark');
    await form.pick('Cut', 'between quantity and unit');
    await fixture.whenStable();
    expect(form.titles()).not.toContain('Mark');
  });

  it('shows column names as text, never as markup', async () => {
    await show('sort');
    form.press('addLine');
    await fixture.whenStable();
    await form.pick('Column', '<b>Value</b>');
    expect(document.querySelector('b')).toBeNull();
    expect(values()).toMatchObject({ by: [{ column: '<b>Value</b>' }] });
  });
});
