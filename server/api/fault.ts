import type { ErrorRequestHandler, Request, RequestHandler, Response } from 'express';
import type { Logger } from 'pino';
import * as v from 'valibot';
import { faultsOf } from '../../core/pipeline/document';
import { sentence, type Problem } from '../../core/sheet/problem';
import { FolderTrouble } from '../folder/inventory';
import { StandsStill } from '../work/pool';
import { OutsideRoots } from '../folder/roots';
import type { ApiError, FaultKind, OrUnreadable } from '../contract/answers';

const statusOf: Record<FaultKind, number> = { 'bad input': 400, forbidden: 403, 'not found': 404, conflict: 409, 'changed meanwhile': 412, 'too large': 413, unreadable: 422, 'version needed': 428, fault: 500 };

/** A fault to be told to the user. */
export class Fault extends Error {
  constructor(
    readonly kind: FaultKind,
    message: string,
    readonly problem?: Problem,
  ) {
    super(message);
  }
}

/** Checks input; what is wrong comes back as one sentence. */
export function checked<const Schema extends v.GenericSchema>(schema: Schema, input: unknown, what: string): v.InferOutput<Schema> {
  const result = v.safeParse(schema, input);
  if (result.success) return result.output;
  throw new Fault('bad input', `${what}: ${faultsOf(new v.ValiError(result.issues))}`);
}

/** The answer of a thread, or the fault that the report cannot be read. */
export function readable<T>(answer: OrUnreadable<T>): T {
  if (typeof answer === 'object' && answer !== null && 'unreadable' in answer) throw new Fault('unreadable', sentence(answer.unreadable), answer.unreadable);
  return answer as T;
}

const answer = (response: Response, kind: FaultKind, message: string, problem?: Problem) => response.status(statusOf[kind]).json({ error: { kind, message, ...(problem ? { problem } : {}) } } satisfies ApiError);

export const notFound: RequestHandler = (request, response) => void answer(response, 'not found', `There is nothing at ${request.baseUrl}${request.path}.`);

/** Every error becomes one shape; what is a fault of ours goes to the log, never to the user. */
export const faults =
  (log: Logger): ErrorRequestHandler =>
  (error: Error & { type?: string; status?: number }, _request: Request, response, next) => {
    // Nobody waits for the answer any more.
    if (response.closed) return;
    if (response.headersSent) return next(error);
    if (error instanceof Fault) return void answer(response, error.kind, error.message, error.problem);
    if (error instanceof StandsStill) return void answer(response, 'unreadable', `What was asked for cannot be had: ${error.message}.`);
    if (error instanceof FolderTrouble) return void answer(response, 'conflict', error.message);
    if (error instanceof OutsideRoots) return void answer(response, 'forbidden', error.message);
    if (v.isValiError(error)) return void answer(response, 'bad input', faultsOf(error));
    if (error.type === 'entity.too.large') return void answer(response, 'too large', 'The file is larger than this server takes. Put it into the folder yourself, or raise --upload-limit.');
    if (error.status && error.status < 500) return void answer(response, 'bad input', error.type === 'entity.parse.failed' ? 'The body is not valid JSON.' : error.message);
    log.error(error);
    return void answer(response, 'fault', 'Something went wrong in the program; the log says what. Nothing was changed.');
  };
