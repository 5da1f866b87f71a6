import type { OutRow } from './out-row';
import type { OutColumn } from './out-rows';
import type { Provenance } from './provenance';

/** What a typed file is written of. */
export interface Head {
  readonly columns: readonly OutColumn[];
  readonly rows: number;
  readonly provenance: Provenance;
}

/** Writes one file of one format, piece by piece. What it gives back together is the file. */
export interface Writer {
  rows(piece: readonly OutRow[]): Promise<Uint8Array>;
  end(): Promise<Uint8Array>;
}

/** Bytes that come in pieces and are taken from time to time. */
export class Gathered {
  private parts: Uint8Array[] = [];
  private length = 0;

  add(bytes: Uint8Array): void {
    this.parts.push(bytes);
    this.length += bytes.length;
  }

  get size(): number {
    return this.length;
  }

  take(): Uint8Array {
    const all = new Uint8Array(this.length);
    let at = 0;
    for (const part of this.parts) {
      all.set(part, at);
      at += part.length;
    }
    this.parts = [];
    this.length = 0;
    return all;
  }
}
