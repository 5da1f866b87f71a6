import { PDFArray, PDFDict, PDFDocument, PDFName, PDFRawStream, PDFRef } from '@cantoo/pdf-lib';
import { deflateSync, inflateSync } from 'node:zlib';
import type { random } from '../../demo/random';

type Draw = ReturnType<typeof random>;

export type MutationKind = 'bytes' | 'objects' | 'content';

/** A file with a fault in it, and what was done to it. */
export interface Mutation {
  readonly kind: MutationKind;
  readonly bytes: Buffer;
  readonly did: string;
  /** The file is as a writer could have written it: it really says what it says now. */
  readonly saysSo: boolean;
}

/** A third of bytes anywhere, a third of objects as they are written, a third of what a page draws after decompression. */
export async function mutated(file: Buffer, kind: MutationKind, draw: Draw): Promise<Mutation> {
  switch (kind) {
    case 'bytes':
      return inBytes(file, draw);
    case 'objects':
      return await inObjects(file, draw);
    case 'content':
      return inContent(file, draw);
  }
}

function inBytes(file: Buffer, draw: Draw): Mutation {
  const bytes = Buffer.from(file);
  const how = draw.one(['flipped', 'zeroed', 'cut', 'swapped']);
  const at = draw.whole(0, bytes.length - 1);
  if (how === 'cut')
    return { kind: 'bytes', bytes: bytes.subarray(0, Math.max(20, at)), did: `cut at ${at}`, saysSo: false };
  if (how === 'zeroed') bytes.fill(0, at, Math.min(bytes.length, at + draw.whole(1, 40)));
  else if (how === 'swapped') bytes.copyWithin(at, draw.whole(0, bytes.length - 1), undefined);
  else for (let n = draw.whole(1, 4); n > 0; n--) bytes[draw.whole(0, bytes.length - 1)] ^= 1 << draw.whole(0, 7);
  return { kind: 'bytes', bytes, did: `${how} at ${at}`, saysSo: false };
}

/** What is written in objects, each as an expression and what is put in its place, of the same length wherever that can be. */
const objectFaults: readonly (readonly [name: string, find: RegExp, put: (found: string, draw: Draw) => string])[] = [
  [
    'a reference',
    /\b\d+ 0 R\b/g,
    (found, draw) => `${String(draw.whole(0, 10 ** (found.length - 4) - 1)).padStart(found.length - 4, '0')} 0 R`,
  ],
  [
    'a length',
    /\/Length \d+/g,
    (found, draw) =>
      `/Length ${String(draw.whole(0, 99_999_999))
        .slice(0, found.length - 8)
        .padStart(found.length - 8, '1')}`,
  ],
  ['a count', /\/Count \d+/g, (found, draw) => `/Count ${String(draw.whole(0, 9)).padEnd(found.length - 7, '9')}`],
  ['a box', /\/MediaBox ?\[[^\]]+\]/g, (found, draw) => found.replace(/\d(?=\.?\d* ?\])/, String(draw.whole(0, 9)))],
  ['a unit', /\/Type ?\/Page\b(?!s)/g, (found) => `${found}/UserUnit 1000000`],
  ['a circle of pages', /\/Kids ?\[ ?\d+ 0 R/g, (found) => found.replace(/\d+ 0 R/, '1 0 R')],
  [
    'a kind',
    /\/Type ?\/(?:Page|Font|Catalog|Pages)\b/g,
    (found) => found.replace(/\/\w+$/, (name) => `/${'x'.repeat(name.length - 1)}`),
  ],
];

/** Do two references lead to objects of one kind, such as another font, or what another page draws? */
async function sameKind(file: Buffer, ...references: readonly string[]): Promise<boolean> {
  const { context } = await PDFDocument.load(file, { updateMetadata: false, ignoreEncryption: true });
  const kinds = references.map((reference) => {
    const of = context.lookup(PDFRef.of(parseInt(reference)));
    const dict = of instanceof PDFRawStream ? of.dict : of;
    return (
      of &&
      `${of.constructor.name} ${dict instanceof PDFDict ? ['Type', 'Subtype', 'Length1'].map((key) => String(dict.get(PDFName.of(key)))).join() : ''}`
    );
  });
  return kinds[0] !== undefined && kinds[0] === kinds[1];
}

async function inObjects(file: Buffer, draw: Draw): Promise<Mutation> {
  const text = file.toString('latin1');
  const able = objectFaults.flatMap(([name, find, put]) => {
    const found = [...text.matchAll(find)];
    return found.length > 0 ? [{ name, found, put }] : [];
  });
  if (able.length === 0) return inBytes(file, draw);
  const { name, found, put } = draw.one(able);
  const { index, 0: written } = draw.one(found);
  const other = put(written, draw);
  return {
    kind: 'objects',
    bytes: Buffer.from(text.slice(0, index) + other + text.slice(index + written.length), 'latin1'),
    did: `${name}: ${written} became ${other}`,
    saysSo: name === 'a box' || (name === 'a reference' && (await sameKind(file, written, other))),
  };
}

/** Faults in what a page draws; the file is written anew around it, as a writer would have written it so. */
const contentFaults: readonly (readonly [name: string, put: (text: string, draw: Draw) => string])[] = [
  [
    'a stretch left out',
    (text, draw) => text.slice(0, draw.whole(0, text.length)) + text.slice(draw.whole(0, text.length)),
  ],
  ['states saved without end', (text) => 'q '.repeat(40_000) + text],
  ['a text without its end', (text) => text.replace(/\) ?Tj/, ' Tj')],
  [
    'a number beyond all',
    (text, draw) => text.replace(/\d+\.\d+/, draw.one(['99999999999999', '-1e30', '0.0000000001'])),
  ],
  [
    'an operator unknown',
    (text, draw) => {
      const at = draw.whole(0, text.length);
      return `${text.slice(0, at)} xyzzy ${text.slice(at)}`;
    },
  ],
  ['the same again', (text) => text.repeat(3)],
];

async function inContent(file: Buffer, draw: Draw): Promise<Mutation> {
  try {
    const document = await PDFDocument.load(file, { updateMetadata: false });
    const page = draw.one(document.getPages());
    const contents = page.node.Contents();
    const stream = contents instanceof PDFArray ? contents.lookup(draw.whole(0, contents.size() - 1)) : contents;
    if (!(stream instanceof PDFRawStream)) return await inObjects(file, draw);
    const text = inflateSync(stream.contents).toString('latin1');
    const [name, put] = draw.one([...contentFaults]);
    const written = deflateSync(Buffer.from(put(text, draw), 'latin1'));
    const other = document.context.stream(written, { Filter: 'FlateDecode' });
    page.node.set(PDFName.of('Contents'), document.context.register(other));
    return {
      kind: 'content',
      bytes: Buffer.from(await document.save({ useObjectStreams: false })),
      did: name,
      saysSo: true,
    };
  } catch {
    return await inObjects(file, draw);
  }
}
