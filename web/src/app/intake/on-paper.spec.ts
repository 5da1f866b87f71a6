import { describe, expect, it } from 'vitest';
import { ruleOf, type TakeRule } from '../../../../core/intake/take-rule';
import type { PageContent } from '../../../../core/page/page';
import { findTables } from '../../../../core/reading/find-tables';
import { plainRows, type Piece } from '../../../../core/reading/found-table';
import { moved, page, words } from '../../../../core/testing/print';
import type { PageAnswer } from '../../../../server/contract/contract';
import { anchorsOf, drawingOn, pieceTaken, tablesOn, undrawn } from './on-paper';

const landings = ['Code   Species              Boxes     Value', 'HK1    Lantern hake           112 13,014.40', 'SL2    Grey sole               48  7,862.40', 'CR4    Rock crab               61  4,318.80', 'MK1    Blue mackerel          210  7,686.00'];
const printed = page([...words(['Week ending 8 June 2025'], { top: 70 }), ...words(landings), ...words(['Total weight of all quays'], { top: 190 })]);
const answerFor = (content: PageContent): PageAnswer => ({ pageCount: 1, page: content, pieces: findTables([content]).flatMap((table) => table.pieces.map((piece) => ({ ...piece, table: table.id }))) });
const answer = answerFor(printed);
const rule = (some: object = {}): TakeRule => ruleOf({ name: 'Landings', heading: ['Code', 'Species'], ...some });
const rowsOf = (piece: Piece | undefined) => piece && plainRows(piece.readings[0]);

describe('what a rule takes on the page shown', () => {
  it('is the table that it knows by its heading', () => {
    expect(rowsOf(pieceTaken(rule(), 'a.pdf', answer))?.map((row) => row[0])).toEqual(['Code', 'HK1', 'SL2', 'CR4', 'MK1']);
    expect(pieceTaken(rule({ heading: ['Berth', 'Vessel'] }), 'a.pdf', answer)).toBeUndefined();
  });

  it('is what goes on there, by its name, where nothing tells it by a heading', () => {
    const [table] = tablesOn(answer);
    expect(rowsOf(pieceTaken(rule({ heading: ['Berth', 'Vessel'] }), 'a.pdf', answer, [table.id]))).toHaveLength(5);
  });

  it('is nothing where the page could not be read', () => {
    expect(pieceTaken(rule(), 'a.pdf', { pageCount: 1, page: null, pieces: [] })).toBeUndefined();
    expect(tablesOn({ pageCount: 1, page: null, pieces: [] })).toEqual([]);
  });

  it('does not hang on which pages the rule takes from: this one is looked at', () => {
    expect(pieceTaken(rule({ pages: { from: 7, to: 9 } }), 'a.pdf', answer)).toBeDefined();
  });
});

describe('separators drawn on a table', () => {
  const base = pieceTaken(rule(), 'a.pdf', answer)!;

  it('begin with those of the best reading, held by the words of the heading', () => {
    const drawing = drawingOn(rule(), printed, base);
    expect(drawing.columns.map(({ at }) => at)).toHaveLength(3);
    expect(drawing.columns.every(({ at }) => !printed.words.some(({ box }) => box[1] > 95 && box[3] < 180 && box[0] < at - 0.5 && box[2] > at + 0.5))).toBe(true);
    expect(drawing.anchors.map(({ text }) => text)).toEqual(['Code', 'Species', 'Boxes', 'Value']);
    expect([drawing.rows, drawing.cuts]).toEqual(['as read', []]);
  });

  it('stay on their words where the table stands elsewhere on another page', () => {
    const drawn = { ...rule(), drawing: { ...drawingOn(rule(), printed, base), rows: 'drawn' as const, cuts: [130] } };
    const elsewhere = moved(printed, 23, -31);
    const there = answerFor(elsewhere);
    const again = drawingOn(drawn, elsewhere, pieceTaken(rule(), 'b.pdf', there)!);
    again.columns.forEach(({ at }, i) => expect(at).toBeCloseTo(drawn.drawing.columns[i].at + 23, 0));
    expect(again.cuts[0]).toBeCloseTo(130 - 31, 0);
    expect(rowsOf(pieceTaken({ ...drawn, drawing: { ...again, rows: 'as read', cuts: [] }, reading: 'drawn' }, 'b.pdf', there))?.[1]).toEqual(['HK1', 'Lantern hake', '112', '13,014.40']);
  });

  it('of an area are also held by the line above it, and end at the line below', () => {
    const { anchors, below } = anchorsOf(printed, base.readings[0], [40, 95, 400, 185]);
    expect(anchors.map(({ text }) => text)).toEqual(['Code', 'Species', 'Boxes', 'Value', 'Week', 'ending', 'June']);
    expect(below).toBe('Total weight of all quays');
  });

  it('are taken away again, and the area stays', () => {
    const drawn = { ...rule(), reading: 'drawn' as const, drawing: { ...drawingOn(rule(), printed, base), cuts: [130] } };
    expect(undrawn(drawn)).toMatchObject({ reading: 'best', readingIn: [], drawing: undefined });
    const area = undrawn({ ...drawn, of: 'area' } as TakeRule);
    expect([area.drawing?.columns, area.drawing?.cuts, area.drawing?.anchors.length]).toEqual([[], [], 4]);
  });
});
