import type { Duplex } from 'node:stream';
import { literal } from '../store/store';
import { Ended, type Database } from './database';
import { done, failure, message, MessageReader, query, ready, sync, textsOf, TooLong, type Message } from './messages';
import { readerRole } from './prepared';
import { ownSettings, understood } from './statements';
import type { Own, Turn } from './turn';

export interface SessionLimits {
  /** How long a statement may take, in seconds. */
  readonly statement: number;
  /** How long others wait for one that is in a transaction and says nothing, in seconds. */
  readonly idle: number;
}

/** The longest message, and the most that is gathered before it is run, in bytes. */
const longest = 16 * 2 ** 20;

/** So much of an answer may wait for the other side to take it, in bytes. */
const mostWaiting = 512 * 2 ** 20;

/** Messages after which the other side waits for an answer. */
const ending = new Set(['Q', 'S', 'H']);

interface Said extends Message {
  /** It may change how answers look. */
  readonly sets?: boolean;
  /** Name of the statement that it prepares. */
  readonly prepares?: string;
}

/** One program that is connected and may read: its messages are run in its turn, those refused are answered here. */
export class Session implements Own {
  settings: ReadonlyMap<string, string>;
  readonly prepared = new Map<string, Buffer>();
  private readonly reader = new MessageReader(true, longest);
  private batch: Message[] = [];
  private working: Promise<void> = Promise.resolve();
  /** An error was told: all is left out until the other side says that it knows. */
  private skipping = false;
  private inTransaction = false;
  /** Something was set that is not taken down yet: within a transaction it may still be taken back. */
  private hasSet = false;
  private idle: NodeJS.Timeout | undefined;
  private running = false;
  /** Asks for a turn, or has work in one that must end before others begin. */
  private busy = false;
  private closed = false;
  private readonly initial: ReadonlyMap<string, string>;

  constructor(
    private readonly socket: Duplex,
    private readonly database: Database,
    private readonly turn: Turn,
    private readonly limits: SessionLimits,
    settings: ReadonlyMap<string, string>,
  ) {
    this.settings = settings;
    this.initial = settings;
    socket.on('data', (piece: Buffer) => this.take(piece));
    socket.on('close', () => this.close());
  }

  /** Ends the statement that runs, as another connection of the same program asked. */
  cancel(): void {
    if (this.running) this.database.end('The statement was cancelled.');
  }

  /** Its token was taken back. */
  shut(): void {
    this.leave('The token of this reader was taken back.', '57P01');
  }

  private close(): void {
    if (this.closed) return;
    this.closed = true;
    clearTimeout(this.idle);
    // What still runs for nobody is ended; a transaction left open is closed by whoever comes next.
    if (this.running) this.database.end('The other side has gone.');
    if (!this.busy) this.giveUp();
  }

  private giveUp(): void {
    this.turn.unsettle(this);
    this.turn.leave(this);
  }

  private take(piece: Buffer): void {
    try {
      this.reader.push(piece);
      for (let next = this.reader.next(); next; next = this.reader.next()) {
        if (next.type === 'X') return void this.socket.end();
        this.batch.push(next);
        if (ending.has(next.type)) {
          const batch = this.batch;
          this.batch = [];
          this.socket.pause();
          this.working = this.working
            .then(() => this.run(batch))
            .catch((error: Error) => this.leave(error.message, 'XX000'));
          void this.working.then(() => this.socket.resume());
        } else if (this.batch.length > 100_000) throw new TooLong();
      }
    } catch {
      this.leave('The message is too long, or none of this protocol.', '08P01');
    }
  }

  private leave(sentence: string, code: string): void {
    if (!this.closed) this.socket.end(failure(sentence, code, 'FATAL'));
  }

  private async run(batch: readonly Message[]): Promise<void> {
    const said = this.sift(batch);
    if (said.length === 0 || this.closed) return;
    clearTimeout(this.idle);
    this.busy = true;
    try {
      const anew = !this.turn.holds(this) && (await this.turn.take(this));
      if (this.closed) return;
      if (anew) await this.restore();
      await this.answer(said, batch.at(-1)!.type);
    } catch (error) {
      this.giveUp();
      throw error;
    } finally {
      this.busy = false;
      if (this.closed) this.giveUp();
    }
  }

  /** @param last the message that waits for the answer */
  private async answer(said: readonly Said[], last: string): Promise<void> {
    const { status, parsed } = await this.talk(said);
    for (const { prepares, bytes } of said.filter(({ type }) => type === 'P').slice(0, parsed))
      if (prepares !== undefined) this.prepared.set(prepares, Buffer.from(bytes));
    this.hasSet ||= said.some(({ sets }) => sets);
    // Answered so far, and more of the same will come.
    if (status === undefined) return this.await();
    this.inTransaction = status === 'T' || status === 'E';
    if (status === 'ended') {
      if (last === 'H') this.skipping = true;
      else this.send(ready);
    }
    if (status === 'I' && this.hasSet) await this.keepSettings();
    if (this.inTransaction) this.await();
    else this.turn.leave(this);
  }

  /** Others wait: whoever holds the database and says nothing is let go. */
  private await(): void {
    this.idle = setTimeout(
      () =>
        this.leave(
          `Nothing was asked within a transaction for ${this.limits.idle} seconds; others wait for the database.`,
          '25P03',
        ),
      this.limits.idle * 1000,
    );
  }

  /** What of a batch goes to the database; what is refused is answered at once. */
  private sift(batch: readonly Message[]): Said[] {
    const out: Said[] = [];
    for (const each of batch) {
      if (this.skipping && each.type !== 'S') continue;
      switch (each.type) {
        case 'Q': {
          const [sql] = textsOf(each.bytes, 5, 1);
          if (/^\s*discard\s+all\s*;?\s*$/i.test(sql ?? '')) {
            this.settings = this.initial;
            this.prepared.clear();
            this.turn.unsettle(this);
            this.send(done('DISCARD ALL'), ready);
            continue;
          }
          const { refused, sets, lets } = understood(sql ?? '');
          if (refused !== undefined)
            this.send(failure(`${refused}.`, '42501'), this.inTransaction ? message('Z', Buffer.from('T')) : ready);
          else out.push({ ...each, sets });
          for (const name of lets) this.letGo(name);
          continue;
        }
        case 'P': {
          const [name, sql] = textsOf(each.bytes, 5, 2);
          const { refused, sets, lets } = understood(sql ?? '');
          if (refused !== undefined) {
            this.send(failure(`${refused}.`, '42501'));
            this.skipping = true;
            continue;
          }
          for (const letGo of lets) this.letGo(letGo);
          out.push({ ...each, sets, ...(name === '' ? {} : { prepares: name }) });
          continue;
        }
        case 'C':
          if (each.bytes[5] === 0x53) this.prepared.delete(textsOf(each.bytes, 6, 1)[0]);
          out.push(each);
          continue;
        case 'S':
          this.skipping = false;
          out.push(each);
          continue;
        case 'B':
        case 'D':
        case 'E':
        case 'H':
          out.push(each);
          continue;
        case 'd':
        case 'c':
        case 'f':
          continue;
        default:
          this.send(failure('This message is not answered here.', '0A000'));
          this.skipping = true;
      }
    }
    return out;
  }

  private letGo(name: string): void {
    if (name === 'all') this.prepared.clear();
    else this.prepared.delete(name);
  }

  /** @returns how the session stands after it: I, T or E; "ended" when it was ended before; undefined where no answer to that was due yet; and how many statements were prepared */
  private async talk(said: readonly Message[]): Promise<{ status: string | undefined; parsed: number }> {
    const answers = new MessageReader(true, 2 ** 31 - 1);
    let status: string | undefined;
    let parsed = 0;
    this.running = true;
    const late = setTimeout(
      () => this.database.end(`The statement took longer than ${this.limits.statement} seconds, and was ended.`),
      this.limits.statement * 1000,
    );
    try {
      await this.database.talk(Buffer.concat(said.map(({ bytes }) => bytes)), (piece) => {
        answers.push(piece);
        for (let next = answers.next(); next; next = answers.next()) {
          if (next.type === 'Z') status = String.fromCharCode(next.bytes[5]);
          if (next.type === '1') parsed++;
          this.send(next.bytes);
        }
        if (this.socket.writableLength > mostWaiting)
          this.database.end(
            `More than ${mostWaiting / 2 ** 20} MB of the answer waited to be taken; ask for fewer rows at a time, with a cursor or limit.`,
          );
      });
      return { status, parsed };
    } catch (error) {
      if (!(error instanceof Ended)) throw error;
      this.send(failure(error.message, '57014'));
      return { status: 'ended', parsed };
    } finally {
      clearTimeout(late);
      this.running = false;
    }
  }

  private send(...messages: Buffer[]): void {
    if (!this.closed) for (const each of messages) this.socket.write(each);
  }

  /** Gives the database what this session had set and prepared, in the place of what another had. */
  private async restore(): Promise<void> {
    const set = [...this.settings].map(
      ([name, value]) => `select set_config(${literal(name)}, ${literal(value)}, false);`,
    );
    await this.database.talk(
      Buffer.concat(['rollback', 'close all', 'deallocate all', 'reset all', 'reset role'].map(query)),
      () => undefined,
    );
    await this.database.script(
      [
        'set search_path = published, about',
        'set default_transaction_read_only = on',
        ...set,
        `set role ${readerRole}`,
      ].join(';\n'),
    );
    for (const each of this.prepared.values()) await this.database.talk(Buffer.concat([each, sync]), () => undefined);
    this.turn.settled(this);
  }

  /** Takes down what the session has set. */
  private async keepSettings(): Promise<void> {
    const rows = await this.database.rows<{ name: string; setting: string }>(
      "select name, setting from pg_settings where source = 'session'",
    );
    this.hasSet = false;
    this.settings = new Map(
      rows.filter(({ name }) => ownSettings.has(name.toLowerCase())).map(({ name, setting }) => [name, setting]),
    );
  }
}
