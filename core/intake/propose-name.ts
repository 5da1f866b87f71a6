import { baseName } from '../values/file-name';

/** A name for the pipeline over some reports: that of their folder, or the words that all their files begin with. */
export function proposedName(paths: readonly string[], folder?: string): string {
  if (folder !== undefined) return inWords(folder.replace(/[/\\]+$/, '').split(/[/\\]/).at(-1) ?? '');
  const names = paths.map((path) => wordsOf(baseName(path).replace(/\.\w+$/, '')));
  if (names.length === 0) return '';
  let same = 0;
  while (names.every((words) => words[same] !== undefined && words[same].toLowerCase() === names[0][same].toLowerCase())) same++;
  return inWords((names.length === 1 ? names[0] : names[0].slice(0, same)).join(' '));
}

const wordsOf = (name: string): string[] => name.split(/[\s_.–-]+/).filter((word) => word !== '' && !/\d/.test(word));

function inWords(name: string): string {
  const text = wordsOf(name).join(' ');
  return text === '' ? '' : text.charAt(0).toUpperCase() + text.slice(1);
}
