import { Component, inject } from '@angular/core';
import { RouterLink } from '@angular/router';
import { ButtonDirective } from 'primeng/button';
import { PipelineState } from '../pipeline/pipeline-state';
import { Notice } from '../shared/notice';
import { plural } from '../shared/words';
import { IntakeEdit } from './intake-edit';
import { IntakeLook } from './intake-look';
import { LabelsPanel } from './labels-panel';
import { ReadingsPanel } from './readings-panel';
import { SeparatorsPanel } from './separators-panel';
import { TakeCard } from './take-card';
import { TakeMany } from './take-many';
import { tableName } from './take-rules';

/** What is taken from every report, or the one thing that is being done by hand. */
@Component({
  selector: 'sieve-take-pane',
  host: { class: 'pane' },
  imports: [ButtonDirective, LabelsPanel, Notice, ReadingsPanel, RouterLink, SeparatorsPanel, TakeCard, TakeMany],
  template: `
    @switch (at.mode().kind) {
      @case ('separators') {
        <div class="pane-head"><h2 id="take-head">Separators</h2> of “{{ at.draft()?.name }}”</div>
        @if (at.draft() && at.answer()?.page) {
          <sieve-separators-panel [rule]="at.draft()!" [answer]="at.answer()!" [report]="at.shown()!" [piece]="at.drawnPiece()" [words]="at.drawnWords()" (drawingChange)="edit.redraw($event)" (keepFor)="edit.keepSeparators($event)" />
        } @else if (at.pageAsked.failure(); as failure) {
          <sieve-notice kind="failed" [retry]="at.pageAsked.again">{{ failure.message }}</sieve-notice>
        } @else {
          <sieve-notice kind="loading">Reading the page</sieve-notice>
        }
      }
      @case ('readings') {
        <div class="pane-head"><h2 id="take-head">Readings</h2> of “{{ at.modeRule()?.name }}”</div>
        @if (at.comparedPiece(); as piece) {
          <sieve-readings-panel [piece]="piece" [chosen]="at.modeRule()!.reading" (use)="edit.useReading($event)" (close)="edit.leaveMode()" />
        } @else {
          <sieve-notice kind="empty">The rule takes nothing from this page. <button pButton type="button" [text]="true" size="small" severity="secondary" (click)="edit.leaveMode()">Back to what is taken</button></sieve-notice>
        }
      }
      @case ('labels') {
        <div class="pane-head"><h2 id="take-head">Values by label</h2> {{ at.shown()?.path }}</div>
        @if (at.answer()?.page; as page) {
          <sieve-labels-panel [page]="page" [word]="at.pointed()" [labels]="at.labels()" (take)="edit.takeLabel($event)" (stamp)="edit.stampLabel($event)" (leave)="edit.leaveLabel($event)" (close)="edit.leaveMode()" />
        }
      }
      @default {
        <div class="pane-head"><h2 id="take-head">Take</h2> which tables of every report</div>
        <div class="scroll">
          @if (at.shown(); as shown) {
            @if (shown.standing === 'undecided') {
              @let issues = edit.issuesOf(shown);
              <div class="card needing">
                <h3>{{ counted(issues.length, 'issue') }} for {{ shown.period }}</h3>
                <p>{{ shown.path }} and {{ shown.standingOf }}: their names do not tell which is the later one. Until that is said, neither replaces what was published.</p>
                <p class="answers">
                  <button pButton (click)="edit.letCount([shown], issues)">This one counts</button>
                  <button pButton severity="secondary" [outlined]="true" (click)="edit.letCount(issues, issues)">{{ issues.length > 2 ? 'All' : 'Both' }} count</button>
                </p>
              </div>
            }
            @if (shown.standing === 'set aside') {
              <p class="guide"><button pButton severity="secondary" [outlined]="true" (click)="edit.setAside(shown, false)">Take {{ shown.path }} back</button></p>
            } @else if (shown.id !== state.guide()?.id && at.summary()) {
              <p class="guide"><button pButton severity="secondary" [outlined]="true" (click)="edit.makeGuide(shown)">Make {{ shown.path }} the guide</button></p>
            }
          }
          @if (at.told(); as told) {
            <p class="guide passes" role="status">{{ told }}</p>
          }
          @for (rule of at.rules(); track rule.name) {
            <sieve-take-card
              [rule]="rule"
              [report]="at.shown()"
              [here]="at.hereWords(rule)"
              [match]="at.matchOf(rule.name)"
              [piece]="at.takenPieces().get(rule.name)"
              (change)="edit.alter(rule, $event)"
              (leave)="edit.leave(rule.name)"
              (draw)="edit.drawSeparators(rule)"
              (compare)="at.mode.set({ kind: 'readings', rule: rule.name })"
              (point)="edit.pointAt(undefined)"
              (cut)="edit.cut(rule, $event)"
            />
          } @empty {
            @if (at.likeliest(); as likeliest) {
              <div class="card proposed">
                <h3>Proposed: “{{ nameOf(likeliest.table) }}”</h3>
                <p>The same {{ counted(likeliest.columns, 'column') }} in {{ likeliest.reports }} of {{ counted(likeliest.of, 'report') }}{{ state.reading() ? ' read so far' : '' }}; @if (likeliest.several) {most of them have several such tables;} {{ counted(likeliest.table.rows, 'row') }} in {{ likeliest.several ? 'one of ' : '' }}{{ likeliest.report.path }}.</p>
                <p class="answers">
                  <button pButton (click)="edit.takeTable(likeliest)">Take {{ likeliest.several ? 'all of them' : 'it' }} in all reports</button>
                  @if (likeliest.report.id !== at.shown()?.id || likeliest.page !== at.pageShown()) {
                    <button pButton severity="secondary" [outlined]="true" (click)="edit.show(likeliest.report.id, likeliest.page)">Show it</button>
                  }
                </p>
              </div>
            }
            <sieve-notice kind="empty">Nothing is taken yet. Press “take” above a found table on the paper, draw an area, or point at a value.</sieve-notice>
          }
          @if (at.found(); as found) {
            @if (at.unread().length > 0) {
              <div class="card needing">
                <h3>{{ counted(at.unread().length, 'picture') }} that may hold a table</h3>
                <p class="small">No text stands over them: what they show cannot be read as text.</p>
                @for (page of at.unread(); track page) {
                  <p>
                    <button pButton type="button" [text]="true" size="small" severity="secondary" class="name" (click)="edit.turnTo(page)">page {{ page }}</button>
                    <button pButton type="button" [text]="true" size="small" severity="secondary" (click)="edit.dismissPictures(page, false)">No table here</button>
                    <button pButton type="button" [text]="true" size="small" severity="secondary" (click)="edit.dismissPictures(page, true)" title="As of a letterhead: pictures at this place on any page of any report">nor anywhere at this place</button>
                  </p>
                }
              </div>
            }
            @if (at.dismissed() > 0) {
              <p class="small dismissed">{{ counted(at.dismissed(), 'picture or place', 'pictures or places') }} told to hold no table. <button pButton type="button" [text]="true" size="small" severity="secondary" (click)="edit.askAboutPictures()">Ask about them again</button></p>
            }
            @if (found.tables.length > 1) {
              <sieve-take-many [tables]="found.tables" [page]="at.pageShown()" [pageCount]="found.pageCount" [names]="at.ruleNames()" (take)="edit.takeMany($event)" />
            }
          }
          @if (at.needing().length > 0) {
            <div class="card needing">
              <h3>{{ counted(at.needing().length, 'report needs', 'reports need') }} a look</h3>
              @for (each of at.needing(); track each.report.id) {
                <p><button pButton type="button" [text]="true" size="small" severity="secondary" class="name" (click)="edit.show(each.report.id)">{{ each.report.path }}</button> {{ each.standing.word }}<br /><span class="small">{{ each.standing.detail }}</span></p>
              }
            </div>
          }
          @if (at.shown(); as shown) {
            @if (shown.standing === 'counts' || shown.standing === 'undecided') {
              <p class="guide"><button pButton type="button" [text]="true" size="small" severity="secondary" (click)="edit.setAside(shown, true)">Set {{ shown.path }} aside</button></p>
            }
          }
          @if (at.rules().length > 0) {
            <p class="guide"><a pButton class="link" [routerLink]="['../bench']" queryParamsHandling="merge">To the bench</a></p>
          }
        </div>
      }
    }
  `,
  styles: `
    :host {
      border-right: 0;
    }
    .card {
      margin: 10px 12px;
      padding: 9px 11px;
      border: 1px solid var(--line);
      border-radius: 8px;
      background: var(--panel);
    }
    .needing h3 {
      color: var(--ochre);
    }
    .needing p {
      margin: 4px 0;
    }
    .needing .name {
      padding: 0;
      color: var(--copper);
      text-decoration: underline;
    }
    .card p {
      margin: 3px 0;
    }
    .answers {
      display: flex;
      gap: 6px;
    }
    .guide {
      margin: 10px 12px;
    }
    .link {
      display: inline-block;
      text-decoration: none;
    }
  `,
})
export class TakePane {
  protected readonly state = inject(PipelineState);
  protected readonly at = inject(IntakeLook);
  protected readonly edit = inject(IntakeEdit);
  protected readonly counted = plural;
  protected readonly nameOf = tableName;
}
