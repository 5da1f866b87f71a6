import { Component, provideZonelessChangeDetection, signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { of } from 'rxjs';
import type { Condition } from '../../../../core/dataset/selection';
import type { ValueType } from '../../../../core/sheet/column';
import { Api } from '../api';
import { PipelineState } from '../pipeline/pipeline-state';
import { ConditionForm } from './condition-form';
import { dayFrom, dayText } from './days';

@Component({ imports: [ConditionForm], template: `<sieve-condition-form [column]="column()" [type]="type()" (wanted)="wanted.push($event)" (left)="left = true" />` })
class Host {
  readonly column = signal('Quay');
  readonly type = signal<ValueType>('text');
  readonly wanted: Condition[][] = [];
  left = false;
}

/** What the server tells of each column. */
const cards: Record<string, { distinct?: number; values: { value: string; count: number }[] }> = {
  Quay: { distinct: 2, values: [{ value: 'Saltby', count: 120 }, { value: 'Fair|lead', count: 7 }] },
  // More different values than are told.
  Vessel: { distinct: 4000, values: [{ value: 'Grey Tern', count: 3 }] },
  Value: { values: [] },
  Day: { values: [] },
};

async function show(column: string, type: ValueType) {
  TestBed.configureTestingModule({
    providers: [provideZonelessChangeDetection(), { provide: Api, useValue: { columnCard: (_pipeline: number, of_: string) => of(cards[of_]) } }, { provide: PipelineState, useValue: { id: () => 1 } }],
  });
  const fixture = TestBed.createComponent(Host);
  fixture.componentInstance.column.set(column);
  fixture.componentInstance.type.set(type);
  await fixture.whenStable();
  const root = fixture.nativeElement as HTMLElement;
  const settled = () => fixture.whenStable();
  return {
    host: fixture.componentInstance,
    root,
    settled,
    async open(label: string) {
      root.querySelector<HTMLElement>(`[aria-label="${label}"]`)!.closest<HTMLElement>('.p-select, .p-multiselect')!.click();
      await settled();
    },
    options: () => [...document.querySelectorAll<HTMLElement>('[role="option"]')],
    async pick(says: string) {
      [...document.querySelectorAll<HTMLElement>('[role="option"]')].find((option) => option.textContent!.trim() === says)!.click();
      await settled();
    },
    async write(label: string, text: string) {
      const field = root.querySelector<HTMLInputElement>(`input[aria-label="${label}"]`)!;
      field.value = text;
      field.dispatchEvent(new Event('input'));
      await settled();
    },
    async send() {
      root.querySelector('form')!.dispatchEvent(new Event('submit', { cancelable: true }));
      await settled();
    },
    button: () => root.querySelector<HTMLButtonElement>('button[pButton]')!,
    refusal: () => root.querySelector('[role=alert]')?.textContent?.trim(),
  };
}

describe('the condition on a column', () => {
  it('ticks values off a list with how often each comes, where all of them are known', async () => {
    const { host, open, options, pick, send, button } = await show('Quay', 'text');
    expect(button().disabled).toBe(true);
    await open('Values');
    expect(options().map((option) => option.textContent!.trim())).toEqual(['Saltby · 120', 'Fair|lead · 7']);
    await pick('Saltby · 120');
    await pick('Fair|lead · 7');
    await send();
    expect(host.wanted).toEqual([[{ column: 'Quay', test: 'is', values: ['Saltby', 'Fair|lead'] }]]);
  });

  it('has the value written where there are too many to tell', async () => {
    const { host, root, write, send } = await show('Vessel', 'text');
    expect(root.querySelector('p-multiselect')).toBeNull();
    await send();
    expect(host.wanted).toEqual([]);
    await write('Value', 'Grey Tern|Blue Tern');
    await send();
    expect(host.wanted).toEqual([[{ column: 'Vessel', test: 'is', values: ['Grey Tern', 'Blue Tern'] }]]);
  });

  it('takes a stretch of numbers by its ends, one of which may be open, and refuses what is no number', async () => {
    const { host, open, pick, write, send, refusal } = await show('Value', 'decimal');
    await open('Test');
    await pick('from ... to');
    await write('From', '10');
    await write('To', '1,000');
    expect(refusal()).toContain('“1,000” is none');
    await send();
    expect(host.wanted).toEqual([]);
    await write('To', '1000');
    await send();
    await write('From', '');
    await send();
    expect(host.wanted).toEqual([
      [{ column: 'Value', test: 'at least', values: ['10'] }, { column: 'Value', test: 'at most', values: ['1000'] }],
      [{ column: 'Value', test: 'at most', values: ['1000'] }],
    ]);
  });

  it('asks for days with a calendar', async () => {
    const { root, open, pick } = await show('Day', 'date');
    await open('Test');
    await pick('from ... to');
    expect(root.querySelectorAll('p-datepicker')).toHaveLength(2);
    await open('Test');
    await pick('more than');
    expect(root.querySelectorAll('p-datepicker')).toHaveLength(1);
  });

  it('needs no value to look for blanks, and can be left', async () => {
    const { host, root, open, pick, send } = await show('Value', 'decimal');
    await open('Test');
    await pick('is blank');
    await send();
    expect(host.wanted).toEqual([[{ column: 'Value', test: 'is blank', values: [] }]]);
    [...root.querySelectorAll<HTMLButtonElement>('button')].find((button) => button.textContent!.includes('Leave it'))!.click();
    expect(host.left).toBe(true);
  });

  it('begins anew with another column', async () => {
    const { host, root, write, send, settled } = await show('Vessel', 'text');
    await write('Value', 'Grey Tern');
    host.column.set('Value');
    await settled();
    await send();
    expect(host.wanted).toEqual([]);
    expect(root.querySelector<HTMLInputElement>('input[aria-label="Value"]')!.value).toBe('');
  });
});

describe('days as a calendar has them', () => {
  it('are those of the text, whatever the clock, and none for what is no day', () => {
    for (const text of ['2025-03-30', '2024-02-29', '1999-12-31', '2025-10-26']) expect(dayText(dayFrom(text))).toBe(text);
    for (const text of ['', '2025-02-30', '2025-13-01', '30.3.2025']) expect(dayFrom(text)).toBeNull();
    expect(dayText(null)).toBe('');
    expect(dayText('2025-0')).toBe('2025-0');
  });
});
