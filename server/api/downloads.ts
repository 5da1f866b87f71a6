import { Router, type Response } from 'express';
import type { DownloadAnswer } from '../contract/answers';
import { Fault } from './fault';

/** Ended ones are remembered so long, in milliseconds, for whoever asks once more. */
const remembered = 60_000;

interface Download {
  rows: number;
  taken: number;
  state: DownloadAnswer['state'];
  readonly response: Response;
}

/** Files on their way to the screen: how far each has come, under the ticket that its address names. */
export class Downloads {
  private readonly under = new Map<string, Download>();

  /** @param rows that the file will have @returns is told how many rows have been taken so far */
  begin(ticket: string, rows: number, response: Response): (taken: number) => void {
    const download: Download = { rows, taken: 0, state: 'under way', response };
    this.under.set(ticket, download);
    response.on('close', () => {
      if (download.state === 'under way') download.state = response.writableFinished ? 'done' : 'broken off';
      setTimeout(() => this.under.get(ticket) === download && this.under.delete(ticket), remembered).unref();
    });
    return (taken) => void (download.taken = taken);
  }

  private of(ticket: string): Download {
    const download = this.under.get(ticket);
    if (!download) throw new Fault('not found', 'No file is on its way under this ticket.');
    return download;
  }

  /** How far they are, and a way to end them. */
  router(): Router {
    const router = Router();
    router.get('/:ticket', (request, response) => {
      const { rows, taken, state } = this.of(request.params.ticket);
      response.json({ rows, taken: state === 'done' ? rows : taken, state } satisfies DownloadAnswer);
    });
    router.delete('/:ticket', (request, response) => {
      const download = this.of(request.params.ticket);
      if (download.state === 'under way') download.state = 'cancelled';
      download.response.destroy();
      response.status(204).end();
    });
    return router;
  }
}
