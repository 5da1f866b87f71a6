// Messages of the PostgreSQL protocol, version 3 (PostgreSQL documentation, "Frontend/Backend Protocol").

/** A message: its letter ("" for those that begin a connection), and all its bytes. */
export interface Message {
  readonly type: string;
  readonly bytes: Buffer;
}

/** More came than a message may have. */
export class TooLong extends Error {
  constructor() {
    super('The message is too long.');
    this.name = 'TooLong';
  }
}

/** Takes messages out of what comes in pieces. */
export class MessageReader {
  private rest: Buffer = Buffer.alloc(0);

  /** @param lettered false: messages that begin a connection have no letter @param longest in bytes */
  constructor(
    private lettered: boolean,
    private longest: number,
  ) {}

  /** What is left of a piece when the connection goes on otherwise. */
  get pending(): number {
    return this.rest.length;
  }

  /** From here on messages have their letter, and may be so long. */
  begun(longest: number): void {
    this.lettered = true;
    this.longest = longest;
  }

  push(piece: Uint8Array): void {
    this.rest =
      this.rest.length === 0
        ? Buffer.from(piece.buffer, piece.byteOffset, piece.byteLength)
        : Buffer.concat([this.rest, piece]);
  }

  /** @throws TooLong also where the length is none at all */
  next(): Message | undefined {
    const head = this.lettered ? 1 : 0;
    if (this.rest.length < head + 4) return undefined;
    const length = this.rest.readUInt32BE(head);
    if (length < 4 || length > this.longest) throw new TooLong();
    if (this.rest.length < head + length) return undefined;
    const bytes = this.rest.subarray(0, head + length);
    this.rest = this.rest.subarray(head + length);
    return { type: this.lettered ? String.fromCharCode(bytes[0]) : '', bytes };
  }
}

const text = (value: string) => Buffer.from(`${value}\0`);

export function message(type: string, ...parts: Uint8Array[]): Buffer {
  const body = Buffer.concat(parts);
  const head = Buffer.alloc(type.length + 4);
  head.write(type, 'latin1');
  head.writeUInt32BE(body.length + 4, type.length);
  return Buffer.concat([head, body]);
}

const number = (value: number) => {
  const bytes = Buffer.alloc(4);
  bytes.writeInt32BE(value);
  return bytes;
};

export const askPassword = message('R', number(3));
export const welcome = message('R', number(0));
export const parameter = (name: string, value: string) => message('S', text(name), text(value));
export const cancelKey = (id: number, secret: number) => message('K', number(id), number(secret));
export const ready = message('Z', Buffer.from('I'));
export const sync = message('S');
export const done = (tag: string) => message('C', text(tag));
export const query = (sql: string) => message('Q', text(sql));

/** @param code an SQLSTATE (PostgreSQL documentation, "Error Codes") */
export const failure = (sentence: string, code: string, severity: 'ERROR' | 'FATAL' = 'ERROR') =>
  message('E', text(`S${severity}`), text(`V${severity}`), text(`C${code}`), text(`M${sentence}`), Buffer.from([0]));

/** The texts of a message from some byte on, each ended by a zero. @param most how many */
export function textsOf(bytes: Buffer, from: number, most: number): string[] {
  const texts: string[] = [];
  for (let at = from; texts.length < most;) {
    const end = bytes.indexOf(0, at);
    if (end < 0) break;
    texts.push(bytes.toString('utf8', at, end));
    at = end + 1;
  }
  return texts;
}
