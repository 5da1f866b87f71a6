import { Component, effect, inject, Injectable, signal } from '@angular/core';
import { ButtonDirective } from 'primeng/button';

/** Where the look that was chosen is remembered. */
const remembered = 'able-sieve look';

/** The light or the dark look: as the machine has it, until it is chosen. */
@Injectable({ providedIn: 'root' })
export class Light {
  readonly dark = signal((localStorage.getItem(remembered) ?? (matchMedia('(prefers-color-scheme: dark)').matches ? 'dark' : 'light')) === 'dark');

  constructor() {
    effect(() => document.documentElement.classList.toggle('dark', this.dark()));
  }

  turn() {
    this.dark.set(!this.dark());
    localStorage.setItem(remembered, this.dark() ? 'dark' : 'light');
  }
}

/** Turns from one look to the other. */
@Component({
  selector: 'sieve-light',
  imports: [ButtonDirective],
  template: `<button pButton type="button" [text]="true" size="small" severity="secondary" (click)="light.turn()" [attr.aria-label]="light.dark() ? 'Light look' : 'Dark look'" [title]="light.dark() ? 'Light look' : 'Dark look'">
    <i class="pi" [class.pi-sun]="light.dark()" [class.pi-moon]="!light.dark()" aria-hidden="true"></i>
  </button>`,
})
export class LightSwitch {
  protected readonly light = inject(Light);
}
