import { Component, computed, input } from '@angular/core';

/** Rows and columns in small. */
@Component({
  selector: 'sieve-mini-sheet',
  template: `<div class="scroll" tabindex="0" role="region" [attr.aria-label]="label()">
    <table>
      <tbody>
        @for (row of shown(); track $index) {
          <tr [class.heading]="$index < headingRows()">
            @for (cell of row; track $index) {
              <td>{{ cell }}</td>
            }
          </tr>
        }
      </tbody>
    </table>
    @if (rows().length > most()) {
      <p class="small">and {{ rows().length - most() }} more rows</p>
    }
  </div>`,
  styles: `
    :host {
      display: block;
      min-width: 0;
      border: 1px solid var(--line);
      border-radius: 6px;
      background: var(--panel);
      overflow: hidden;
    }
    .scroll {
      max-height: inherit;
      overflow: auto;
    }
    table {
      border-collapse: collapse;
      font-size: 12px;
      line-height: 16px;
    }
    td {
      padding: 1px 7px;
      border-right: 1px solid var(--line-soft);
      border-bottom: 1px solid var(--line-soft);
      white-space: nowrap;
      max-width: 128px;
      overflow: hidden;
      text-overflow: ellipsis;
      height: 18px;
    }
    .heading td {
      font-weight: 600;
      background: var(--ground);
    }
    p {
      margin: 2px 7px;
    }
  `,
})
export class MiniSheet {
  readonly rows = input.required<readonly (readonly string[])[]>();
  readonly headingRows = input(0);
  readonly most = input(60);
  readonly label = input('Sheet');
  protected readonly shown = computed(() => this.rows().slice(0, this.most()));
}
