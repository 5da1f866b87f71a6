import { of, Subject, throwError, type Observable } from 'rxjs';
import type { RunEvent } from '../../../../server/contract/contract';
import { RunFollowed } from './run-followed';

function followed(start: () => Observable<{ run: number }> = () => of({ run: 7 })) {
  const events = new Subject<RunEvent>();
  const done: string[] = [];
  const run = new RunFollowed({ start: (letGo) => (done.push(`start${letGo ? ', let go' : ''}`), start()), follow: (id) => (done.push(`follow ${id}`), events), cancel: (id) => (done.push(`cancel ${id}`), throwError(() => new Error('too late'))) }, () => done.push('over'));
  return { run, events, done };
}

describe('a refresh', () => {
  it('is followed from its start to its end', () => {
    const { run, events, done } = followed();
    run.start();
    expect(run.now()).toMatchObject({ run: 7, now: { kind: 'folder' } });
    events.next({ kind: 'progress', run: 7, done: 1, total: 2, now: { kind: 'report', path: 'a.pdf' } });
    expect(run.now()).toMatchObject({ done: 1, total: 2 });
    events.next({ kind: 'ended', state: 'published', notes: [] });
    expect([run.now(), run.ended()?.state, done]).toEqual([undefined, 'published', ['start', 'follow 7', 'over']]);
  });

  it('that could not be started says why', () => {
    const { run, done } = followed(() => throwError(() => new Error('Another refresh runs.')));
    run.start();
    expect(run.ended()).toMatchObject({ state: 'failed', message: 'Another refresh runs.' });
    expect([run.now(), done]).toEqual([undefined, ['start']]);
  });

  it('that was refused as many reports are gone may be told to let them go', () => {
    const { run, events, done } = followed();
    run.start();
    events.next({ kind: 'ended', state: 'failed', notes: [{ kind: 'many gone', reports: ['a.pdf', 'b.pdf'], of: 3 }] });
    expect(run.ended()).toMatchObject({ state: 'failed', canLetGo: true });
    run.start(true);
    expect(run.ended()).toBeUndefined();
    expect(done).toContain('start, let go');
  });

  it('after which something is wrong with what was published does not look as if all were well', () => {
    const endedWith = (...notes: Extract<RunEvent, { kind: 'ended' }>['notes']) => {
      const { run, events } = followed();
      run.start();
      events.next({ kind: 'ended', state: 'published', notes });
      return run.ended()?.isWrong;
    };
    const ties = { equal: 4, rounded: 0, off: 0, accepted: 0, notComparable: 0 };
    expect(endedWith({ kind: 'wrong within', checks: [{ expected: 'A report has at least 70 rows', reports: 1 }], misfits: 0, reports: 0 })).toBe(true);
    expect(endedWith({ kind: 'totals', ties: { ...ties, off: 1 } })).toBe(true);
    expect(endedWith({ kind: 'totals', ties }, { kind: 'differences', differences: [], reports: 3 })).toBe(false);
  });

  it('that cannot be cancelled any more is followed to its end', () => {
    const { run, events } = followed();
    run.start();
    run.cancel();
    expect(run.now()).toBeDefined();
    events.next({ kind: 'ended', state: 'cancelled', notes: [] });
    expect(run.ended()?.state).toBe('cancelled');
  });

  it('of which nothing can be heard any more has failed, with the reason', () => {
    const { run, events } = followed();
    run.start();
    events.error(new Error('The server does not answer.'));
    expect(run.ended()).toMatchObject({ state: 'failed', message: 'The server does not answer.' });
  });
});
