import { Component, computed, effect, inject, signal, untracked } from '@angular/core';
import { Router } from '@angular/router';
import { Dialog } from 'primeng/dialog';
import { InputText } from 'primeng/inputtext';
import { Api } from '../api';
import { asked } from '../shared/asked';
import { isWritten } from '../shared/written';
import { Commands, type Command } from './commands';
import { keysFor } from './keys';

const mostShown = 12;

/** Finds a command, a place, a report or a pipeline by its words; and tells the keys of the place. */
@Component({
  selector: 'sieve-command-finder',
  imports: [Dialog, InputText],
  host: { '(document:keydown)': 'key($event)' },
  template: `
    <p-dialog [header]="commands.open() === 'keys' ? 'Keys' : 'Go to'" [modal]="true" [visible]="commands.open() !== undefined" (visibleChange)="commands.open.set(undefined)" [style]="{ width: '560px' }" [draggable]="false" [dismissableMask]="true" [focusOnShow]="false" position="top" closeAriaLabel="Close">
      @if (commands.open() === 'commands') {
        <input pInputText #field class="wide" [value]="wanted()" (input)="type($any($event.target).value)" (keydown)="choose($event)" aria-label="What to go to" role="combobox" aria-expanded="true" aria-controls="found-commands" [attr.aria-activedescendant]="found().length > 0 ? 'command-' + at() : null" autocomplete="off" placeholder="a place, a report, a step, a pipeline" />
        <ul id="found-commands" role="listbox" aria-label="Found">
          @for (command of found(); track $index) {
            <li role="option" [id]="'command-' + $index" [attr.aria-selected]="$index === at()" [class.at]="$index === at()" (click)="run(command)">{{ command.says }} <span class="small">{{ command.beside }}</span></li>
          } @empty {
            <li role="option" aria-selected="false" class="small">Nothing is called so here.</li>
          }
        </ul>
      } @else if (commands.open() === 'keys') {
        @for (group of keys(); track group.place) {
          <h3>{{ group.place }}</h3>
          <dl>
            @for (each of group.keys; track each.keys) {
              <dt><kbd>{{ each.keys }}</kbd></dt>
              <dd>{{ each.does }}</dd>
            }
          </dl>
        }
      }
    </p-dialog>
  `,
  styles: `
    .wide {
      width: 100%;
    }
    ul {
      list-style: none;
      margin: 8px 0 0;
      padding: 0;
      min-height: 300px;
    }
    li {
      display: flex;
      justify-content: space-between;
      gap: 12px;
      padding: 5px 8px;
      border-radius: 4px;
      cursor: pointer;
    }
    li.at,
    li:hover {
      background: var(--copper-soft);
    }
    dl {
      display: grid;
      grid-template-columns: 150px 1fr;
      gap: 4px 12px;
      margin: 4px 0 14px;
    }
    dd {
      margin: 0;
    }
    kbd {
      font: inherit;
      font-weight: 600;
    }
  `,
})
export class CommandFinder {
  protected readonly commands = inject(Commands);
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  protected readonly wanted = signal('');
  protected readonly at = signal(0);
  private readonly pipelines = asked(
    () => (this.commands.open() === 'commands' ? {} : undefined),
    () => this.api.pipelines(),
    { keeps: true },
  );
  protected readonly keys = computed(() => (this.commands.open() === 'keys' ? keysFor(this.router.url) : []));
  private readonly all = computed((): readonly Command[] => [
    ...this.commands.all(),
    ...(this.pipelines.value() ?? []).map(({ id, name }): Command => ({ says: name, beside: 'pipeline', run: () => void this.router.navigate(['/pipelines', id]) })),
    { says: 'All pipelines', beside: 'place', run: () => void this.router.navigate(['/']) },
    { says: 'Keys of this place', beside: '?', run: () => this.commands.open.set('keys') },
  ]);
  protected readonly found = computed(() => {
    const words = this.wanted().toLowerCase().split(/\s+/).filter(Boolean);
    const text = ({ says, beside }: Command) => `${says} ${beside ?? ''}`.toLowerCase();
    const begins = (command: Command) => Number(!words.every((word) => ` ${text(command)}`.includes(` ${word}`)));
    return this.all().filter((command) => words.every((word) => text(command).includes(word))).sort((a, b) => begins(a) - begins(b)).slice(0, mostShown);
  });

  constructor() {
    effect(() => {
      if (this.commands.open() !== 'commands') return;
      untracked(() => this.type(''));
      // The dialog draws its content a moment later.
      setTimeout(() => document.querySelector<HTMLInputElement>('sieve-command-finder input, .p-dialog input[aria-controls="found-commands"]')?.focus(), 60);
    });
  }

  protected key(event: KeyboardEvent) {
    if (isWritten(event) || (event.key !== 'g' && event.key !== '?')) return;
    event.preventDefault();
    this.commands.open.set(event.key === 'g' ? 'commands' : 'keys');
  }

  protected type(text: string) {
    this.wanted.set(text);
    this.at.set(0);
  }

  protected choose(event: KeyboardEvent) {
    const count = this.found().length;
    const by = { ArrowDown: 1, ArrowUp: -1 }[event.key];
    if (by !== undefined && count > 0) this.at.update((at) => (at + by + count) % count);
    else if (event.key === 'Enter' && count > 0) this.run(this.found()[this.at()]);
    else return;
    event.preventDefault();
  }

  protected run({ run }: Command) {
    this.commands.open.set(undefined);
    run();
  }
}
