import { daysIn, monthNumber, usualPivot } from '../values/date';
import { monthOf, quarterOf, weekOf } from '../values/period';
import { template } from '../values/template';
import { compareRevisions, noRevision, revisionOf, withoutRevision, type Revision } from './revisions';

/** What a file's name tells: the period it reports on (ISO text), to which of several series of reports it belongs, and which revision it is. */
export interface NameFacts {
  readonly period?: string;
  readonly series?: string;
  readonly revision: Revision;
}

/** How file names are to be read. The holes year, quarter, month, week, day, series and revision have a meaning. A template with a slash is about the folders above the file, too. */
export interface NameReading {
  readonly template?: string;
  /** The year of names that print none. */
  readonly year?: number;
  /** What was answered where names do not tell which issue is the later one. */
  readonly answers?: readonly Answer[];
  /** Contents that the analyst has set aside. */
  readonly aside?: readonly string[];
}

/** Which contents (sha256) count among those that were asked about. It says nothing of issues that come later. */
export interface Answer {
  readonly among: readonly string[];
  readonly counts: readonly string[];
}

/** The end of a path that a template is about: the name, with as many folders above it as the template has. */
const toldBy = (path: string, { template: text = '' }: NameReading): string =>
  path.split('/').slice(-text.split('/').length).join('/');

/** Reads a path below the folder by the template; a mark of a revision at its end is read where the template has no hole for it. */
export function nameFacts(path: string, reading: NameReading): NameFacts {
  const own = reading.template ? template(reading.template) : undefined;
  const fileName = toldBy(path, reading);
  const bare = withoutRevision(fileName);
  if (!own) return { revision: bare.revision };
  if (own.holes.includes('revision')) {
    const holes = own.whole(fileName);
    if (holes) return { ...periodIn(holes, reading), revision: revisionOf(holes['revision'] ?? '') };
  }
  const [stripped, whole] = [bare.name, fileName].map((name) => periodIn(own.whole(name) ?? {}, reading));
  // What looks like a mark may be what the template reads as the period.
  return stripped.period === undefined && whole.period !== undefined
    ? { ...whole, revision: noRevision }
    : { ...stripped, revision: bare.revision };
}

/** The period that the holes of a template tell, and the series. */
function periodIn(
  holes: Readonly<Record<string, string>>,
  { year: given }: NameReading,
): Pick<NameFacts, 'period' | 'series'> {
  const number = (hole: string) => (holes[hole] === undefined ? undefined : Number(holes[hole].replace(/\D/g, '')));
  const printed = number('year');
  const year =
    printed === undefined ? given : printed < 100 ? printed + (printed <= usualPivot ? 2000 : 1900) : printed;
  if (year === undefined || Object.keys(holes).length === 0) return {};
  const [quarter, week, day] = ['quarter', 'week', 'day'].map(number);
  const month = holes['month'] === undefined ? undefined : monthNumber(holes['month']) || number('month');
  const period =
    week !== undefined
      ? weekOf(year, week)
      : quarter !== undefined
        ? quarterOf(year, quarter)
        : month !== undefined
          ? day === undefined
            ? monthOf(year, month)
            : monthOf(year, month) && day >= 1 && day <= daysIn(year, month)
              ? `${monthOf(year, month)}-${String(day).padStart(2, '0')}`
              : undefined
          : String(year);
  return period ? { period, ...(holes['series'] === undefined ? {} : { series: holes['series'].trim() }) } : {};
}

export interface FolderFile {
  /** Path below the folder, with `/`. */
  readonly path: string;
  readonly sha256: string;
  readonly pdf: boolean;
  /** Why the file is not read, as the folder tells. */
  readonly left?: LeftBecause;
  /** The period that the paper says, for where the name tells none. */
  readonly stamped?: string;
}

/** Why a file of the folder is not read. */
export type LeftBecause =
  | 'not readable'
  | 'name is not UTF-8'
  | 'a link that leads out'
  | 'a link that leads nowhere'
  | 'a link to a folder that is here already';

/** What becomes of a file: it counts, or why not. Of one that is left out `of` says why. */
export type Standing =
  | { readonly counts: true }
  | {
      readonly counts: false;
      readonly because: 'not a PDF' | 'replaced' | 'a copy' | 'undecided' | 'set aside' | 'not readable' | 'left out';
      readonly of?: string;
    };

export type PlacedFile<File extends FolderFile> = {
  readonly file: File;
  readonly facts: NameFacts;
  readonly standing: Standing;
};

/**
 * Orders the files of a folder by period and name, and says which count: of several for one period (and series) the latest, as the
 * analyst has said or their revisions tell; none of those whose order nothing tells. Of two with the same content the
 * first counts, and PDF files only.
 */
export function placeFiles<File extends FolderFile>(files: readonly File[], reading: NameReading): PlacedFile<File>[] {
  const placed = files
    .map((file) => ({ file, facts: factsOf(file, reading) }))
    .sort(
      (a, b) =>
        compare(a.facts.period ?? '~', b.facts.period ?? '~') ||
        rankOf(a.facts.revision) - rankOf(b.facts.revision) ||
        compare(a.file.path, b.file.path),
    );
  const bySha = new Map<string, string>();
  const byPeriod = new Map<string, Issue[]>();
  for (const { file, facts } of placed)
    if (file.pdf && !file.left && facts.period !== undefined && !reading.aside?.includes(file.sha256)) {
      // Reports of one period in several series stand beside each other.
      const issuesOf = JSON.stringify([facts.period, facts.series?.toLowerCase() ?? '']);
      byPeriod.set(issuesOf, [...(byPeriod.get(issuesOf) ?? []), { file, facts }]);
    }
  const standings = new Map([...byPeriod.values()].flatMap((issues) => [...standingsAmong(issues, reading.answers)]));
  return placed.map(({ file, facts }): PlacedFile<File> => {
    const place = (standing: Standing) => ({ file, facts, standing });
    if (file.left)
      return place({
        counts: false,
        because: file.left === 'not readable' && file.pdf ? 'not readable' : 'left out',
        of: file.left,
      });
    if (!file.pdf) return place({ counts: false, because: 'not a PDF' });
    const twin = bySha.get(file.sha256);
    if (twin !== undefined) return place({ counts: false, because: 'a copy', of: twin });
    bySha.set(file.sha256, file.path);
    if (reading.aside?.includes(file.sha256)) return place({ counts: false, because: 'set aside' });
    return place(standings.get(file) ?? { counts: true });
  });
}

function factsOf({ path, stamped }: FolderFile, reading: NameReading): NameFacts {
  const facts = nameFacts(path, reading);
  return facts.period === undefined && stamped !== undefined ? { ...facts, period: stamped } : facts;
}

/** What becomes of the issues for one period: the latest count, those whose order nothing tells wait for an answer. */
function standingsAmong(issues: readonly Issue[], answers: readonly Answer[] | undefined): Map<FolderFile, Standing> {
  const others = (own: Issue) => issues.filter(({ file }) => file.sha256 !== own.file.sha256);
  const laterThan = new Map(
    issues.map((own) => [own, others(own).findLast((other) => order(other, own, answers) === 'later')]),
  );
  const latest = issues.filter((issue) => !laterThan.get(issue));
  return new Map(
    issues.map((own): [FolderFile, Standing] => {
      const later = laterThan.get(own);
      if (later && latest.length > 0) return [own.file, { counts: false, because: 'replaced', of: later.file.path }];
      // Answers that contradict each other leave none that is the latest.
      const open =
        later ?? latest.find((other) => other.file.sha256 !== own.file.sha256 && order(own, other, answers) === 'open');
      return [own.file, open ? { counts: false, because: 'undecided', of: open.file.path } : { counts: true }];
    }),
  );
}

interface Issue {
  readonly file: FolderFile;
  readonly facts: NameFacts;
}

/** How the first of two issues for one period stands to the second: by the last answer given about both, else by their revisions. */
function order(a: Issue, b: Issue, answers: readonly Answer[] = []): 'later' | 'earlier' | 'both count' | 'open' {
  const answer = answers.findLast(({ among }) => among.includes(a.file.sha256) && among.includes(b.file.sha256));
  const [first, second] = [a, b].map(({ file }) => answer?.counts.includes(file.sha256));
  if (first && second) return 'both count';
  if (first !== second) return first ? 'later' : 'earlier';
  const compared = compareRevisions(a.facts.revision, b.facts.revision);
  return compared === undefined ? 'open' : compared > 0 ? 'later' : 'earlier';
}

/** Where a revision stands among those of its period in a list. */
export const rankOf = ({ kind, value }: Revision): number =>
  ({ draft: -1, none: 0, number: value, letter: value, word: 1 })[kind];

const compare = (a: string, b: string) => (a < b ? -1 : a > b ? 1 : 0);
