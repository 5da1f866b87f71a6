import { Component, inject, signal } from '@angular/core';
import { ButtonDirective } from 'primeng/button';
import { Dialog } from 'primeng/dialog';
import { catchError, concatMap, EMPTY, from, map, Subject, switchMap, take, throwError, toArray, type Observable } from 'rxjs';
import { Api, ApiFailure } from '../api';

type Answer = 'replace' | 'keep both' | 'leave out';

/** Puts files into a pipeline's own folder; where one of the name is there with other content, it is asked what is to become of it. */
@Component({
  selector: 'sieve-drop-files',
  imports: [ButtonDirective, Dialog],
  template: `
    <p-dialog header="A file of this name is there" [modal]="true" [visible]="asking() !== undefined" (visibleChange)="answers.next('leave out')" [draggable]="false" closeAriaLabel="Leave it out" [style]="{ width: '480px' }">
      <p>“{{ asking() }}” is in the folder already, with other content.</p>
      <div class="acts">
        <button pButton type="button" (click)="answers.next('keep both')">Keep both</button>
        <button pButton type="button" severity="secondary" [outlined]="true" (click)="answers.next('replace')">Replace it</button>
        <button pButton type="button" severity="secondary" [outlined]="true" (click)="answers.next('leave out')">Leave the new one out</button>
      </div>
    </p-dialog>
  `,
  styles: `
    .acts {
      display: flex;
      gap: 8px;
    }
  `,
})
export class DropFiles {
  private readonly api = inject(Api);
  /** The name that is asked about. */
  protected readonly asking = signal<string | undefined>(undefined);
  protected readonly answers = new Subject<Answer>();

  /** @returns (once all are settled) how many were put there */
  put(pipeline: number, files: readonly File[]): Observable<number> {
    return from(files).pipe(
      concatMap((file) =>
        this.api.dropFile(pipeline, file).pipe(
          catchError((error: Error) => (error instanceof ApiFailure && error.kind === 'there already' ? this.ask(file).pipe(switchMap((answer) => (answer === 'leave out' ? EMPTY : this.api.dropFile(pipeline, file, answer)))) : throwError(() => error))),
        ),
      ),
      toArray(),
      map((put) => put.length),
    );
  }

  private ask(file: File): Observable<Answer> {
    this.asking.set(file.name);
    return this.answers.pipe(
      take(1),
      map((answer) => {
        this.asking.set(undefined);
        return answer;
      }),
    );
  }
}
