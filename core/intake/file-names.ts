import { baseName } from '../values/file-name';
import { monthOf, quarterOf, weekOf } from '../values/period';
import { template } from '../values/template';
import { compareRevisions, noRevision, revisionOf, withoutRevision, type Revision } from './revisions';

/** What a file's name tells: the period it reports on (ISO text) and which revision it is. */
export interface NameFacts {
  readonly period?: string;
  readonly revision: Revision;
}

/** How file names are to be read. The holes year, quarter, month, week, day and revision have a meaning. */
export interface NameReading {
  readonly template?: string;
  /** The year of names that print none. */
  readonly year?: number;
  /** Contents (sha256) that count for their period, whatever their names tell: the analyst's answers. */
  readonly counts?: readonly string[];
  /** Contents that the analyst has set aside. */
  readonly aside?: readonly string[];
}

/** Reads a name by the template; a mark of a revision at its end is read where the template has no hole for it. */
export function nameFacts(fileName: string, reading: NameReading): NameFacts {
  const own = reading.template ? template(reading.template) : undefined;
  const bare = withoutRevision(fileName);
  if (!own) return { revision: bare.revision };
  if (own.holes.includes('revision')) {
    const holes = own.whole(fileName);
    if (holes) return { ...periodIn(holes, reading), revision: revisionOf(holes['revision'] ?? '') };
  }
  const holes = own.whole(bare.name);
  const period = holes ? periodIn(holes, reading) : {};
  if (period.period !== undefined || bare.revision.kind !== 'none') return { ...period, revision: bare.revision };
  return { ...periodIn(own.whole(fileName) ?? {}, reading), revision: noRevision };
}

/** The period that the holes of a template tell. */
function periodIn(holes: Readonly<Record<string, string>>, { year: given }: NameReading): { period?: string } {
  const number = (hole: string) => (holes[hole] === undefined ? undefined : Number(holes[hole].replace(/\D/g, '')));
  const year = number('year') ?? given;
  if (year === undefined || Object.keys(holes).length === 0) return {};
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
  return period ? { period } : {};
}

export interface FolderFile {
  /** Path below the folder, with `/`. */
  readonly path: string;
  readonly sha256: string;
  readonly pdf: boolean;
}

/** What becomes of a file: it counts, or why not. */
export type Standing = { readonly counts: true } | { readonly counts: false; readonly because: 'not a PDF' | 'replaced' | 'a copy' | 'undecided' | 'set aside'; readonly of?: string };

export type PlacedFile<File extends FolderFile> = { readonly file: File; readonly facts: NameFacts; readonly standing: Standing };

/**
 * Orders the files of a folder by period and name, and says which count: of several for one period the ones that the
 * analyst chose, else the latest revision; none of those whose order the names do not tell. Of two with the same content
 * the first counts, and PDF files only.
 */
export function placeFiles<File extends FolderFile>(files: readonly File[], reading: NameReading): PlacedFile<File>[] {
  const placed = files
    .map((file) => ({ file, facts: nameFacts(baseName(file.path), reading) }))
    .sort((a, b) => compare(a.facts.period ?? '~', b.facts.period ?? '~') || rankOf(a.facts.revision) - rankOf(b.facts.revision) || compare(a.file.path, b.file.path));
  const bySha = new Map<string, string>();
  return placed.map(({ file, facts }): PlacedFile<File> => {
    const place = (standing: Standing) => ({ file, facts, standing });
    if (!file.pdf) return place({ counts: false, because: 'not a PDF' });
    const twin = bySha.get(file.sha256);
    if (twin !== undefined) return place({ counts: false, because: 'a copy', of: twin });
    bySha.set(file.sha256, file.path);
    if (reading.aside?.includes(file.sha256)) return place({ counts: false, because: 'set aside' });
    const issues = facts.period === undefined ? [] : placed.filter((other) => other.file.pdf && other.facts.period === facts.period && !reading.aside?.includes(other.file.sha256));
    const others = issues.filter((other) => other.file.sha256 !== file.sha256);
    if (others.length === 0) return place({ counts: true });
    if (reading.counts?.includes(file.sha256)) return place({ counts: true });
    const chosen = others.findLast((other) => reading.counts?.includes(other.file.sha256));
    if (chosen) return place({ counts: false, because: 'replaced', of: chosen.file.path });
    const later = others.findLast((other) => (compareRevisions(other.facts.revision, facts.revision) ?? 0) > 0);
    if (later) return place({ counts: false, because: 'replaced', of: later.file.path });
    const open = others.find((other) => compareRevisions(facts.revision, other.facts.revision) === undefined);
    return place(open ? { counts: false, because: 'undecided', of: open.file.path } : { counts: true });
  });
}

/** Where a revision stands among those of its period in a list. */
export const rankOf = ({ kind, value }: Revision): number => ({ draft: -1, none: 0, number: value, letter: value, word: 1 })[kind];

const compare = (a: string, b: string) => (a < b ? -1 : a > b ? 1 : 0);
