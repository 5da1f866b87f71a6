import express from 'express';
import { once } from 'node:events';
import type { AddressInfo } from 'node:net';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { DownloadAnswer } from '../contract/answers';
import { Downloads } from './downloads';
import { faults } from './fault';

/** A server whose file comes as slowly as is wanted: it ends when it is told to. */
const downloads = new Downloads();
let end: () => void;
let taken: (rows: number) => void;
const app = express();
app.get('/file', (request, response) => {
  taken = downloads.begin(String(request.query['ticket']), 100, response);
  response.write('one');
  end = () => response.end('two');
});
app.use('/downloads', downloads.router());
app.use(faults({ error: () => undefined, warn: () => undefined } as never));
const server = app.listen(0, '127.0.0.1');
let url: string;
beforeAll(async () => {
  if (!server.listening) await once(server, 'listening');
  url = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
});
afterAll(() => void server.close());

const told = async (ticket: string) => (await (await fetch(`${url}/downloads/${ticket}`)).json()) as DownloadAnswer;
const begun = async (ticket: string, signal?: AbortSignal) =>
  fetch(`${url}/file?ticket=${ticket}`, signal ? { signal } : {});
const until = async (ticket: string, state: DownloadAnswer['state']) => {
  for (let tries = 0; tries < 200; tries++) {
    const answer = await told(ticket);
    if (answer.state === state) return answer;
    await new Promise((resolve) => setTimeout(resolve, 10));
  }
  return told(ticket);
};

describe('a file that is slow to come', () => {
  it('is under way until it has ended', async () => {
    const response = await begun('slow');
    expect(await told('slow')).toEqual({ rows: 100, taken: 0, state: 'under way' });
    taken(40);
    expect(await told('slow')).toEqual({ rows: 100, taken: 40, state: 'under way' });
    end();
    expect(await response.text()).toBe('onetwo');
    expect(await until('slow', 'done')).toEqual({ rows: 100, taken: 100, state: 'done' });
  });

  it('ends at once when it is cancelled: what came is known not to be whole', async () => {
    const response = await begun('cancelled');
    taken(20);
    const text = response.text();
    text.catch(() => undefined);
    expect((await fetch(`${url}/downloads/cancelled`, { method: 'DELETE' })).status).toBe(204);
    await expect(text).rejects.toThrow();
    expect(await until('cancelled', 'cancelled')).toEqual({ rows: 100, taken: 20, state: 'cancelled' });
  });

  it('is broken off when whoever takes it goes', async () => {
    const gone = new AbortController();
    await begun('gone', gone.signal);
    gone.abort();
    expect((await until('gone', 'broken off')).state).toBe('broken off');
  });
});
