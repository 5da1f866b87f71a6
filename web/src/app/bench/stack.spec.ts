import { signal } from '@angular/core';
import { describe, expect, it } from 'vitest';
import { parsePipeline, type Pipeline } from '../../../../core/pipeline/document';
import type { StepPlace } from '../../../../core/pipeline/layers';
import type { LayerCounts } from '../../../../server/contract/contract';
import { show } from '../../testing/shown';
import { PipelineState } from '../pipeline/pipeline-state';
import { BenchJoins } from './bench-joins';
import { BenchLook } from './bench-look';
import { LayerActs } from './layer-acts';
import { Stack } from './stack';

const document = parsePipeline({
  format: 'able-sieve/pipeline',
  version: 1,
  name: 'P',
  take: [],
  eachTable: [{ id: 'head', kind: 'promote header rows', settings: { rows: 1 } }, { id: 'noise', kind: 'drop noise', settings: { headings: true } }],
  eachReport: [{ id: 'turn', kind: 'unpivot', settings: { columns: { by: 'names', names: ['2024', '2025'] } } }],
  allReports: [{ id: 'sorted', kind: 'sort', settings: { by: [{ column: 'Code' }] }, off: true }],
});
const counts = (id: string, rows: number, some: object = {}) => ({ id, title: id, rowsIn: rows, rows, held: 0, problems: 0, ...some }) as unknown as LayerCounts;
const layers = [counts('taken', 80), counts('head', 79), counts('noise', 60, { held: 19, problems: 2 }), counts('turn', 120, { rowsIn: 60, turned: 2, held: 0 })];
const join = { id: 'joined', text: '1 found table, 3 pages', parts: 'tables', problems: 0, lacked: [{ name: 'Grade', lackedBy: ['the table on page 3'] }], names: [] };

async function stack(inputs: object = {}) {
  const changed: Pipeline[] = [];
  const state = { document: signal(document), change: (next: Pipeline) => changed.push(next) };
  const shown = await show(Stack, { layers, chosen: '', ...inputs }, [
    { provide: PipelineState, useValue: state },
    { provide: BenchLook, useValue: { columnsAbove: () => [] } },
    { provide: BenchJoins, useValue: { between: () => ({ eachTable: join }) } },
    { provide: LayerActs, useValue: { menuOf: () => [] } },
  ]);
  const chosen: string[] = [];
  const places: (StepPlace | undefined)[] = [];
  shown.of.choose.subscribe((id) => chosen.push(id));
  shown.of.add.subscribe((place) => places.push(place));
  const layer = (title: string) => [...shown.root.querySelectorAll<HTMLElement>('li.layer')].find((each) => each.textContent!.includes(title))!;
  /** Drags a layer over a place and lets go there, as a browser tells it. */
  const drag = async (title: string, to: HTMLElement) => {
    layer(title).dispatchEvent(new Event('dragstart'));
    to.dispatchEvent(new Event('dragover', { cancelable: true }));
    await shown.settle();
    const over = shown.root.querySelectorAll('.over').length;
    to.dispatchEvent(new Event('drop'));
    layer(title).dispatchEvent(new Event('dragend'));
    await shown.settle();
    return over;
  };
  return { ...shown, chosen, places, changed, layer, drag };
}
const order = ({ eachTable, eachReport, allReports }: Pipeline) => [eachTable, eachReport, allReports].map((zone) => zone.map(({ id }) => id).join(' ')).join(' | ');

describe('the stack of steps', () => {
  it('has what is pointed at as a layer at its place, with its bar and the columns that it makes', async () => {
    const effect = { rowsIn: 60, rowsOut: 40, holds: 20, made: [{ name: 'Quay', texts: ['Saltby', 'Tern Point'] }, { name: 'Note', texts: [] }] };
    const { root, give, texts } = await stack({ ghost: { zone: 'eachReport', at: 0, title: 'Lift sections', says: 'rows with one filled cell into Quay', effect } });
    expect(texts('li.layer b')).toEqual(['Taken', 'Promote header rows', 'Drop noise', 'Lift sections', 'Unpivot', 'Sort']);
    const ghost = root.querySelector<HTMLElement>('li.ghost')!;
    expect(ghost.textContent!.replace(/\s+/g, ' ')).toContain('Lift sections40rows with one filled cell into Quay');
    expect([...ghost.querySelectorAll('.says')].map((each) => each.textContent!.trim()).slice(1)).toEqual(['makes “Quay”: Saltby, Tern Point', 'makes “Note”: blank']);
    expect([ghost.querySelector<HTMLElement>('.through')!.style.width, ghost.querySelector<HTMLElement>('.kept')!.style.width]).toEqual(['50%', '25%']);
    await give({ ghost: undefined });
    expect(root.querySelector('li.ghost')).toBeNull();
  });

  it('has a layer for each step in its zone, with the rows that pass it and what became of them', async () => {
    const { texts, layer } = await stack();
    expect(texts('li.layer b')).toEqual(['Taken', 'Promote header rows', 'Drop noise', 'Unpivot', 'Sort']);
    expect(texts('section').length).toBe(3);
    expect(layer('Drop noise').textContent).toMatch(/2 problems\s*60/);
    expect(layer('Unpivot').textContent).toContain('60 rows × 2 columns became 120 rows');
    expect(layer('Sort').textContent).toContain('off');
    expect(layer('Sort').classList.contains('off')).toBe(true);
  });

  it('draws how much falls through each, and a little of what was held wherever anything was', async () => {
    const { layer } = await stack();
    const widths = (title: string) => [...layer(title).querySelectorAll<HTMLElement>('.mesh > span')].map((span) => span.style.width);
    expect([widths('Promote'), widths('Drop noise')]).toEqual([['98.75%', '0%'], ['75%', '23.75%']]);
    const few = await stack({ layers: [counts('taken', 100_000), counts('head', 99_999, { held: 1 })] });
    expect([...few.layer('Promote').querySelectorAll<HTMLElement>('.kept')].map((span) => span.style.width)).toEqual(['2%']);
  });

  it('says between the zones what is joined, and which columns are not in all parts', async () => {
    const { texts, press, chosen } = await stack();
    expect(texts('.join')).toEqual(['1 found table, 3 pages · 1 column not in all']);
    await press('1 found table');
    expect(chosen).toEqual(['joined']);
  });

  it('opens what is pressed, and adds steps at the end of the zone that is asked for', async () => {
    const { press, chosen, places } = await stack();
    await press('Drop noise');
    await press('Taken');
    await press('+ step', 1);
    expect([chosen, places]).toEqual([['noise', 'taken'], [{ zone: 'eachReport', at: 1 }]]);
  });

  it('moves a layer to where it is dropped, within its zone and into another', async () => {
    const { drag, changed, layer, root } = await stack();
    expect(await drag('Drop noise', layer('Promote header rows'))).toBe(1);
    await drag('Promote header rows', root.querySelectorAll<HTMLElement>('li.end')[2]);
    expect(changed.map(order)).toEqual(['noise head | turn | sorted', 'noise | turn | sorted head']);
  });

  it('takes nothing that is dragged from elsewhere', async () => {
    const { root, changed, settle } = await stack();
    const end = root.querySelector<HTMLElement>('li.end')!;
    const over = new Event('dragover', { cancelable: true });
    end.dispatchEvent(over);
    end.dispatchEvent(new Event('drop'));
    await settle();
    expect([over.defaultPrevented, changed.length, root.querySelectorAll('.over').length]).toEqual([false, 0, 0]);
  });
});
