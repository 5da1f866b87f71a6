import { describe, expect, it } from 'vitest';
import { berthNotes, totalOf } from './notes';

const notes = berthNotes();

describe('the made-up berth notes', () => {
  it('are the same every time', () => expect(berthNotes()).toEqual(notes));

  it('differ in length, and each line is its units by its rate', () => {
    const lengths = notes.map(
      (note) =>
        note.stays.flatMap((stay) => stay.lines).length + note.surcharges.length * 100 + note.stays.length * 10_000,
    );
    expect(new Set(lengths).size).toBe(notes.length);
    for (const line of notes.flatMap((note) => note.stays.flatMap((stay) => stay.lines)))
      expect(line.amount).toBe(Math.round((line.units * line.rate) / 10));
  });

  it('have several stays, each after the one before, and some notes on narrow paper', () => {
    expect(notes.filter((note) => note.stays.length > 1).length).toBeGreaterThan(9);
    for (const { stays } of notes)
      for (const [i, stay] of stays.entries())
        expect(stay.from < stay.to && (i === 0 || stays[i - 1].to < stay.from)).toBe(true);
    expect(notes.filter((note) => note.narrow)).toHaveLength(3);
    expect(notes.every((note) => totalOf(note.surcharges) > 0)).toBe(true);
  });
});
