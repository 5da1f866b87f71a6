import { NgTemplateOutlet } from '@angular/common';
import { afterRenderEffect, Component, computed, ElementRef, inject, input, output, signal, viewChild } from '@angular/core';
import type { MenuItem } from 'primeng/api';
import { ButtonDirective } from 'primeng/button';
import { ContextMenu } from 'primeng/contextmenu';
import { kindOf, titleOf, type Step } from '../../../../core/steps/kinds';
import { zones, zoneTitles, type Zone } from '../../../../core/steps/step';
import type { LayerCounts } from '../../../../server/contract/contract';
import type { GhostLayer } from '../offers/offers';
import { PipelineState } from '../pipeline/pipeline-state';
import { becameSentence, plural } from '../shared/words';
import { BenchJoins } from './bench-joins';
import { BenchLook } from './bench-look';
import { LayerActs } from './layer-acts';
import { LayerSettings } from './layer-settings';
import { AddStep } from './add-step';
import { movedTo } from './steps-edit';
import { builtIn, type StepPlace } from '../../../../core/pipeline/layers';

/** The steps from top to bottom as layers that the rows fall through. */
@Component({
  selector: 'sieve-stack',
  imports: [NgTemplateOutlet, ButtonDirective, ContextMenu, AddStep, LayerSettings],
  template: `
    @for (zone of bands(); track zone.zone) {
      <section class="zone" [attr.aria-label]="'Steps of ' + zone.title">
        <span class="name" aria-hidden="true">{{ zone.title }}</span>
        <ol>
          @if (zone.zone === 'eachTable') {
            <li class="layer" [class.on]="chosen() === 'taken'">
              <button class="head" (click)="choose.emit('taken')" [attr.aria-expanded]="chosen() === 'taken'">
                <b>Taken</b><i>{{ taken()?.rows ?? '' }}</i>
                <span class="mesh"><span class="through" style="width: 100%"></span></span>
              </button>
            </li>
          }
          @for (layer of zone.layers; track layer.step.id) {
            @if (ghostAt(zone.zone, layer.at); as own) {
              <li class="layer ghost"><ng-container [ngTemplateOutlet]="ghosts" [ngTemplateOutletContext]="{ $implicit: own }" /></li>
            }
            @if (addsTo(zone.zone, layer.at)) {
              <li><ng-container [ngTemplateOutlet]="adds" /></li>
            }
            <li
              class="layer"
              [class.on]="chosen() === layer.step.id"
              [class.off]="layer.step.off"
              [class.over]="over() === zone.zone + layer.at"
              draggable="true"
              (dragstart)="dragged.set(layer.step.id)"
              (dragover)="dragOver($event, zone.zone, layer.at)"
              (drop)="drop({ zone: zone.zone, at: layer.at })"
              (dragend)="dragged.set(undefined); over.set('')"
            >
              <button class="head" (click)="choose.emit(layer.step.id)" (contextmenu)="openMenu($event, layer.step)" [attr.aria-expanded]="chosen() === layer.step.id">
                <b>{{ layer.title }}</b>
                <i>
                  @if (layer.problems > 0) {
                    <span class="needs"><i class="pi pi-exclamation-triangle" aria-hidden="true"></i> {{ counted(layer.problems, 'problem') }}</span>
                  }
                  {{ layer.step.off ? 'off' : (layer.rows ?? '') }}</i>
                @if (layer.says) {
                  <span class="says" [title]="layer.says">{{ layer.says }}</span>
                }
                @if (layer.became; as became) {
                  <span class="says" [title]="became">{{ became }}</span>
                }
                <span class="mesh"><span class="through" [style.width.%]="layer.through"></span><span class="kept" [style.width.%]="layer.kept"></span></span>
              </button>
              @if (chosen() === layer.step.id) {
                <sieve-layer-settings [step]="layer.step" [title]="layer.title" />
              }
            </li>
          }
          @if (ghostAt(zone.zone, zone.layers.length); as own) {
            <li class="layer ghost"><ng-container [ngTemplateOutlet]="ghosts" [ngTemplateOutletContext]="{ $implicit: own }" /></li>
          }
          @if (addsTo(zone.zone, zone.layers.length)) {
            <li><ng-container [ngTemplateOutlet]="adds" /></li>
          }
          <li class="end" [class.over]="over() === zone.zone + zone.layers.length" (dragover)="dragOver($event, zone.zone, zone.layers.length)" (drop)="drop({ zone: zone.zone, at: zone.layers.length })">
            <button pButton type="button" [text]="true" size="small" severity="secondary" (click)="add.emit({ zone: zone.zone, at: zone.layers.length })">+ step <span class="sr">to {{ zone.title }}</span></button>
          </li>
        </ol>
      </section>
      @if (zone.join; as join) {
        <div class="join" [class.on]="chosen() === join.id">
          <button [attr.aria-expanded]="chosen() === join.id" (click)="choose.emit(join.id)">
            {{ join.text }}
            @if (join.lacked.length > 0) {
              · <span class="needs">{{ counted(join.lacked.length, 'column') }} not in all</span>
            }
            @if (join.problems > 0) {
              <span class="needs"><i class="pi pi-exclamation-triangle" aria-hidden="true"></i> {{ counted(join.problems, 'problem') }}</span>
            }
          </button>
        </div>
      }
    }
    <p-contextmenu #menu [model]="menuItems()" appendTo="body" />
    <ng-template #ghosts let-own>
      <div class="head">
        <b>{{ own.title }}</b><i>{{ own.effect.rowsOut }}</i>
        <span class="says" [title]="own.says">{{ own.says }}</span>
        @for (made of own.effect.made.slice(0, 3); track made.name) {
          <span class="says">makes “{{ made.name }}”: {{ made.texts.join(', ') || 'blank' }}</span>
        }
        <span class="mesh"><span class="through" [style.width.%]="share(own.effect.rowsOut)"></span><span class="kept" [style.width.%]="share(own.effect.holds)"></span></span>
      </div>
    </ng-template>
    <ng-template #adds>
      <sieve-add-step [zone]="adding()!.zone" [offered]="offered()" (pick)="pick.emit($event)" (paste)="paste.emit($event)" (leave)="add.emit(undefined)" />
    </ng-template>
  `,
  styleUrl: './stack.css',
})
export class Stack {
  protected readonly state = inject(PipelineState);
  private readonly at = inject(BenchLook);
  private readonly joins = inject(BenchJoins);
  /** Counts of the layers for the report that is looked at. */
  readonly layers = input.required<readonly LayerCounts[]>();
  readonly chosen = input.required<string>();
  readonly choose = output<string>();
  readonly add = output<StepPlace | undefined>();
  /** Where a step is being added. */
  readonly adding = input<StepPlace | undefined>();
  /** The kind of step that another screen offers. */
  readonly offered = input('');
  /** A step that is pointed at, where it would stand. */
  readonly ghost = input<GhostLayer | undefined>();
  protected ghostAt = (zone: Zone, at: number): GhostLayer | undefined => (this.ghost()?.zone === zone && this.ghost()?.at === at ? this.ghost() : undefined);
  readonly pick = output<string>();
  readonly paste = output<Step>();
  protected addsTo = (zone: Zone, at: number) => this.adding()?.zone === zone && this.adding()?.at === at;

  private readonly acts = inject(LayerActs);
  private readonly menu = viewChild.required<ContextMenu>('menu');
  protected readonly menuItems = signal<MenuItem[]>([]);
  protected readonly counted = plural;
  protected readonly dragged = signal<string | undefined>(undefined);
  protected readonly over = signal('');

  protected readonly taken = computed(() => this.layers().find((layer) => layer.id === builtIn.taken));
  /** Of the bar, in percent. */
  protected share = (rows: number): number => Math.min(100, (100 * rows) / Math.max(1, this.taken()?.rows ?? 1));
  protected readonly bands = computed(() => {
    const document = this.state.document()!;
    return zones.map((zone: Zone) => ({
      zone,
      title: zoneTitles[zone],
      join: this.joins.between()[zone],
      layers: document[zone].map((step, at) => {
        const layer = this.layers().find((each) => each.id === step.id);
        const kind = kindOf(step);
        return {
          step,
          at,
          title: titleOf(step),
          says: kind.describe(step.settings as never),
          became: layer && becameSentence(layer),
          rows: layer?.rows,
          problems: layer?.problems ?? 0,
          through: layer ? this.share(layer.rows) : 0,
          kept: layer && layer.held > 0 ? Math.max(2, this.share(layer.held)) : 0,
        };
      }),
    }));
  });
  constructor() {
    const stack = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
    // The layer that is opened, by whatever way, is brought into sight with its settings.
    afterRenderEffect(() => {
      // The columns come a moment later and make the form longer.
      this.at.columnsAbove(this.chosen());
      const layer = stack.querySelector('.layer.on, .join.on');
      // Scrolling would close a list that was opened meanwhile; who opened it has its layer in sight.
      const isListOpen = document.querySelector('.p-select-overlay, .p-multiselect-overlay, .p-autocomplete-overlay') !== null;
      if (layer && !isListOpen) layer.scrollIntoView({ block: layer.clientHeight > 0.9 * (stack.parentElement?.clientHeight ?? 0) ? 'start' : 'nearest' });
    });
  }

  /** What can be done with a layer, which is opened by it. */
  protected openMenu(event: MouseEvent, step: Step) {
    this.choose.emit(step.id);
    this.menuItems.set(this.acts.menuOf(step));
    this.menu().show(event);
  }

  protected dragOver(event: DragEvent, zone: Zone, at: number) {
    if (!this.dragged()) return;
    event.preventDefault();
    this.over.set(zone + at);
  }
  protected drop(to: StepPlace) {
    const id = this.dragged();
    if (id) this.state.change(movedTo(this.state.document()!, id, to));
    this.dragged.set(undefined);
    this.over.set('');
  }
}
