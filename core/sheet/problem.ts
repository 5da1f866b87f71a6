/** Where a problem lies; whatever is known of it. */
export interface Where {
  readonly report?: string;
  readonly page?: number;
  readonly table?: string;
  readonly step?: string;
  readonly column?: string;
  readonly row?: number;
}

/** Something that needs a look: where, what was expected, what came, what to do. */
export interface Problem extends Where {
  readonly kind: 'unreadable' | 'not taken' | 'step' | 'misfit' | 'drift';
  readonly expected: string;
  readonly came: string;
  readonly remedy: string;
}

const placeOf = ({ report, page, step, column }: Where): string =>
  [report, page === undefined ? undefined : `page ${page}`, step === undefined ? undefined : `step “${step}”`, column === undefined ? undefined : `column “${column}”`]
    .filter((part) => part !== undefined)
    .join(', ');

/** The problem as one sentence for the analyst, with the remedy behind it. */
export function sentence(problem: Problem): string {
  const place = placeOf(problem);
  return `${place ? `${place}: ` : ''}expected ${problem.expected}, got ${problem.came}. ${problem.remedy}`;
}

/** Adds what the caller knows of the place; what the problem says itself stands. */
export const at = (where: Where, problems: readonly Problem[]): Problem[] => problems.map((problem) => ({ ...where, ...problem }));
