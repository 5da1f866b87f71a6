import { Component, input } from '@angular/core';
import { Notice } from '../shared/notice';
import type { ToldReport } from './told-problems';

/** What needs a look, report by report. */
@Component({
  selector: 'sieve-published-problems',
  imports: [Notice],
  template: `
    <div class="scroll list" tabindex="0" role="region" aria-label="Problems">
      @for (report of reports(); track report.path) {
        <h3>{{ report.path }} <span class="small">{{ report.state }}</span></h3>
        <ul>
          @for (problem of report.sentences; track $index) {
            <li>{{ problem }}</li>
          }
        </ul>
      } @empty {
        @if (!incomplete()) {
          <sieve-notice [kind]="waiting() ? 'loading' : 'empty'">{{ waiting() ? 'Fetching the problems' : 'Nothing needs a look.' }}</sieve-notice>
        }
      }
    </div>
  `,
  styles: `
    :host {
      display: contents;
    }
    .list {
      padding: 4px 12px;
    }
    h3 {
      font-size: 14px;
      margin-top: 8px;
    }
    ul {
      margin: 2px 0 6px;
      padding-left: 18px;
      color: var(--ochre);
    }
  `,
})
export class PublishedProblems {
  readonly reports = input.required<readonly ToldReport[]>();
  readonly waiting = input.required<boolean>();
  /** Some of it could not be had: then nothing may look as if all were well. */
  readonly incomplete = input.required<boolean>();
}
