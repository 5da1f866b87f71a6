import { afterNextRender, Component, computed, ElementRef, inject, input, linkedSignal, output } from '@angular/core';
import { ButtonDirective } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import { everydayWords } from './everyday-words';
import { kinds, titleOf, type Kind, type Step } from '../../../../core/steps/kinds';
import { stepFrom } from './steps-edit';
import { zoneTitles, type Zone } from '../../../../core/steps/step';

const everyKind = [...kinds.values()];

/** The kinds of steps, found by a word of their title or of what they do. */
@Component({
  selector: 'sieve-add-step',
  imports: [ButtonDirective, InputText],
  template: `
    <label for="find-step">Find a step to add to {{ zoneTitle() }}</label>
    <input pInputText id="find-step" [value]="wanted()" (input)="wanted.set($any($event.target).value)" (keydown.enter)="enter()" (keydown.escape)="leave.emit()" autocomplete="off" placeholder="what it should do, or a copied step" />
    <ul>
      @if (pasted(); as step) {
        <li>
          <button (click)="paste.emit(step)"><b>{{ titleOf(step) }}</b> <span class="small">copied step</span><br />Puts the step in with its settings.</button>
        </li>
      }
      @for (kind of found(); track kind.kind) {
        <li>
          <button (click)="pick.emit(kind.kind)"><b>{{ kind.title }}</b> <span class="small">{{ kind.group }}</span><br />{{ kind.help }}</button>
        </li>
      } @empty {
        @if (!pasted()) {
          <li class="small">No kind of step is about that. Try another word.</li>
        }
      }
    </ul>
    <button pButton type="button" class="leave" [text]="true" size="small" severity="secondary" (click)="leave.emit()">Leave it</button>
  `,
  styles: `
    :host {
      display: grid;
      gap: 4px;
      margin: 4px 0;
      padding: 8px;
      border: 1px dashed var(--copper);
      border-radius: 6px;
      background: var(--panel);
    }
    .leave {
      justify-self: start;
    }
    ul {
      list-style: none;
      margin: 4px 0 0;
      padding: 0;
      max-height: 300px;
      overflow: auto;
    }
    li button {
      width: 100%;
      padding: 6px 8px;
      border: 0;
      border-bottom: 1px solid var(--line-soft);
      background: none;
      color: inherit;
      font: inherit;
      text-align: left;
      cursor: pointer;
    }
    li button .small {
      margin-left: 6px;
    }
    li button:hover {
      background: var(--copper-soft);
    }
    li button:focus-visible {
      outline-offset: -2px;
    }
  `,
})
export class AddStep {
  readonly zone = input.required<Zone>();
  /** A kind that is looked for at first. */
  readonly offered = input('');
  readonly pick = output<string>();
  readonly paste = output<Step>();
  readonly leave = output<void>();
  protected readonly titleOf = titleOf;
  protected readonly wanted = linkedSignal(() => this.offered());
  /** A step that was copied as text. */
  protected readonly pasted = computed(() => (this.wanted().trim().startsWith('{') ? stepFrom(this.wanted()) : undefined));
  protected enter() {
    const step = this.pasted();
    const [first] = this.found();
    if (step) this.paste.emit(step);
    else if (first) this.pick.emit(first.kind);
  }
  protected readonly zoneTitle = computed(() => zoneTitles[this.zone()]);
  protected readonly found = computed(() => {
    const words = this.wanted().toLowerCase().split(/\s+/).filter(Boolean);
    const text = ({ kind, title, help, group }: (typeof everyKind)[number]) => `${title} ${help} ${group} ${everydayWords[kind as Kind] ?? ''}`.toLowerCase();
    // Those that are called so come before those that only say the word.
    const rank = ({ kind, title }: (typeof everyKind)[number]) => [title, everydayWords[kind as Kind] ?? ''].findIndex((each) => words.some((word) => ` ${each.toLowerCase()}`.includes(` ${word}`)));
    const order = (kind: (typeof everyKind)[number]) => (words.length === 0 ? 0 : rank(kind) < 0 ? 2 : rank(kind));
    return everyKind.filter((kind) => words.every((word) => text(kind).includes(word))).sort((a, b) => order(a) - order(b) || a.group.localeCompare(b.group) || a.title.localeCompare(b.title));
  });

  constructor() {
    const list = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
    // At once, and not when the dialog has come to rest, so that typing goes here.
    afterNextRender(() => list.querySelector<HTMLInputElement>('#find-step')?.focus());
  }
}
