import { randomInt } from 'node:crypto';
import type { Socket } from 'node:net';
import type { Duplex } from 'node:stream';
import { TLSSocket, type SecureContext } from 'node:tls';
import { askPassword, cancelKey, failure, MessageReader, parameter, ready, textsOf, welcome } from './messages';
import { ownSettings } from './statements';

/** Somebody who may come in. */
export interface Admitted {
  readonly reader: string;
  readonly socket: Duplex;
  readonly settings: ReadonlyMap<string, string>;
  readonly id: number;
  readonly secret: number;
}

export interface Door {
  readonly secure?: SecureContext | undefined;
  readonly version: string;
  /** Is it the token of this reader? */
  readonly may: (reader: string, token: string) => Promise<boolean>;
  /** Another connection of the one with this key and secret asks to end what runs. */
  readonly cancel: (id: number, secret: number) => void;
}

/** The longest message of somebody who is not known yet, in bytes, and how long such a one may take, in milliseconds. */
const longest = 10_000;
const patience = 10_000;

/** Requests that begin a connection (PostgreSQL documentation, "Message Formats"). */
const requests = { cancel: 80877102, tls: 80877103, gss: 80877104, version: 3 };

let nextId = 1;

/** Lets a program in that knows a reader and its token. @returns undefined when it was sent away, or only asked to cancel */
export async function admitted(raw: Socket, door: Door): Promise<Admitted | undefined> {
  let socket: Duplex = raw;
  raw.on('error', () => raw.destroy());
  const late = setTimeout(() => raw.destroy(), patience);
  try {
    let next = messagesOf(socket, false);
    for (;;) {
      const first = await next.take();
      if (!first || first.length < 8) return away(socket);
      const asked = first.readInt32BE(4);
      if (asked === requests.cancel) {
        if (first.length >= 16) door.cancel(first.readInt32BE(8), first.readInt32BE(12));
        return away(socket);
      }
      if (asked === requests.tls || asked === requests.gss) {
        // What was sent before the answer would be taken for what was sent under its protection.
        if (next.pending() > 0)
          return away(socket, 'Nothing may follow the request for encryption before its answer.', '08P01');
        const secure = asked === requests.tls ? door.secure : undefined;
        raw.write(secure ? 'S' : 'N');
        if (!secure) continue;
        next.stop();
        const under = new TLSSocket(raw, { isServer: true, secureContext: secure });
        under.on('error', () => raw.destroy());
        socket = under;
        next = messagesOf(socket, false);
        continue;
      }
      if (asked >> 16 !== requests.version)
        return away(socket, 'Only version 3 of the protocol is spoken here.', '08P01');
      const texts = textsOf(first, 8, 200);
      const given = new Map<string, string>();
      for (let i = 0; i + 1 < texts.length; i += 2) given.set(texts[i].toLowerCase(), texts[i + 1]);
      next.lettered();
      socket.write(askPassword);
      const answer = await next.take();
      if (answer?.[0] !== 0x70 || !(await door.may(given.get('user') ?? '', textsOf(answer, 5, 1)[0] ?? ''))) {
        // Whoever guesses, guesses slowly.
        await new Promise((resolve) => setTimeout(resolve, 300));
        return away(
          socket,
          'There is no such reader, or this is not its token. Give one in “Ways out”; its name is the user, its token the password.',
          '28P01',
        );
      }
      next.stop();
      const [id, secret] = [nextId++, randomInt(2 ** 31 - 1)];
      socket.write(welcome);
      for (const [name, value] of Object.entries({
        server_version: door.version,
        server_encoding: 'UTF8',
        client_encoding: 'UTF8',
        DateStyle: 'ISO, MDY',
        TimeZone: given.get('timezone') ?? 'GMT',
        integer_datetimes: 'on',
        standard_conforming_strings: 'on',
        is_superuser: 'off',
      }))
        socket.write(parameter(name, value));
      socket.write(Buffer.concat([cancelKey(id, secret), ready]));
      return {
        reader: given.get('user')!,
        socket,
        id,
        secret,
        settings: new Map([...given].filter(([name]) => ownSettings.has(name))),
      };
    }
  } catch {
    return away(socket, 'The message is too long, or none of this protocol.', '08P01');
  } finally {
    clearTimeout(late);
  }
}

function away(socket: Duplex, sentence?: string, code = '08P01'): undefined {
  if (sentence === undefined) socket.end();
  else socket.end(failure(sentence, code, 'FATAL'));
  return undefined;
}

/** The messages of a socket one by one; undefined when it has ended. */
function messagesOf(socket: Duplex, lettered: boolean) {
  const reader = new MessageReader(lettered, longest);
  let waiting: (() => void) | undefined;
  let ended = false;
  const wake = () => waiting?.();
  const heard = (piece: Buffer) => {
    reader.push(piece);
    wake();
  };
  const end = () => {
    ended = true;
    wake();
  };
  socket.on('data', heard).on('close', end).on('end', end);
  return {
    take: async (): Promise<Buffer | undefined> => {
      for (;;) {
        const next = reader.next();
        if (next) return next.bytes;
        if (ended) return undefined;
        await new Promise<void>((resolve) => (waiting = resolve));
      }
    },
    pending: () => reader.pending,
    lettered: () => reader.begun(longest),
    stop: () => void socket.pause().off('data', heard).off('close', end).off('end', end),
  };
}
