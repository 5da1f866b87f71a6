import { baseName } from '../values/file-name';

/** Folders called so say nothing of what is in them. */
const saysNothing = new Set(
  (
    'report reports file files pdf pdfs document documents doc docs data inbox incoming input in new download downloads ' +
    'attachments archive later bericht berichte datei dateien dokumente eingang rapport rapports fichiers informe informes ' +
    'archivos documentos rapporto rapporti documenti relatorio relatorios rapporten bestanden raport raporty pliki rapporter'
  ).split(' '),
);

/**
 * A name for the pipeline over some reports: that of their folder, or the words that all their files begin with where there is no
 * folder, or its name says nothing.
 */
export function proposedName(paths: readonly string[], folder?: string): string {
  const last = folder
    ?.replace(/[/\\]+$/, '')
    .split(/[/\\]/)
    .at(-1);
  const ofFiles = sharedWords(paths);
  if (last === undefined) return ofFiles;
  const ofFolder = inWords(last);
  const isPlain = wordsOf(last).every((word) =>
    saysNothing.has(word.normalize('NFD').replace(/\p{M}/gu, '').toLowerCase()),
  );
  return isPlain && ofFiles !== '' ? ofFiles : ofFolder;
}

/** The words that all file names begin with. */
function sharedWords(paths: readonly string[]): string {
  const [first, ...others] = paths.map((path) => wordsOf(baseName(path).replace(/\.\w+$/, '')));
  if (!first) return '';
  const differs = first.findIndex((word, i) => others.some((words) => words[i]?.toLowerCase() !== word.toLowerCase()));
  return inWords((differs < 0 ? first : first.slice(0, differs)).join(' '));
}

const wordsOf = (name: string): string[] => name.split(/[\s_.–-]+/).filter((word) => word !== '' && !/\d/.test(word));

function inWords(name: string): string {
  const text = wordsOf(name).join(' ');
  return text === '' ? '' : text.charAt(0).toUpperCase() + text.slice(1);
}
