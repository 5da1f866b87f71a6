/** A number in plain decimal digits, never with an exponent: as other programs and the database read it. */
export function plainNumber(value: number): string {
  const text = String(value);
  if (!/e/i.test(text)) return text;
  const [digits, exponent] = text.split('e');
  const shift = Number(exponent);
  const negative = digits.startsWith('-');
  const [whole, part = ''] = digits.replace('-', '').split('.');
  const all = whole + part;
  const point = whole.length + shift;
  const plain =
    point <= 0
      ? `0.${'0'.repeat(-point)}${all}`
      : point >= all.length
        ? all + '0'.repeat(point - all.length)
        : `${all.slice(0, point)}.${all.slice(point)}`;
  return negative ? `-${plain}` : plain;
}

/** Digits after the point that the numbers among some cells have, the most of any. */
export function decimalsOf(cells: readonly unknown[]): number {
  let most = 0;
  for (const cell of cells) {
    if (typeof cell !== 'number' || Number.isInteger(cell)) continue;
    const text = plainNumber(cell);
    most = Math.max(most, text.length - 1 - text.indexOf('.'));
  }
  return most;
}
