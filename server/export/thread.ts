// A thread that writes one file: the server hands it rows and takes bytes.
import { parentPort, workerData } from 'node:worker_threads';
import { rowsFrom, type RowText } from './row-text';
import { writerOf, type TypedFormat } from './write';
import type { Head } from './writer';

export interface ThreadData {
  readonly format: TypedFormat;
  readonly head: Head;
}
export type Asked = { readonly rows: RowText } | { readonly end: true };
export type Told = { readonly bytes: Uint8Array } | { readonly failed: string };

const { format, head } = workerData as ThreadData;
const port = parentPort!;
const begun = writerOf(format, head);
port.on('message', (asked: Asked) => {
  void begun
    .then((writer) => ('rows' in asked ? writer.rows(rowsFrom(asked.rows, head.columns)) : writer.end()))
    .then(
      (bytes) => port.postMessage({ bytes } satisfies Told),
      (error: Error) => port.postMessage({ failed: error.message } satisfies Told),
    );
});
