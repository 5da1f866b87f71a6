import { Component, computed, inject, signal } from '@angular/core';
import { ButtonDirective } from 'primeng/button';
import { PipelineState } from '../pipeline/pipeline-state';
import { FailedLine } from '../shared/failed-line';
import { Notice } from '../shared/notice';
import { Paper } from '../shared/paper';
import { IntakeEdit } from './intake-edit';
import { IntakeLook } from './intake-look';
import { PageStrip } from './page-strip';

/** The paper on which tables are taken, areas drawn, separators moved and values pointed at. */
@Component({
  selector: 'sieve-intake-paper',
  host: { class: 'pane' },
  imports: [FailedLine, ButtonDirective, Notice, PageStrip, Paper],
  template: `
    <div class="pane-head">
      <h2 id="page-head">Page {{ at.pageShown() }}</h2>
      @if (at.found(); as found) {
        of {{ found.pageCount }}
      }
      <span class="grow"></span>
      @if (at.mode().kind === 'area') {
        <b class="needs">Draw the area on the paper</b>
        <button pButton type="button" [text]="true" size="small" severity="secondary" (click)="edit.leaveMode()">Cancel</button>
      } @else if (at.mode().kind === 'cards' && at.found()) {
        <button pButton type="button" [text]="true" size="small" severity="secondary" (click)="at.mode.set({ kind: 'area' })">Draw an area</button>
        <button pButton type="button" [text]="true" size="small" severity="secondary" (click)="edit.pointAt(undefined)">Point at a value</button>
        <button pButton type="button" [text]="true" size="small" severity="secondary" (click)="edit.takeWholePage()">Take whole page</button>
      }
      <button pButton type="button" [text]="true" size="small" severity="secondary" (click)="edit.turn(-1)" [disabled]="at.pageShown() <= 1" aria-label="Page before"><i class="pi pi-chevron-left" aria-hidden="true"></i></button>
      <button pButton type="button" [text]="true" size="small" severity="secondary" (click)="edit.turn(1)" [disabled]="at.pageShown() >= (at.found()?.pageCount ?? 1)" aria-label="Next page"><i class="pi pi-chevron-right" aria-hidden="true"></i></button>
      <button pButton type="button" [text]="true" size="small" severity="secondary" (click)="zoom.set(zoom() / 1.25)" aria-label="Smaller">−</button>
      <span>{{ percent() }}</span>
      <button pButton type="button" [text]="true" size="small" severity="secondary" (click)="zoom.set(zoom() * 1.25)" aria-label="Larger">+</button>
    </div>
    <sieve-failed-line [of]="[at.pageAsked]" />
    <div class="paper">
      @if (at.found(); as found) {
        <sieve-page-strip [found]="found" [taken]="at.takenTables()" [chosen]="at.pageShown()" [hits]="at.hitsByPage()" (choose)="edit.turnTo($event)" />
        <sieve-paper
          [file]="at.file()"
          [name]="at.shown()!.path"
          [page]="at.pageShown()"
          [zoom]="zoom()"
          [tables]="at.tables()"
          [takeable]="at.mode().kind === 'cards'"
          [frames]="at.frames()"
          [lines]="at.lines()"
          [words]="at.mode().kind === 'labels' ? at.words() : []"
          [rulers]="at.rulers()"
          [drawing]="at.mode().kind === 'area'"
          (toggle)="edit.toggle($event)"
          (word)="edit.pointAt($event)"
          (rulersChange)="edit.moveRulers($event)"
          (area)="edit.takeArea($event)"
        />
      } @else if (at.shown(); as shown) {
        @let standing = state.standingOf(shown);
        @if (standing.tone === 'error') {
          <sieve-notice kind="failed">{{ standing.detail }}</sieve-notice>
        } @else {
          <sieve-notice [kind]="state.reading() ? 'loading' : 'empty'">{{ shown.path }}: {{ standing.word }} {{ standing.detail }}</sieve-notice>
        }
      }
    </div>
  `,
  styles: `
    .paper {
      flex: 1;
      display: flex;
      min-height: 0;
      background: var(--desk);
    }
  `,
})
export class IntakePaper {
  protected readonly state = inject(PipelineState);
  protected readonly at = inject(IntakeLook);
  protected readonly edit = inject(IntakeEdit);
  protected readonly zoom = signal(1);
  protected readonly percent = computed(() => `${Math.round(this.zoom() * 100)} %`);
}
