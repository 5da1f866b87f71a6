import { Component, computed, input, linkedSignal, output } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { Select } from 'primeng/select';

/** One of the things to pick from. */
export interface Choice {
  readonly value: string;
  readonly says: string;
  readonly off?: boolean;
}

/** Choices under a title. */
export interface ChoiceGroup {
  readonly title: string;
  readonly options: readonly (string | Choice)[];
}

/** More choices than this are looked through by writing. */
const manyChoices = 12;

const asChoice = (option: string | Choice): Choice => (typeof option === 'string' ? { value: option, says: option } : option);

/** A list that one thing is picked from. */
@Component({
  selector: 'sieve-pick',
  imports: [FormsModule, Select],
  template: `
    <p-select
      [inputId]="inputId()"
      [ariaLabel]="label()"
      [options]="all()"
      [group]="groups() !== undefined"
      optionLabel="says"
      optionValue="value"
      optionDisabled="off"
      optionGroupLabel="title"
      optionGroupChildren="options"
      [placeholder]="placeholder()"
      [filter]="count() > many"
      filterBy="says"
      [autofocusFilter]="true"
      [ngModel]="shown()"
      (ngModelChange)="pick($event)"
      appendTo="body"
      scrollHeight="264px"
      [fluid]="true"
    />
  `,
  styles: `
    :host {
      display: inline-block;
      min-width: 0;
    }
  `,
})
export class Pick {
  readonly inputId = input<string>();
  readonly label = input<string>();
  readonly options = input<readonly (string | Choice)[]>([]);
  /** Instead of options: options under titles. */
  readonly groups = input<readonly ChoiceGroup[]>();
  readonly value = input<string | null | undefined>();
  readonly placeholder = input('');
  /** What is picked is done at once; nothing stays picked. */
  readonly forgets = input(false);
  readonly picked = output<string>();

  protected readonly many = manyChoices;
  protected readonly shown = linkedSignal(() => this.value() ?? null);
  protected readonly count = computed(() => this.groups()?.reduce((sum, { options }) => sum + options.length, 0) ?? this.options().length);
  protected readonly all = computed(() => this.groups()?.map(({ title, options }) => ({ title, options: options.map(asChoice) })) ?? this.options().map(asChoice));

  protected pick(value: string) {
    this.shown.set(value);
    this.picked.emit(value);
    if (this.forgets()) setTimeout(() => this.shown.set(null));
  }
}
