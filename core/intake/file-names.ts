import { baseName } from '../values/file-name';
import { monthOf, quarterOf, weekOf } from '../values/period';
import { template } from '../values/template';

/** What a file's name tells: the period it reports on (ISO text) and which revision it is. */
export interface NameFacts {
  readonly period?: string;
  readonly revision: number;
}

/** How file names are to be read. The holes year, quarter, month, week, day and revision have a meaning. */
export interface NameReading {
  readonly template?: string;
  /** The year of names that print none. */
  readonly year?: number;
}

export function nameFacts(fileName: string, { template: source, year: given }: NameReading): NameFacts {
  const holes = source ? template(source).whole(fileName) : undefined;
  if (!holes) return { revision: 0 };
  const number = (hole: string) => (holes[hole] === undefined ? undefined : Number(holes[hole].replace(/\D/g, '')));
  const year = number('year') ?? given;
  const revision = number('revision') ?? 0;
  if (year === undefined) return { revision };
  const [quarter, month, week, day] = ['quarter', 'month', 'week', 'day'].map(number);
  const period =
    week !== undefined
      ? weekOf(year, week)
      : quarter !== undefined
        ? quarterOf(year, quarter)
        : month !== undefined
          ? day !== undefined && monthOf(year, month)
            ? `${monthOf(year, month)}-${String(day).padStart(2, '0')}`
            : monthOf(year, month)
          : String(year);
  return { ...(period ? { period } : {}), revision };
}

export interface FolderFile {
  /** Path below the folder, with `/`. */
  readonly path: string;
  readonly sha256: string;
  readonly pdf: boolean;
}

/** What becomes of a file: it counts, or why not. */
export type Standing = { readonly counts: true } | { readonly counts: false; readonly because: 'not a PDF' | 'replaced' | 'a copy'; readonly of?: string };

export type PlacedFile<File extends FolderFile> = { readonly file: File; readonly facts: NameFacts; readonly standing: Standing };

/**
 * Orders the files of a folder by period and name, and says which count: of two for one period the later revision, of
 * two with the same content the first, and PDF files only.
 */
export function placeFiles<File extends FolderFile>(files: readonly File[], reading: NameReading): PlacedFile<File>[] {
  const placed = files
    .map((file) => ({ file, facts: nameFacts(baseName(file.path), reading) }))
    .sort((a, b) => compare(a.facts.period ?? '~', b.facts.period ?? '~') || a.facts.revision - b.facts.revision || compare(a.file.path, b.file.path));
  const bySha = new Map<string, string>();
  return placed.map(({ file, facts }): PlacedFile<File> => {
    const place = (standing: Standing) => ({ file, facts, standing });
    if (!file.pdf) return place({ counts: false, because: 'not a PDF' });
    const twin = bySha.get(file.sha256);
    if (twin !== undefined) return place({ counts: false, because: 'a copy', of: twin });
    bySha.set(file.sha256, file.path);
    const later = facts.period === undefined ? undefined : placed.findLast((other) => other.file.pdf && other.facts.period === facts.period);
    return later && later.file !== file && later.file.sha256 !== file.sha256 ? place({ counts: false, because: 'replaced', of: later.file.path }) : place({ counts: true });
  });
}

const compare = (a: string, b: string) => (a < b ? -1 : a > b ? 1 : 0);
