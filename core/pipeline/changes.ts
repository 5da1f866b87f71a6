import { formOf } from '../steps/fields';
import { kindOf, titleOf, type Step } from '../steps/kinds';
import { zones, zoneTitles, type Zone } from '../steps/step';
import type { Pipeline } from './document';
import { placeOf } from './layers';

/** One thing that a version of a document says otherwise than the one before. */
export type Change =
  | { readonly of: 'step'; readonly did: 'added' | 'taken out'; readonly title: string; readonly zone: Zone }
  | { readonly of: 'step'; readonly did: 'moved'; readonly title: string; readonly from: Zone; readonly zone: Zone }
  | {
      readonly of: 'step';
      readonly did: 'switched on' | 'switched off' | 'named' | 'noted' | 'lets other rows pass';
      readonly title: string;
      readonly zone: Zone;
    }
  | {
      readonly of: 'step';
      readonly did: 'set';
      readonly title: string;
      readonly zone: Zone;
      readonly settings: readonly string[];
    }
  | { readonly of: 'take'; readonly did: 'added' | 'taken out' | 'changed'; readonly name: string }
  | { readonly of: 'name'; readonly before: string; readonly now: string }
  | { readonly of: 'guide' | 'spellings' | 'answers' | 'accepted' | 'checks' | 'files' | 'views' | 'order of rules' }
  | { readonly of: 'reports'; readonly what: readonly string[] };

const same = (a: unknown, b: unknown): boolean => JSON.stringify(a ?? null) === JSON.stringify(b ?? null);

/** What one document says otherwise than another, step by step and rule by rule; steps are known by their ids, rules by their names. */
export function changesBetween(before: Pipeline, now: Pipeline): Change[] {
  const changes: Change[] = [];
  if (before.name !== now.name) changes.push({ of: 'name', before: before.name, now: now.name });
  if (before.guide !== now.guide) changes.push({ of: 'guide' });
  changes.push(...reportChanges(before.reports, now.reports));
  const rules = (of: Pipeline) => new Map(of.take.map((rule) => [rule.name, rule]));
  for (const { name } of before.take) if (!rules(now).has(name)) changes.push({ of: 'take', did: 'taken out', name });
  for (const rule of now.take) {
    const old = rules(before).get(rule.name);
    if (!old) changes.push({ of: 'take', did: 'added', name: rule.name });
    else if (!same(old, rule)) changes.push({ of: 'take', did: 'changed', name: rule.name });
  }
  const kept = (of: Pipeline, other: Pipeline) =>
    of.take.map(({ name }) => name).filter((name) => rules(other).has(name));
  if (!same(kept(before, now), kept(now, before))) changes.push({ of: 'order of rules' });
  if (!same(before.spellings, now.spellings)) changes.push({ of: 'spellings' });
  if (!same(before.answers, now.answers)) changes.push({ of: 'answers' });
  if (!same(before.checks, now.checks)) changes.push({ of: 'checks' });
  if (!same(before.views, now.views)) changes.push({ of: 'views' });
  if (!same(before.files, now.files)) changes.push({ of: 'files' });
  if (!same(before.accepted, now.accepted)) changes.push({ of: 'accepted' });
  return [...changes, ...stepChanges(before, now)];
}

function stepChanges(before: Pipeline, now: Pipeline): Change[] {
  const gone = zones.flatMap((zone) =>
    before[zone]
      .filter(({ id }) => !placeOf(now, id))
      .map((step): Change => ({ of: 'step', did: 'taken out', title: titleOf(step), zone })),
  );
  const moved = movedSteps(before, now);
  const others = zones.flatMap((zone) =>
    now[zone].flatMap((step): Change[] => {
      const place = placeOf(before, step.id);
      const title = titleOf(step);
      if (!place) return [{ of: 'step', did: 'added', title, zone }];
      const old = before[place.zone][place.at];
      return [
        ...(moved.has(step.id) ? [{ of: 'step', did: 'moved', title, from: place.zone, zone } as const] : []),
        ...insideChanges(old, step, title, zone),
      ];
    }),
  );
  return [...gone, ...others];
}

/** The steps that stand elsewhere now: in another zone, or not in the longest order that both documents share. */
function movedSteps(before: Pipeline, now: Pipeline): ReadonlySet<string> {
  const order = (of: Pipeline, other: Pipeline) =>
    zones.flatMap((zone) => of[zone].map(({ id }) => id).filter((id) => placeOf(other, id)?.zone === zone));
  const stayed = new Set(longestCommon(order(before, now), order(now, before)));
  return new Set(
    zones.flatMap((zone) => now[zone].map(({ id }) => id)).filter((id) => placeOf(before, id) && !stayed.has(id)),
  );
}

/** The longest list that stands in both in the same order (longest common subsequence, by dynamic programming). */
function longestCommon(a: readonly string[], b: readonly string[]): string[] {
  let above: string[][] = Array.from({ length: b.length + 1 }, () => []);
  for (const item of a) {
    const row: string[][] = [[]];
    b.forEach((other, i) =>
      row.push(item === other ? [...above[i], item] : row[i].length > above[i + 1].length ? row[i] : above[i + 1]),
    );
    above = row;
  }
  return above[b.length];
}

function insideChanges(old: Step, step: Step, title: string, zone: Zone): Change[] {
  const changes: Change[] = [];
  if (Boolean(old.off) !== Boolean(step.off))
    changes.push({ of: 'step', did: step.off ? 'switched off' : 'switched on', title, zone });
  if (!same(old.name, step.name)) changes.push({ of: 'step', did: 'named', title, zone });
  if (!same(old.note, step.note)) changes.push({ of: 'step', did: 'noted', title, zone });
  if (!same(old.pass ?? [], step.pass ?? [])) changes.push({ of: 'step', did: 'lets other rows pass', title, zone });
  const settings = [...new Set([...Object.keys(old.settings), ...Object.keys(step.settings)])].filter(
    (key) => !same(old.settings[key], step.settings[key]),
  );
  const fields = formOf(kindOf(step));
  if (settings.length > 0)
    changes.push({
      of: 'step',
      did: 'set',
      title,
      zone,
      settings: settings.map((key) => fields.find(({ name }) => name === key)?.title ?? key),
    });
  return changes;
}

function reportChanges(before: Pipeline['reports'], now: Pipeline['reports']): Change[] {
  const words = {
    template: 'the template of file names',
    stamp: 'the text that says the period',
    mayGo: 'how many reports may leave at once',
    year: 'the year',
    answers: 'which issue counts',
    aside: 'reports set aside',
    pictures: 'pictures that hold no table',
    none: 'periods without a report',
  } as const;
  const what = (Object.keys(words) as (keyof typeof words)[])
    .filter((key) => !same(before[key], now[key]))
    .map((key) => words[key]);
  return what.length > 0 ? [{ of: 'reports', what }] : [];
}

/** A change in words. */
export function changeSentence(change: Change): string {
  switch (change.of) {
    case 'step': {
      const step = `“${change.title}”`;
      if (change.did === 'set') return `${step}: ${change.settings.join(', ')} set otherwise`;
      if (change.did === 'moved')
        return change.from === change.zone
          ? `${step} moved within ${zoneTitles[change.zone]}`
          : `${step} moved from ${zoneTitles[change.from]} to ${zoneTitles[change.zone]}`;
      if (change.did === 'added' || change.did === 'taken out')
        return `${step} ${change.did === 'added' ? 'added to' : 'taken out of'} ${zoneTitles[change.zone]}`;
      return change.did === 'named' || change.did === 'noted'
        ? `${step} has another ${change.did === 'named' ? 'name' : 'note'}`
        : `${step} ${change.did}`;
    }
    case 'take':
      return `Take rule “${change.name}” ${change.did}`;
    case 'name':
      return `Named “${change.now}” instead of “${change.before}”`;
    case 'guide':
      return 'Another guide report';
    case 'answers':
      return 'Other answers to what differs';
    case 'views':
      return 'Other summaries';
    case 'files':
      return 'Other kept files';
    case 'checks':
      return 'Other checks';
    case 'accepted':
      return 'Other printed totals accepted';
    case 'spellings':
      return 'Other spellings where reports are appended';
    case 'order of rules':
      return 'Take rules in another order';
    case 'reports':
      return `Reports: ${change.what.join(', ')} changed`;
  }
}
