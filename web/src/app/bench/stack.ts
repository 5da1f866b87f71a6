import { afterRenderEffect, Component, computed, ElementRef, inject, input, output, signal } from '@angular/core';
import * as v from 'valibot';
import { formOf } from '../../../../core/steps/fields';
import { kindOf, titleOf, type Step } from '../../../../core/steps/kinds';
import { zones, zoneTitles, type Zone } from '../../../../core/steps/step';
import { mergedNames, partialColumns } from '../../../../core/pipeline/append';
import { faultsOf } from '../../../../core/pipeline/document';
import type { ErrorPlace, LayersAnswer, LayerCounts, SheetWindow } from '../../../../server/contract/contract';
import { PipelineState } from '../pipeline/pipeline-state';
import type { ValuesOf } from '../forms/column-values';
import { SettingsForm } from '../forms/settings-form';
import { plural } from '../shared/words';
import { JoinPanel, type LackedColumn } from './join-panel';
import { TypesForm, type LookPlace } from './types-form';
import { changed, changedAndFollowed, moved, movedTo, removed, stepText } from './steps-edit';
import { builtIn, type StepPlace } from '../../../../core/pipeline/layers';

/** What is appended between two zones. */
interface Join {
  readonly id: string;
  readonly text: string;
  readonly parts: string;
  readonly problems: number;
  readonly lacked: readonly LackedColumn[];
  readonly names: readonly string[];
}

/** The steps from top to bottom as layers that the rows fall through. */
@Component({
  selector: 'sieve-stack',
  imports: [SettingsForm, TypesForm, JoinPanel],
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
              <button class="head" (click)="choose.emit(layer.step.id)" [attr.aria-expanded]="chosen() === layer.step.id">
                <b>{{ layer.title }}</b>
                <i>
                  @if (layer.problems > 0) {
                    <span class="needs"><i class="pi pi-exclamation-triangle" aria-hidden="true"></i> {{ counted(layer.problems, 'problem') }}</span>
                  }
                  {{ layer.step.off ? 'off' : (layer.rows ?? '') }}</i>
                <span class="mesh"><span class="through" [style.width.%]="layer.through"></span><span class="kept" [style.width.%]="layer.kept"></span></span>
              </button>
              @if (chosen() === layer.step.id) {
                <div class="settings">
                  <p class="small">{{ layer.help }}</p>
                  @if (layer.step.kind === 'set types') {
                    <sieve-types-form [step]="layer.step.id" [values]="draftOf(layer.step)" [columns]="columnsBefore(layer.step.id)" [after]="after()" [errors]="errors()" (changed)="set(layer.step, $event)" (look)="look.emit($event)" />
                  } @else {
                  <sieve-settings-form [fields]="layer.fields" [values]="draftOf(layer.step)" [columns]="columnsBefore(layer.step.id)" [valuesOf]="valuesOf()" (changed)="set(layer.step, $event)" />
                  }
                  @if (layer.step.pass?.length) {
                    <ul class="passes" aria-label="Rows let pass">
                      @for (exception of layer.step.pass; track $index) {
                        <li>
                          <span><i class="pi pi-check" aria-hidden="true"></i> “{{ exception.text }}” passes{{ exception.report ? ' in ' + exception.report : '' }}</span>
                          <button class="btn quiet" [attr.aria-label]="'Hold “' + exception.text + '” again'" (click)="holdAgain(layer.step, $index)"><i class="pi pi-times" aria-hidden="true"></i></button>
                        </li>
                      }
                    </ul>
                  }
                  @if (fault(); as fault) {
                    <p class="error small" role="alert">{{ fault }}</p>
                  }
                  <p class="own">
                    <label [for]="'name-' + layer.step.id">Name</label>
                    <input class="field" [id]="'name-' + layer.step.id" [value]="layer.step.name ?? ''" [placeholder]="layer.kindTitle" (change)="call(layer.step, { name: $any($event.target).value.trim() || undefined })" />
                    <label [for]="'note-' + layer.step.id">Note</label>
                    <input class="field" [id]="'note-' + layer.step.id" [value]="layer.step.note ?? ''" (change)="call(layer.step, { note: $any($event.target).value.trim() || undefined })" />
                  </p>
                  <div class="acts">
                    <button class="btn quiet" (click)="move(layer.step.id, -1)" [attr.aria-label]="'Move ' + layer.title + ' up'"><i class="pi pi-arrow-up" aria-hidden="true"></i></button>
                    <button class="btn quiet" (click)="move(layer.step.id, 1)" [attr.aria-label]="'Move ' + layer.title + ' down'"><i class="pi pi-arrow-down" aria-hidden="true"></i></button>
                    <button class="btn quiet" (click)="toggle(layer.step)">{{ layer.step.off ? 'Switch on' : 'Switch off' }}</button>
                    <button class="btn quiet" (click)="remove(layer.step.id)">Remove</button>
                    <button class="btn quiet" (click)="copy(layer.step)">{{ copied() === layer.step.id ? 'Copied' : 'Copy' }}</button>
                  </div>
                </div>
              }
            </li>
          }
          <li class="end" [class.over]="over() === zone.zone + zone.layers.length" (dragover)="dragOver($event, zone.zone, zone.layers.length)" (drop)="drop({ zone: zone.zone, at: zone.layers.length })">
            <button class="btn quiet" (click)="add.emit({ zone: zone.zone, at: zone.layers.length })">+ step <span class="sr">to {{ zone.title }}</span></button>
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
          @if (chosen() === join.id) {
            <sieve-join-panel [parts]="join.parts" [lacked]="join.lacked" [names]="join.names" />
          }
        </div>
      }
    }
  `,
  styles: `
    :host {
      display: block;
      padding: 8px 10px 20px 8px;
    }
    .zone {
      display: grid;
      grid-template-columns: 20px minmax(0, 1fr);
    }
    .name {
      writing-mode: vertical-rl;
      transform: rotate(180deg);
      text-align: center;
      font-size: 12px;
      color: var(--muted);
      background: var(--line-soft);
      border-radius: 4px;
      margin-right: 3px;
    }
    ol {
      list-style: none;
      margin: 0;
      padding: 0;
    }
    .layer {
      border: 1px solid transparent;
      border-radius: 6px;
    }
    .layer.on {
      background: var(--panel);
      border-color: var(--copper);
      box-shadow: 0 1px 5px rgb(164 80 30 / 14%);
    }
    .head {
      display: grid;
      grid-template-columns: minmax(0, 1fr) auto;
      gap: 3px 6px;
      width: 100%;
      padding: 5px 8px 6px;
      border: 0;
      background: none;
      text-align: left;
      cursor: pointer;
    }
    .head:hover b {
      color: var(--copper);
    }
    .head b {
      font-weight: 600;
    }
    .on .head b {
      color: var(--copper);
    }
    .head i {
      font-style: normal;
      color: var(--muted);
    }
    .head .pi {
      font-size: 11px;
    }
    .mesh {
      grid-column: 1 / -1;
    }
    .off .head b {
      text-decoration: line-through;
      color: var(--muted);
    }
    .off .through {
      opacity: 0.35;
    }
    .over {
      box-shadow: 0 -3px var(--copper);
    }
    .settings {
      padding: 2px 8px 8px;
      cursor: default;
    }
    .settings p {
      margin: 2px 0 6px;
    }
    .settings .own {
      margin-top: 8px;
      padding-top: 6px;
      border-top: 1px dashed var(--line);
      display: grid;
      grid-template-columns: 88px minmax(0, 1fr);
      gap: 4px 8px;
      align-items: center;
      color: var(--muted);
    }
    .own .field {
      width: 100%;
      color: var(--ink);
    }
    .acts {
      display: flex;
      flex-wrap: wrap;
      gap: 2px;
      margin-top: 6px;
    }
    .passes {
      list-style: none;
      margin: 6px 0 0;
      padding: 0;
      font-size: 12px;
      color: var(--verdigris);
    }
    .passes li {
      display: flex;
      justify-content: space-between;
      align-items: center;
    }
    .join {
      margin: 3px 0 3px 23px;
      border-top: 1px dashed #a3aca8;
      border-bottom: 1px dashed #a3aca8;
    }
    .join button:first-child {
      width: 100%;
      padding: 2px 8px;
      border: 0;
      background: none;
      font-size: 12px;
      color: var(--muted);
      cursor: pointer;
    }
    .join.on button:first-child,
    .join button:first-child:hover {
      color: var(--copper);
    }
  `,
})
export class Stack {
  protected readonly state = inject(PipelineState);
  /** Counts of the layers for the report that is looked at. */
  readonly layers = input.required<readonly LayerCounts[]>();
  readonly chosen = input.required<string>();
  /** Column names above a step, as far as they are known. */
  readonly columnsAbove = input.required<(step: string) => readonly string[]>();
  /** The columns as they leave the layer looked at, and the error cells in it. */
  readonly after = input<SheetWindow['columns']>([]);
  readonly errors = input<readonly ErrorPlace[]>([]);
  /** Columns that some tables of the report lack, and all columns of the sheet looked at. */
  readonly partial = input<LayersAnswer['partial']>([]);
  /** Asks for the values above the step that is open. */
  readonly valuesOf = input<ValuesOf>();
  readonly choose = output<string>();
  readonly look = output<LookPlace>();
  readonly add = output<StepPlace>();

  protected readonly counted = plural;
  protected readonly fault = signal<string | undefined>(undefined);
  /** Settings being written that the schema does not take yet. */
  private readonly draft = signal<{ id: string; values: Record<string, unknown> } | undefined>(undefined);
  protected readonly dragged = signal<string | undefined>(undefined);
  protected readonly over = signal('');

  protected readonly taken = computed(() => this.layers().find((layer) => layer.id === builtIn.taken));
  protected readonly bands = computed(() => {
    const document = this.state.document()!;
    const widest = Math.max(1, this.taken()?.rows ?? 1);
    return zones.map((zone: Zone) => ({
      zone,
      title: zoneTitles[zone],
      join: this.joins()[zone],
      layers: document[zone].map((step, at) => {
        const layer = this.layers().find((each) => each.id === step.id);
        const kind = kindOf(step);
        return {
          step,
          at,
          title: titleOf(step),
          help: kind.help,
          kindTitle: kind.title,
          fields: formOf(kind),
          rows: layer?.rows,
          problems: layer?.problems ?? 0,
          through: layer ? (100 * layer.rows) / widest : 0,
          kept: layer && layer.held > 0 ? Math.max(2, (100 * layer.held) / widest) : 0,
        };
      }),
    }));
  });
  private readonly contributing = computed(() => this.state.counting().flatMap((report) => {
    const summary = this.state.summaryOf(report.id);
    return summary && summary.matches.length > 0 ? [{ path: report.path, columns: summary.columns }] : [];
  }));
  /** The appends between the zones. */
  private readonly joins = computed((): Partial<Record<Zone, Join>> => {
    const problems = (id: string) => this.layers().find((layer) => layer.id === id)?.problems ?? 0;
    const reports = this.contributing();
    const lists = reports.map(({ columns }) => columns);
    return {
      eachTable: {
        id: builtIn.joined,
        text: this.tables(),
        parts: 'tables',
        problems: problems(builtIn.joined),
        lacked: this.partial().map(({ name, lackedBy }) => ({ name, lackedBy: lackedBy.map(({ page }) => `the table on page ${page}`) })),
        names: this.chosen() === builtIn.joined ? this.after().map((column) => column.name) : [],
      },
      eachReport: {
        id: builtIn.appended,
        text: `${plural(reports.length, 'report')} → 1 dataset`,
        parts: 'reports',
        problems: problems(builtIn.appended),
        lacked: partialColumns(lists).map(({ name, lacks }) => ({ name, lackedBy: lacks.map((i) => reports[i].path) })),
        names: mergedNames(lists),
      },
    };
  });
  protected readonly tables = computed(() => {
    const guide = this.state.guide();
    const matches = (guide && this.state.summaryOf(guide.id)?.matches) ?? [];
    return `${plural(matches.length, 'found table')}, ${plural(matches.reduce((sum, match) => sum + match.pages.length, 0), 'page')}`;
  });

  constructor() {
    const stack = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
    // The layer that is opened, by whatever way, is brought into sight with its settings.
    afterRenderEffect(() => {
      // The columns come a moment later and make the form longer.
      this.columnsAbove()(this.chosen());
      const layer = stack.querySelector('.layer.on, .join.on');
      if (layer) layer.scrollIntoView({ block: layer.clientHeight > 0.9 * (stack.parentElement?.clientHeight ?? 0) ? 'start' : 'nearest' });
    });
  }

  protected draftOf = (step: Step) => (this.draft()?.id === step.id ? this.draft()!.values : step.settings);
  protected columnsBefore = (step: string) => this.columnsAbove()(step);

  /** Settings that the schema takes are saved at once; others stay a draft with the sentence why. */
  protected set(step: Step, values: Record<string, unknown>) {
    const result = v.safeParse(kindOf(step).settings, values);
    if (result.success) {
      this.draft.set(undefined);
      this.fault.set(undefined);
      this.state.change(changedAndFollowed(this.state.document()!, step.id, { settings: result.output as Record<string, unknown> }, this.columnsAbove()(step.id)), step.id);
    } else {
      this.draft.set({ id: step.id, values });
      this.fault.set(faultsOf(new v.ValiError(result.issues)));
    }
  }

  /** Takes an exception out: the rows are held again. */
  protected holdAgain(step: Step, at: number) {
    const pass = step.pass!.filter((_, i) => i !== at);
    this.call(step, { pass: pass.length > 0 ? pass : undefined });
  }
  /** A name and a note of the step's own. */
  protected call = (step: Step, changes: Partial<Step>) => this.state.change(changed(this.state.document()!, step.id, changes));
  protected readonly copied = signal('');
  /** The step as text, to be put in here or in another pipeline. */
  protected copy(step: Step) {
    void navigator.clipboard.writeText(stepText(step)).then(
      () => this.copied.set(step.id),
      () => this.fault.set('The browser did not let the clipboard be used.'),
    );
  }
  protected move = (id: string, by: -1 | 1) => this.state.change(moved(this.state.document()!, id, by));
  protected toggle = (step: Step) => this.state.change(changedAndFollowed(this.state.document()!, step.id, { off: !step.off }, this.columnsAbove()(step.id)));
  protected remove(id: string) {
    this.state.change(removed(this.state.document()!, id));
    this.choose.emit(builtIn.taken);
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
