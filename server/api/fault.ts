import type { ErrorRequestHandler, Request, RequestHandler, Response } from 'express';
import type { Logger } from 'pino';
import * as v from 'valibot';
import { faultsOf } from '../../core/pipeline/document';
import { sentence, type Problem } from '../../core/sheet/problem';
import { faultyText, faultyTextSentence } from '../../core/values/faulty-text';
import { ThereAlready } from '../folder/dropped';
import { FolderTrouble } from '../folder/inventory';
import { Stopping } from '../work/stopping';
import { StandsStill } from '../work/pool';
import { NotAFolder, OutsideRoots } from '../folder/roots';
import { NameTaken } from '../store/pipelines';
import { DatabaseEnded } from '../store/store';
import type { ApiError, FaultKind, OrUnreadable } from '../contract/answers';

const statusOf: Record<FaultKind, number> = {
  'bad input': 400,
  'key needed': 401,
  forbidden: 403,
  'not found': 404,
  conflict: 409,
  'there already': 409,
  'changed meanwhile': 412,
  'too large': 413,
  unreadable: 422,
  away: 503,
  'version needed': 428,
  fault: 500,
};

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
export function checked<const Schema extends v.GenericSchema>(
  schema: Schema,
  input: unknown,
  what: string,
): v.InferOutput<Schema> {
  const faulty = faultyText(input);
  if (faulty) throw new Fault('bad input', `${what}: ${faultyTextSentence(faulty)}`);
  const result = v.safeParse(schema, input);
  if (result.success) return result.output;
  throw new Fault('bad input', `${what}: ${faultsOf(new v.ValiError(result.issues))}`);
}

/** The answer of a thread, or the fault that the report cannot be read. */
export function readable<T>(answer: OrUnreadable<T>): T {
  if (typeof answer === 'object' && answer !== null && 'unreadable' in answer)
    throw new Fault('unreadable', sentence(answer.unreadable), answer.unreadable);
  return answer;
}

const answer = (response: Response, kind: FaultKind, message: string, problem?: Problem) =>
  response
    .status(statusOf[kind])
    .json({ error: { kind, message, ...(problem ? { problem } : {}) } } satisfies ApiError);

export const notFound: RequestHandler = (request, response) =>
  void answer(response, 'not found', `There is nothing at ${request.baseUrl}${request.path}.`);

/** What the machine says of files and folders, by its code. */
const troubles: Readonly<Record<string, readonly [FaultKind, string]>> = {
  ENOENT: ['not found', 'The file or folder is no longer there. Look at the folder anew.'],
  ENOTDIR: ['not found', 'A part of the way to the file is no folder. Look at the folder anew.'],
  EACCES: [
    'forbidden',
    'The file or folder may not be opened by the user that this program runs as. Change its permissions.',
  ],
  EPERM: ['forbidden', 'The machine does not let this program do that to the file or folder. Change its permissions.'],
  EROFS: ['forbidden', 'The disk can only be read. Nothing was changed.'],
  ENAMETOOLONG: ['bad input', 'The name is longer than the disk takes. Choose a shorter one.'],
  ENOSPC: ['conflict', 'The disk is full. Make room and try again; nothing was changed.'],
  EDQUOT: [
    'conflict',
    'The room that the user of this program may fill is full. Make room and try again; nothing was changed.',
  ],
  // Of the database (SQLSTATE): it could not make one of its files longer.
  '53100': ['conflict', 'The disk is full. Make room and try again; nothing was changed.'],
  EMFILE: ['conflict', 'Too many files are open on this machine. Try again in a moment.'],
};

/** Every error becomes one shape; what is a fault of ours goes to the log, never to the user. @param isStopping whether threads and the database are being ended, of which no failure is a fault then */
export const faults =
  (log: Logger, isStopping: () => boolean = () => false): ErrorRequestHandler =>
  (error: Error & { type?: string; status?: number; code?: string }, _request: Request, response, next) => {
    // Nobody waits for the answer any more.
    if (response.closed) return;
    if (response.headersSent) return void next(error);
    if (error instanceof Fault) return void answer(response, error.kind, error.message, error.problem);
    if (error instanceof StandsStill)
      return void answer(response, 'unreadable', `What was asked for cannot be had: ${error.message}.`);
    if (error instanceof FolderTrouble) return void answer(response, 'conflict', error.message);
    if (error instanceof OutsideRoots) return void answer(response, 'forbidden', error.message);
    if (error instanceof NotAFolder) return void answer(response, 'bad input', error.message);
    if (error instanceof ThereAlready) return void answer(response, 'there already', error.message);
    if (error instanceof NameTaken) return void answer(response, 'conflict', error.message);
    if (v.isValiError(error)) return void answer(response, 'bad input', faultsOf(error));
    if (error.type === 'entity.too.large')
      return void answer(
        response,
        'too large',
        'The file is larger than this server takes. Put it into the folder yourself, or raise --upload-limit.',
      );
    if (error instanceof Stopping || isStopping()) return void answer(response, 'away', new Stopping().message);
    if (error instanceof DatabaseEnded)
      return void answer(
        response,
        'away',
        'The database has stopped and is started again. Try again in a moment; nothing was changed.',
      );
    const trouble = troubles[error.code ?? ''];
    if (trouble) return void answer(response, ...trouble);
    if (error.status && error.status < 500)
      return void answer(
        response,
        'bad input',
        error.type === 'entity.parse.failed' ? 'The body is not valid JSON.' : error.message,
      );
    log.error(error);
    return void answer(
      response,
      'fault',
      'Something went wrong in the program; the log says what. Nothing was changed.',
    );
  };
