import { Component, inject } from '@angular/core';
import { RouterOutlet } from '@angular/router';
import { Toast } from 'primeng/toast';
import { CommandFinder } from './finder/command-finder';
import { Light } from './shared/light';

@Component({ selector: 'sieve-root', imports: [CommandFinder, RouterOutlet, Toast], template: '<router-outlet /><sieve-command-finder /><p-toast position="bottom-right" [life]="4000" />' })
export class App {
  /** From the first moment on, whatever is shown. */
  protected readonly light = inject(Light);
}
