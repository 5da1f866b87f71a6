import { of, Subject, throwError, type Observable } from 'rxjs';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { parsePipeline, type Pipeline } from '../../../../core/pipeline/document';
import type { PipelineFull } from '../../../../server/contract/contract';
import { ApiFailure } from '../api';
import { awayPause, SavedDocument } from './saved-document';

const named = (name: string): Pipeline => parsePipeline({ format: 'able-sieve/pipeline', version: 1, name, take: [] });
const full = (document: Pipeline, version: number) => ({ id: 1, version, document }) as unknown as PipelineFull;

/** A server that answers when it is told to. */
class SlowServer {
  readonly asked: { name: string; version: number; answer: Subject<PipelineFull> }[] = [];
  save = (document: Pipeline, version: number): Observable<PipelineFull> => {
    const answer = new Subject<PipelineFull>();
    this.asked.push({ name: document.name, version, answer });
    return answer;
  };
  current = (): Observable<PipelineFull> => throwError(() => new Error('not asked for'));
  answers(version: number) {
    const { name, answer } = this.asked.at(-1)!;
    answer.next(full(named(name), version));
    answer.complete();
  }
  refuses(error: Error) {
    this.asked.at(-1)!.answer.error(error);
  }
}

let server: SlowServer;
let kept: SavedDocument;
let told: string[];
const name = () => kept.document()?.name;
beforeEach(() => {
  server = new SlowServer();
  kept = new SavedDocument({ save: (...asked) => server.save(...asked), current: () => server.current() });
  told = [];
  kept.keepSaving(({ version }, before) => told.push(`${before.name} → ${version}`));
  kept.set(full(named('one'), 1));
});

describe('the document of a pipeline', () => {
  it('is saved at once, as a change of the version that was there, and says so only when it is', () => {
    kept.change(named('two'));
    expect([name(), kept.saving(), kept.saved()?.version]).toEqual(['two', true, 1]);
    server.answers(2);
    expect([kept.saving(), kept.saved()?.version, told]).toEqual([false, 2, ['one → 2']]);
  });

  it('that is changed again while it is saved is saved once more, and what lies between is passed over', () => {
    for (const each of ['two', 'three', 'four']) kept.change(named(each));
    expect(server.asked.map((each) => each.name)).toEqual(['two']);
    server.answers(2);
    expect(server.asked.map((each) => `${each.name} on ${each.version}`)).toEqual(['two on 1', 'four on 2']);
    server.answers(3);
    expect([kept.saving(), told]).toEqual([false, ['one → 2', 'two → 3']]);
  });

  it('that says the same as before is no change', () => {
    kept.change(named('one'));
    expect([server.asked.length, kept.canUndo()]).toEqual([0, false]);
  });
});

describe('undo', () => {
  it('goes back change by change and forth again, each saved', () => {
    for (const [i, each] of ['two', 'three'].entries()) {
      kept.change(named(each));
      server.answers(2 + i);
    }
    kept.undo();
    server.answers(4);
    kept.undo();
    server.answers(5);
    expect([name(), kept.canUndo(), kept.canRedo()]).toEqual(['one', false, true]);
    kept.undo();
    kept.redo();
    server.answers(6);
    kept.redo();
    server.answers(7);
    expect([name(), kept.canRedo(), kept.saved()?.version]).toEqual(['three', false, 7]);
  });

  it('takes back what was typed in one go at once, and each other change alone', () => {
    for (const each of ['t', 'tw', 'two']) kept.change(named(each), 'name');
    kept.change(named('three'), 'other');
    kept.undo();
    expect(name()).toBe('two');
    kept.undo();
    expect([name(), kept.canUndo()]).toEqual(['one', false]);
  });

  it('leads nowhere else once something new was written', () => {
    kept.change(named('two'));
    kept.undo();
    kept.change(named('three'));
    expect(kept.canRedo()).toBe(false);
    kept.redo();
    expect(name()).toBe('three');
  });
});

describe('a change that is refused', () => {
  it('stays here, says why, and goes along with the next one', () => {
    kept.change(named('two'));
    server.refuses(new ApiFailure('conflict', 'The disk is full.'));
    expect([name(), kept.refused(), kept.saving(), kept.saved()?.version, kept.conflict()]).toEqual(['two', 'The disk is full.', false, 1, undefined]);
    expect(kept.unsaved()).toBe(true);
    kept.change(named('three'));
    server.answers(2);
    expect([kept.refused(), kept.saved()?.version, kept.unsaved()]).toEqual([undefined, 2, false]);
  });

  it('as the server is away is saved when it is back, with what was written meanwhile', () => {
    vi.useFakeTimers();
    try {
      kept.change(named('two'));
      server.refuses(new ApiFailure('away', 'The server does not answer.'));
      expect([kept.refused(), kept.unsaved()]).toEqual(['The server does not answer. It is tried again.', true]);
      kept.change(named('three'));
      vi.advanceTimersByTime(awayPause);
      server.refuses(new ApiFailure('away', 'The server does not answer.'));
      vi.advanceTimersByTime(awayPause);
      expect(server.asked.map((each) => `${each.name} on ${each.version}`)).toEqual(['two on 1', 'three on 1', 'three on 1']);
      server.answers(2);
      vi.advanceTimersByTime(10 * awayPause);
      expect([server.asked.length, kept.refused(), kept.saved()?.version, kept.unsaved()]).toEqual([3, undefined, 2, false]);
    } finally {
      vi.useRealTimers();
    }
  });

  describe('because of another’s', () => {
    const theirs = full(named('theirs'), 5);
    beforeEach(() => {
      server.current = () => of(theirs);
      kept.change(named('mine'));
      server.refuses(new ApiFailure('changed meanwhile', 'Somebody else has changed it.'));
    });

    it('shows what each changed', () => {
      expect(kept.conflict()?.theirs.version).toBe(5);
      expect(kept.conflict()!.theirChanges.length).toBeGreaterThan(0);
      expect(kept.conflict()!.myChanges.length).toBeGreaterThan(0);
      expect(name()).toBe('mine');
    });

    it('is saved on top when that is wanted', () => {
      kept.keepMine();
      expect(server.asked.at(-1)).toMatchObject({ name: 'mine', version: 5 });
      server.answers(6);
      expect([kept.conflict(), kept.refused(), name(), kept.saved()?.version]).toEqual([undefined, undefined, 'mine', 6]);
    });

    it('gives way when that is wanted, and undo brings it back', () => {
      kept.takeTheirs();
      expect([kept.conflict(), name(), kept.saved()?.version]).toEqual([undefined, 'theirs', 5]);
      kept.undo();
      expect(name()).toBe('mine');
      expect(server.asked.at(-1)).toMatchObject({ name: 'mine', version: 5 });
    });
  });
});

describe('news of the pipeline', () => {
  it('are taken of the same version only: what is written here stays', () => {
    kept.change(named('two'));
    kept.update({ ...full(named('one'), 1), reports: 7 } as PipelineFull);
    expect([name(), (kept.saved() as unknown as { reports: number }).reports]).toEqual(['two', 7]);
    kept.update({ ...full(named('other'), 9), reports: 8 } as PipelineFull);
    expect([name(), kept.saved()?.version]).toEqual(['two', 1]);
  });
});
