import { Component, inject, input, signal } from '@angular/core';
import { ButtonDirective } from 'primeng/button';
import { ProgressBar } from 'primeng/progressbar';
import { catchError, EMPTY, retry, Subject, switchMap, takeWhile, timer } from 'rxjs';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import type { DownloadAnswer } from '../../../../server/contract/contract';
import { Api } from '../api';

/** How often it is asked how far a file is, in milliseconds; and how often until the server has begun it. */
const pause = 400;
const mostTries = 75;

/** A file is taken from the server; while it comes, how far it is, and a way to end it. */
@Component({
  selector: 'sieve-download-line',
  imports: [ButtonDirective, ProgressBar],
  template: `
    <a pButton [href]="withTicket()" download (click)="begin()">Download</a>
    @if (told(); as told) {
      @switch (told.state) {
        @case ('under way') {
          <p-progressbar [value]="told.rows === 0 ? 100 : share(told)" [showValue]="false" aria-label="How far the file is" />
          <span class="small" role="status">{{ told.taken.toLocaleString('en') }} of {{ told.rows.toLocaleString('en') }} rows</span>
          <button pButton type="button" size="small" severity="secondary" [text]="true" (click)="cancel()">Cancel</button>
        }
        @case ('done') {
          <span class="small" role="status">{{ told.rows.toLocaleString('en') }} {{ told.rows === 1 ? 'row' : 'rows' }}: the whole file has been sent.</span>
        }
        @case ('cancelled') {
          <span class="small" role="status">Cancelled: what came of the file is not whole.</span>
        }
        @case ('broken off') {
          <span class="small error" role="alert">The file broke off after {{ told.taken.toLocaleString('en') }} of {{ told.rows.toLocaleString('en') }} rows: download it once more.</span>
        }
      }
    }
  `,
  styles: `
    :host {
      display: flex;
      gap: 10px;
      align-items: center;
    }
    p-progressbar {
      flex: 1;
      max-width: 220px;
    }
  `,
})
export class DownloadLine {
  private readonly api = inject(Api);
  /** The address of the file. */
  readonly address = input.required<string>();

  private readonly ticket = signal(crypto.randomUUID());
  protected readonly told = signal<DownloadAnswer | undefined>(undefined);
  private readonly begun = new Subject<string>();
  private underWay = '';

  constructor() {
    this.begun
      .pipe(
        switchMap((ticket) =>
          timer(pause, pause).pipe(
            // The server knows a ticket from when it begins the file; rows may have to be selected first.
            switchMap(() => this.api.download(ticket)),
            retry({ count: mostTries, delay: pause }),
            takeWhile(({ state }) => state === 'under way', true),
            catchError(() => EMPTY),
          ),
        ),
        takeUntilDestroyed(),
      )
      .subscribe((told) => this.told.set(told));
  }

  protected withTicket = () => `${this.address()}${this.address().includes('?') ? '&' : '?'}ticket=${this.ticket()}`;
  protected share = ({ rows, taken }: DownloadAnswer) => Math.round((100 * taken) / rows);

  /** The browser takes the file by the link; the next one has another ticket. */
  protected begin() {
    this.underWay = this.ticket();
    this.told.set(undefined);
    this.begun.next(this.underWay);
    setTimeout(() => this.ticket.set(crypto.randomUUID()));
  }

  protected cancel() {
    this.api.cancelDownload(this.underWay).pipe(catchError(() => EMPTY)).subscribe();
  }
}
