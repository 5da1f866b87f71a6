import type { PlacedGlyph } from './typesetting';

/** Accents that old fonts draw as letters of their own, and what they are when they stand on another. */
const combining: Record<string, string> = {
  '´': '\u0301',
  '`': '\u0300',
  '¨': '\u0308',
  ˆ: '\u0302',
  '˜': '\u0303',
  '¯': '\u0304',
  '˘': '\u0306',
  '˙': '\u0307',
  '˚': '\u030a',
  '¸': '\u0327',
  '˛': '\u0328',
  '˝': '\u030b',
  ˇ: '\u030c',
};

/** Baselines of a letter and its accent lie no further apart than this, in font sizes. */
const raisedBy = 0.4;

/** Glyphs with each accent that is drawn over or under a letter joined to it; one that stands beside letters stays. */
export function withAccents(glyphs: readonly PlacedGlyph[]): readonly PlacedGlyph[] {
  if (!glyphs.some(({ text }) => text in combining)) return glyphs;
  const joined = new Map<PlacedGlyph, PlacedGlyph | undefined>();
  glyphs.forEach((accent, i) => {
    if (!(accent.text in combining)) return;
    // The letter is drawn just before or just after.
    const letter = [glyphs[i + 1], glyphs[i - 1]].find(
      (near) =>
        near &&
        isUnder(near, accent) &&
        `${near.text}${combining[accent.text]}`.normalize('NFC').length === near.text.length,
    );
    if (!letter) return;
    joined.set(accent, undefined);
    joined.set(letter, { ...letter, text: `${letter.text}${combining[accent.text]}`.normalize('NFC') });
  });
  return glyphs.flatMap((glyph) => (joined.has(glyph) ? (joined.get(glyph) ?? []) : [glyph]));
}

function isUnder(letter: PlacedGlyph, accent: PlacedGlyph): boolean {
  const middle = accent.x + accent.advance / 2;
  const overlap = Math.min(letter.x + letter.advance, accent.x + accent.advance) - Math.max(letter.x, accent.x);
  return (
    /\p{L}/u.test(letter.text) &&
    letter.angle === accent.angle &&
    Math.abs(letter.y - accent.y) < raisedBy * letter.fontSize &&
    middle > letter.x &&
    middle < letter.x + letter.advance &&
    overlap > 0.5 * Math.min(letter.advance, accent.advance)
  );
}
