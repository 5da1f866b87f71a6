import { computed, Injectable, signal } from '@angular/core';

export interface Command {
  readonly says: string;
  /** A word or two about it: a key, a place. */
  readonly beside?: string;
  readonly run: () => void;
}

/** Everything that can be asked for by name, from whatever is on the screen. */
@Injectable({ providedIn: 'root' })
export class Commands {
  private readonly given = signal<ReadonlyMap<string, () => readonly Command[]>>(new Map());
  readonly all = computed(() => [...this.given().values()].flatMap((each) => each()));
  readonly open = signal<'commands' | 'keys' | undefined>(undefined);

  /** Puts commands in under the name of who gives them. @returns takes them out again */
  give(who: string, commands: () => readonly Command[]): () => void {
    this.given.update((before) => new Map([...before, [who, commands]]));
    return () => this.given.update((before) => new Map([...before].filter(([name, own]) => name !== who || own !== commands)));
  }
}
