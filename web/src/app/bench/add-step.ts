import { afterNextRender, Component, computed, ElementRef, inject, input, output, signal } from '@angular/core';
import { kinds, titleOf, type Step } from '../../../../core/steps/kinds';
import { stepFrom } from './steps-edit';
import { zoneTitles, type Zone } from '../../../../core/steps/step';

/** The kinds of steps, found by a word of their title or of what they do. */
@Component({
  selector: 'sieve-add-step',
  template: `
    <label for="find-step">Find a step to add to {{ zoneTitle() }}</label>
    <input id="find-step" class="field" [value]="wanted()" (input)="wanted.set($any($event.target).value)" (keydown.enter)="enter()" autocomplete="off" placeholder="words, or a copied step" />
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
  `,
  styles: `
    :host {
      display: grid;
      gap: 6px;
    }
    ul {
      list-style: none;
      margin: 4px 0 0;
      padding: 0;
      max-height: 380px;
      overflow: auto;
    }
    button {
      width: 100%;
      padding: 6px 8px;
      border: 0;
      border-bottom: 1px solid var(--line-soft);
      background: none;
      text-align: left;
      cursor: pointer;
    }
    button .small {
      margin-left: 6px;
    }
    button:hover {
      background: var(--copper-soft);
    }
    button:focus-visible {
      outline-offset: -2px;
    }
  `,
})
export class AddStep {
  readonly zone = input.required<Zone>();
  readonly pick = output<string>();
  readonly paste = output<Step>();
  protected readonly titleOf = titleOf;
  protected readonly wanted = signal('');
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
    return [...kinds.values()]
      .filter((kind) => words.every((word) => `${kind.title} ${kind.help} ${kind.group}`.toLowerCase().includes(word)))
      .sort((a, b) => a.group.localeCompare(b.group) || a.title.localeCompare(b.title));
  });

  constructor() {
    const list = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
    // At once, and not when the dialog has come to rest, so that typing goes here.
    afterNextRender(() => list.querySelector<HTMLInputElement>('#find-step')?.focus());
  }
}
