import { Component, computed, inject, signal } from '@angular/core';
import { ButtonDirective } from 'primeng/button';
import { Pick } from '../shared/pick';
import { SheetGrid } from '../shared/sheet-grid';
import { plural } from '../shared/words';
import { BenchLook } from './bench-look';
import { BenchSelection } from './bench-selection';

/** What a step took out of the sheet: the rows that it held, the columns that it left out, the cells that it overwrote. */
@Component({
  selector: 'sieve-held-panel',
  imports: [ButtonDirective, Pick, SheetGrid],
  template: `
    @if (at.heldSource(); as held) {
      <div class="held">
        <div class="held-head">
          <h3>{{ counted(held.rows, 'row') }} held by “{{ at.stepTitle() }}”</h3>
          @if (selection.says(); as says) {
            <form (submit)="$event.preventDefault(); selection.letPass(says, scope() === 'one')">
              <sieve-pick label="Where these pass" [options]="scopes" [value]="scope()" (picked)="scope.set($event)" />
              <button pButton severity="secondary" size="small" [outlined]="true" [title]="'Rows that say “' + says + '” pass'">Let these pass</button>
            </form>
          }
        </div>
        @if (selection.reason(); as reason) {
          <p class="why" role="status">{{ reason }}</p>
        }
        <sieve-grid [quiet]="true" [source]="held" [label]="'Rows held by ' + at.stepTitle()" [reasons]="true" [chosen]="selection.cell()?.of === 'held' ? selection.cell()!.place : undefined" (choose)="selection.chooseCell('held', $event)" />
      </div>
    }
    @if (at.sheet(); as sheet) {
      @if (sheet.leftOut.columns.length > 0 || sheet.overwritten > 0) {
        <p class="note">
          @if (sheet.leftOut.columns.length > 0) {
            Left out: {{ leftOutNames() }}.
            <button pButton type="button" [text]="true" size="small" severity="secondary" [attr.aria-expanded]="showing() === 'left out'" (click)="show('left out')">{{ showing() === 'left out' ? 'Hide them' : 'Show them' }}</button>
          }
          @if (sheet.overwritten > 0) {
            {{ counted(sheet.overwritten, 'cell') }} overwritten.
            <button pButton type="button" [text]="true" size="small" severity="secondary" [attr.aria-expanded]="showing() === 'overwritten'" (click)="show('overwritten')">{{ showing() === 'overwritten' ? 'Hide them' : 'Show them, old and new' }}</button>
          }
        </p>
        @if (showing() === 'left out' && at.leftOutSource(); as leftOut) {
          <div class="held">
            <sieve-grid [quiet]="true" [source]="leftOut" [label]="'Columns left out by ' + at.stepTitle()" [chosen]="selection.cell()?.of === 'left out' ? selection.cell()!.place : undefined" (choose)="selection.chooseCell('left out', $event)" />
          </div>
        }
        @if (showing() === 'overwritten' && at.overwrittenSource(); as overwritten) {
          <div class="held">
            <sieve-grid [quiet]="true" [source]="overwritten" [label]="'Cells overwritten by ' + at.stepTitle()" (choose)="selection.chooseOverwritten($event)" />
          </div>
        }
      }
    }
  `,
  styles: `
    /* The sheet keeps its rows in sight, whatever stands beneath it. */
    :host {
      display: flex;
      flex-direction: column;
      flex: 0 2 auto;
      min-height: 0;
    }
    .held {
      display: flex;
      flex-direction: column;
      flex: 0 1 190px;
      min-height: 112px;
      border-top: 2px solid var(--ochre-line);
      background: var(--ochre-soft);
    }
    h3 {
      padding: 5px 12px;
      font-size: 14px;
      color: var(--ochre);
    }
    .held-head {
      display: flex;
      justify-content: space-between;
      align-items: center;
    }
    form {
      display: flex;
      gap: 4px;
      padding-right: 10px;
    }
    sieve-pick {
      width: 150px;
    }
    .why {
      margin: 0;
      padding: 0 12px 4px;
      color: var(--ochre);
    }
    .note {
      margin: 0;
      padding: 5px 12px;
      border-top: 1px solid var(--line);
      background: var(--ochre-soft);
    }
  `,
})
export class HeldPanel {
  protected readonly at = inject(BenchLook);
  protected readonly selection = inject(BenchSelection);
  protected readonly counted = plural;
  protected readonly scopes = [{ value: 'all', says: 'in every report' }, { value: 'one', says: 'only in this one' }];
  protected readonly scope = signal('all');
  /** What is shown beside what was held. */
  protected readonly showing = signal<'left out' | 'overwritten' | undefined>(undefined);
  protected readonly leftOutNames = computed(() => this.at.sheet()?.leftOut.columns.map((column) => column.name).join(', ') ?? '');

  protected show(what: 'left out' | 'overwritten') {
    this.showing.update((now) => (now === what ? undefined : what));
  }
}
