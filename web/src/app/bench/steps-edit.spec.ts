import { parsePipeline } from '../../../../core/pipeline/document';
import { zones } from '../../../../core/steps/step';
import { changed, changedAndFollowed, inserted, moved, movedTo, newStepOf, removed, stepFrom, stepText, withCorrection } from './steps-edit';
import { placeOf } from '../../../../core/pipeline/layers';

const step = (id: string) => ({ id, kind: 'trim rows', settings: {} });
const document = parsePipeline({ format: 'able-sieve/pipeline', version: 1, name: 'x', take: [], eachTable: [step('a'), step('b')], eachReport: [step('c')], allReports: [] });
const order = (of: typeof document) => zones.map((zone) => of[zone].map((each) => each.id).join('')).join('|');

describe('editing the stack', () => {
  it('inserts, removes and finds', () => {
    expect(order(inserted(document, { zone: 'eachTable', at: 1 }, document.eachReport[0]))).toBe('acb|c|');
    expect(order(removed(document, 'a'))).toBe('b|c|');
    expect(placeOf(document, 'c')).toEqual({ zone: 'eachReport', at: 0 });
  });

  it('moves within a zone and over its end into the next', () => {
    expect(order(moved(document, 'a', 1))).toBe('ba|c|');
    expect(order(moved(document, 'b', 1))).toBe('a|bc|');
    expect(order(moved(document, 'c', 1))).toBe('ab||c');
    expect(order(moved(document, 'c', -1))).toBe('abc||');
    expect(order(moved(document, 'a', -1))).toBe('ab|c|');
  });

  it('moves to where it is dropped, before and after its own place', () => {
    expect(order(movedTo(document, 'a', { zone: 'eachTable', at: 2 }))).toBe('ba|c|');
    expect(order(movedTo(document, 'b', { zone: 'eachTable', at: 0 }))).toBe('ba|c|');
    expect(order(movedTo(document, 'a', { zone: 'allReports', at: 0 }))).toBe('b|c|a');
  });

  it('switches off and on again without leaving a trace', () => {
    const off = changed(document, 'a', { off: true });
    expect(off.eachTable[0].off).toBe(true);
    expect(changed(off, 'a', { off: false })).toEqual(document);
  });

  it('go as text from one pipeline to another, with an id of their own', () => {
    const copied = { id: 'a', kind: 'trim rows', name: 'Cut the top', settings: { top: 2, bottom: 0, from: 0, to: 0 } };
    const pasted = stepFrom(stepText(copied))!;
    expect({ ...pasted, id: 'a' }).toEqual(copied);
    expect(pasted.id).not.toBe('a');
    expect([stepFrom('drop blank'), stepFrom('{"kind":"juggle"}'), stepFrom('null')]).toEqual([undefined, undefined, undefined]);
  });

  it('take corrections by hand above the step at which the error starts, all in one step', () => {
    const document = parsePipeline({ format: 'able-sieve/pipeline', version: 1, name: 'x', take: [], eachReport: [{ id: 'a', kind: 'drop blank rows', settings: { columns: { by: 'all' } } }], allReports: [{ id: 't', kind: 'set types', settings: { types: [] } }] });
    const correction = { report: 'r.pdf', page: 1, word: 4, column: 'Value', from: '1,2O0', to: '1,200', into: '', who: '', when: '', why: '' };
    const once = withCorrection(document, correction, { above: 't' });
    expect(once.allReports.map(({ kind }) => kind)).toEqual(['correct cells', 'set types']);
    const twice = withCorrection(withCorrection(once, { ...correction, word: 9 }, { above: 't' }), { ...correction, to: '1,201' }, { above: 't' });
    expect(twice.allReports).toHaveLength(2);
    expect((twice.allReports[0].settings['corrections'] as { to: string }[]).map(({ to }) => to)).toEqual(['1,200', '1,201']);
    expect(withCorrection(document, correction, { below: 'a' }).eachReport.map(({ kind }) => kind)).toEqual(['drop blank rows', 'correct cells']);
  });

  it('lets the steps below follow a rename, and undoes nothing above it', () => {
    const rename = { id: 'r', kind: 'rename', settings: { names: [{ from: ['A'], to: 'B' }], patterns: [], series: [] } };
    const pick = (id: string) => ({ id, kind: 'pick columns', settings: { columns: { by: 'names', names: ['B'] } } });
    const document = parsePipeline({ format: 'able-sieve/pipeline', version: 1, name: 'x', take: [], eachTable: [pick('above'), rename, pick('below')], allReports: [pick('end')] });
    const next = changedAndFollowed(document, 'r', { settings: { ...rename.settings, names: [{ from: ['A'], to: 'C' }] } }, { names: ['A', 'D'] });
    const named = (step: { settings: unknown }) => (step.settings as { columns: { names: string[] } }).columns.names;
    expect([next.eachTable[0], next.eachTable[2], next.allReports[0]].map(named)).toEqual([['B'], ['C'], ['C']]);
  });

  it('begins a step about the columns of a heading, whatever its form calls them', () => {
    const settings = (kind: string, ...names: string[]) => newStepOf(kind, names).settings;
    expect(settings('unpivot', '2024', '2025')['columns']).toEqual({ by: 'names', names: ['2024', '2025'] });
    expect(settings('split column', 'Item')['column']).toBe('Item');
    expect(settings('rename', 'Wt', 'Val')['names']).toEqual([{ from: ['Wt'], to: 'Wt' }, { from: ['Val'], to: 'Val' }]);
    expect(settings('sort', 'Quay', 'Day')['by']).toEqual([{ column: 'Quay', order: 'up' }, { column: 'Day', order: 'up' }]);
    expect(settings('sift rows', 'Quay')['conditions']).toEqual([{ of: { is: 'column', name: 'Quay' }, test: 'is one of', value: '', values: [] }]);
    // Without columns it is as its kind begins, and what the schema adds is there.
    expect(newStepOf('trim rows').settings).toEqual({ top: 0, bottom: 0, from: 0, to: 0 });
    expect(newStepOf('pick columns', ['Code'], { columns: { by: 'all but', names: ['Code'] } }).settings).toEqual({ columns: { by: 'all but', names: ['Code'] } });
  });
});
