import { countTies, isAccepted, tiesSentence, type Tie } from '../../../../core/ties/tied';
import type { AcceptedTotal } from '../../../../core/pipeline/document';
import { decimalsOf } from '../../../../core/values/plain-number';
import type { KeptTotal, PublishedAnswer } from '../../../../server/contract/contract';
import { cellShown } from '../shared/cell-shown';

export type Stands = 'off' | 'accepted' | 'not comparable' | 'within rounding' | 'equal';
const order: readonly Stands[] = ['off', 'accepted', 'not comparable', 'within rounding', 'equal'];
const marks: Readonly<Record<Stands, string>> = { off: 'pi-exclamation-triangle', accepted: 'pi-flag', 'not comparable': 'pi-minus', 'within rounding': 'pi-check', equal: 'pi-check' };

/** A printed amount of a total as it is listed. */
export interface ToldTie extends Pick<Tie, 'label' | 'column' | 'outcome' | 'printed' | 'computed' | 'rows' | 'accepted'> {
  readonly id: string;
  readonly report: number;
  readonly path: string;
  readonly sha256: string;
  readonly page: number;
  readonly step: string;
  readonly row: KeptTotal['row'];
  readonly title: string;
  readonly stands: Stands;
  /** How it stands, in words. */
  readonly says: string;
  readonly mark: string;
  readonly decimals: number;
  /** It was accepted, or is no longer, since it was published. */
  readonly pending: boolean;
  readonly place: Omit<AcceptedTotal, 'why'>;
  readonly isThat: (accepted: AcceptedTotal) => boolean;
}

export interface ToldTies {
  /** Those that need a look first. */
  readonly ties: readonly ToldTie[];
  /** How they stand together. */
  readonly sentence: string;
  /** How many are off, and were not accepted. */
  readonly off: number;
}

/** All printed amounts of what is published. @param accepted as the document says now */
export function toldTies({ reports, totals, whole }: PublishedAnswer, accepted: readonly AcceptedTotal[]): ToldTies {
  const reportOf = new Map(reports.map((report) => [String(report.report), report]));
  const ties = totals.flatMap((total) => {
    const report = reportOf.get(total.row.report);
    return report ? total.ties.map((tie) => toldTie(total, tie, report, accepted)) : [];
  });
  const counts = countTies(ties);
  return { ties: ties.sort((a, b) => order.indexOf(a.stands) - order.indexOf(b.stands)), sentence: tiesSentence(counts, whole?.layers.map(({ title }) => title)), off: counts.off };
}

function toldTie({ step, row, page }: KeptTotal, { accepted: published, ...tie }: KeptTotal['ties'][number], { report, path, sha256 }: PublishedAnswer['reports'][number], accepted: readonly AcceptedTotal[]): ToldTie {
  const isThat = (each: AcceptedTotal) => isAccepted(each, path, { ...tie, row });
  const now = tie.outcome === 'off' ? accepted.find(isThat)?.why : undefined;
  const stands: Stands = now === undefined ? tie.outcome : 'accepted';
  const decimals = decimalsOf([tie.printed, tie.computed]);
  const off = tie.computed === undefined ? '' : `off by ${cellShown(Math.abs(Number((tie.computed - tie.printed).toFixed(decimals))), decimals)}`;
  const says: Readonly<Record<Stands, string>> = { off, accepted: `${off}, accepted`, 'not comparable': tie.because ?? 'cannot be compared', 'within rounding': 'within rounding', equal: 'ties out' };
  return {
    ...tie,
    ...(now === undefined ? {} : { accepted: now }),
    id: JSON.stringify([report, step, row.table, row.ordinal, tie.column]),
    report,
    path,
    sha256,
    page,
    step,
    row,
    title: `${tie.label || 'Total'} · ${tie.column}`,
    stands,
    says: says[stands],
    mark: marks[stands],
    decimals,
    pending: (published === undefined) !== (now === undefined),
    place: { report: path, table: row.table, row: row.ordinal, column: tie.column, printed: tie.printed },
    isThat,
  };
}
