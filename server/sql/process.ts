// A process of its own that other programs connect to: whatever they do, the house goes on.
import { createServer, type AddressInfo, type Socket } from 'node:net';
import { createSecureContext } from 'node:tls';
import { admitted } from './access';
import { Database } from './database';
import { Session } from './session';
import { Turn, type Own } from './turn';

export interface Opening {
  readonly folder?: string | undefined;
  readonly host: string;
  readonly port: number;
  readonly tls?: { readonly cert: string; readonly key: string } | undefined;
  /** How long a statement may take, in seconds. */
  readonly limit: number;
}

/** What the house asks: to be run with its rights, between two turns of readers. */
export type HouseAsks = { id: number } & (
  | { open: Opening }
  | { script: string }
  | { rows: string }
  | { into: string; csv: Uint8Array }
  | { known: boolean }
  | { shut: string }
);
export type ProcessTells =
  | { id: number; rows: unknown[] }
  | { id: number; failed: string; code?: string | undefined }
  | { asks: number; reader: string; token: string }
  | { emptied: true };

/** How many may be connected at once; others are sent away. */
const most = 60;
/** How long others wait for one that is in a transaction and says nothing, in seconds. */
const idle = 60;

const tell = (told: ProcessTells) => process.send?.(told);
const asked = new Map<number, (known: boolean) => void>();
let nextAsk = 1;
const may = (reader: string, token: string) =>
  new Promise<boolean>((resolve) => {
    const asks = nextAsk++;
    asked.set(asks, resolve);
    tell({ asks, reader, token });
  });

let database: Database;
let turn: Turn;
const house: Own = { settings: new Map(), prepared: new Map() };
const sessions = new Map<number, { readonly secret: number; readonly reader: string; readonly session: Session }>();
const sockets = new Set<Socket>();

async function open({ folder, host, port, tls, limit }: Opening): Promise<number> {
  database = new Database(folder, () => tell({ emptied: true }));
  turn = new Turn(database);
  const [{ server_version: version }] = await asHouse(() =>
    database.rows<{ server_version: string }>('show server_version'),
  );
  const secure = tls && createSecureContext(tls);
  const server = createServer((socket) => {
    if (sockets.size >= most) return void socket.destroy();
    sockets.add(socket);
    socket.on('close', () => sockets.delete(socket)).setNoDelay(true);
    void admitted(socket, {
      secure,
      version,
      may,
      cancel: (id, secret) => {
        const found = sessions.get(id);
        if (found?.secret === secret) found.session.cancel();
      },
    }).then((guest) => {
      if (!guest || guest.socket.destroyed) return;
      sessions.set(guest.id, {
        secret: guest.secret,
        reader: guest.reader,
        session: new Session(guest.socket, database, turn, { statement: limit, idle }, guest.settings),
      });
      guest.socket.on('close', () => sessions.delete(guest.id)).resume();
    });
  });
  await new Promise<void>((resolve, reject) => server.once('error', reject).listen(port, host, resolve));
  return (server.address() as AddressInfo).port;
}

/** Does some work with the rights of the house, once no reader is at it. */
async function asHouse<T>(work: () => Promise<T>): Promise<T> {
  await turn.take(house);
  try {
    await database.script('rollback; close all; deallocate all; reset all; reset role');
    return await work();
  } finally {
    turn.unsettle(house);
    turn.leave(house);
  }
}

async function answer(asks: HouseAsks): Promise<unknown[]> {
  if ('open' in asks) return [await open(asks.open)];
  if ('script' in asks) await asHouse(() => database.script(asks.script));
  else if ('into' in asks) await asHouse(() => database.load(asks.into, asks.csv));
  else if ('rows' in asks) return asHouse(() => database.rows(asks.rows));
  else if ('shut' in asks)
    [...sessions.values()].filter(({ reader }) => reader === asks.shut).forEach(({ session }) => session.shut());
  return [];
}

process.on('message', (asks: HouseAsks) => {
  if ('known' in asks) {
    asked.get(asks.id)?.(asks.known);
    asked.delete(asks.id);
    return;
  }
  answer(asks).then(
    (rows) => tell({ id: asks.id, rows }),
    (error: NodeJS.ErrnoException) => tell({ id: asks.id, failed: error.message, code: error.code }),
  );
});
// The house is gone.
process.on('disconnect', () => process.exit(0));
