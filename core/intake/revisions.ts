/** Which issue of a report a file is, as its name tells. */
export interface Revision {
  /** A draft stands below the report without a mark; a number, a letter or a word stands above it. */
  readonly kind: 'draft' | 'none' | 'number' | 'letter' | 'word';
  /** The number, the place of the letter in the alphabet; 0 for others. */
  readonly value: number;
  /** As it is written; empty for none. */
  readonly mark: string;
}

export const noRevision: Revision = { kind: 'none', value: 0, mark: '' };

const drafts = 'draft|preliminary|provisional|entwurf|vorl(?:ä|ae)ufig|provisoire|provisional|provvisorio|concept';
const words =
  'revised|amended|corrected|correction|updated?|final|berichtigt|korrigiert|endg(?:ü|ue)ltig|r(?:é|e)vis(?:é|e)e?|corrig(?:é|e)e?|corregido|corretto|herzien';
/** A mark at the end of a name, set off from what is before it. */
const atEnd = new RegExp(
  `[\\s_.,-]*(?:[\\s_.,-](?:(?:rev(?:ision)?|issue|version|v|r)[\\s_.-]*(\\d{1,3}|[a-z])|(${drafts})|(${words})|(\\d{1,2}(?:st|nd|rd|th)\\s+issue))|\\((?:rev(?:ision)?[\\s_.-]*)?(\\d{1,2}|[a-z]|${drafts}|${words})\\))$`,
  'i',
);

/** A text that stands for a revision: a number, a letter, or a word; none where it tells nothing. */
export function revisionOf(text: string): Revision {
  const mark = text.trim();
  const bare = mark.replace(/^(?:rev(?:ision)?|issue|version|v|r)[\s_.-]*(?=\d|[a-z]$)/i, '');
  const number = /^(\d{1,6})(?:st|nd|rd|th)?\b/i.exec(bare);
  if (number) return { kind: 'number', value: Number(number[1]), mark };
  if (/^[a-z]$/i.test(bare)) return { kind: 'letter', value: bare.toLowerCase().charCodeAt(0) - 96, mark };
  if (new RegExp(`^(?:${drafts})$`, 'i').test(bare)) return { kind: 'draft', value: 0, mark };
  if (new RegExp(`^(?:${words})$`, 'i').test(bare)) return { kind: 'word', value: 0, mark };
  return noRevision;
}

/** A file's name without the mark of a revision at its end, and that revision: `week-24 rev B.pdf` is B of `week-24.pdf`. */
export function withoutRevision(fileName: string): { name: string; revision: Revision } {
  const dot = fileName.lastIndexOf('.');
  const [stem, ending] = dot > 0 ? [fileName.slice(0, dot), fileName.slice(dot)] : [fileName, ''];
  const found = atEnd.exec(stem);
  const mark = found?.slice(1).find((part) => part !== undefined);
  const revision = mark === undefined ? noRevision : revisionOf(mark);
  return found && revision.kind !== 'none'
    ? { name: `${stem.slice(0, found.index)}${ending}`, revision }
    : { name: fileName, revision: noRevision };
}

/**
 * Which of two issues is the later one: above zero for the first, below for the second. Drafts stand
 * below a report without a mark, all others above it; numbers are ordered among numbers, letters among letters.
 * Undefined where nothing orders them: a number and a letter, two words.
 */
export function compareRevisions(a: Revision, b: Revision): number | undefined {
  const level = ({ kind }: Revision) => (kind === 'draft' ? -1 : kind === 'none' ? 0 : 1);
  if (level(a) !== level(b)) return level(a) - level(b);
  if (level(a) < 1) return undefined;
  return a.kind === b.kind && a.kind !== 'word' && a.value !== b.value ? a.value - b.value : undefined;
}
