import { Component, inject } from '@angular/core';
import { RouterOutlet } from '@angular/router';
import { Light } from './shared/light';

@Component({ selector: 'sieve-root', imports: [RouterOutlet], template: '<router-outlet />' })
export class App {
  /** From the first moment on, whatever is shown. */
  protected readonly light = inject(Light);
}
