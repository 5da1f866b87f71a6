import type { Response } from 'express';

/** Answers with server-sent events, each one JSON with its `kind`; what works for them is aborted when the connection is closed. */
export function eventsTo<Event extends { readonly kind: string }>(response: Response) {
  const abort = new AbortController();
  response.on('close', () => abort.abort());
  response.writeHead(200, {
    'Content-Type': 'text/event-stream',
    'Cache-Control': 'no-store',
    'X-Accel-Buffering': 'no',
  });
  return {
    signal: abort.signal,
    send: (event: Event) => void (abort.signal.aborted || response.write(`data: ${JSON.stringify(event)}\n\n`)),
    end: () => void response.end(),
  };
}
