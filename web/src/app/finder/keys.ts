export interface KeyOf {
  readonly keys: string;
  readonly does: string;
}

const everywhere: readonly KeyOf[] = [
  { keys: 'g', does: 'go to a place, a pipeline, a report or a command by name' },
  { keys: '?', does: 'these keys' },
  { keys: 'Ctrl Z, Ctrl Y', does: 'undo and redo a change of the pipeline' },
  { keys: 'Esc', does: 'leave a list, a menu or a dialog' },
];

const grid: readonly KeyOf[] = [
  { keys: 'arrows', does: 'go from cell to cell; from the first row up to the heading' },
  { keys: 'Shift arrows', does: 'select cells; Ctrl Space a column, Shift Space a row, Ctrl A all' },
  { keys: 'Enter, Alt ↓', does: 'on a heading: what can be done with the column' },
  { keys: 'Ctrl F', does: 'find a text in the sheet' },
  { keys: 'Ctrl C, Ctrl Shift C', does: 'copy what is selected, without or with headings' },
];

const places: readonly (readonly [RegExp, string, readonly KeyOf[]])[] = [
  [/\/bench/, 'On the bench', [{ keys: 'o', does: 'from the sheet to the steps offered for what is selected; arrows go from one to the next, Enter takes one' }, { keys: 'F2', does: 'open the text of a cell; Shift arrows select a part, for which steps are offered too' }, { keys: '|', does: 'on a heading: steps for the edge right of the column' }, { keys: 'p', does: 'the paper at the edge, at reading size, over half of the room' }, ...grid]],
  [/\/dataset(?:\?|$)/, 'On the dataset', grid],
  [/\/intake/, 'On intake', [{ keys: 'arrows', does: 'on the paper: from word to word' }]],
];

/** The keys that mean something at an address, those of its place first. */
export function keysFor(address: string): { readonly place: string; readonly keys: readonly KeyOf[] }[] {
  const found = places.find(([pattern]) => pattern.test(address));
  return [...(found ? [{ place: found[1], keys: found[2] }] : []), { place: 'Everywhere', keys: everywhere }];
}
