import { PDFArray, PDFDict, PDFDocument, PDFName, PDFRawStream, PDFRef, type PDFObject } from '@cantoo/pdf-lib';
import { inflateRawSync, inflateSync } from 'node:zlib';

/** What a damaged stream makes doubtful. */
export type Doubtful = 'what is printed on it' | 'the letters of a font' | 'a part that is drawn in it';

/** By page, from 1: what of it cannot be trusted. `objects`: the file's own list of its parts is damaged, so anything may be missing. */
export interface Damage {
  readonly pages: ReadonlyMap<number, ReadonlySet<Doubtful>>;
  readonly objects: boolean;
  /** How many pages its page tree holds. */
  readonly pageCount: number;
}

const name = (text: string) => PDFName.of(text);
const [kids, contents, resources, font, xobject, subtype, filter] = ['Kids', 'Contents', 'Resources', 'Font', 'XObject', 'Subtype', 'Filter'].map(name);
const form = name('Form');
const [flate, ascii85, asciiHex] = [['FlateDecode', 'Fl'], ['ASCII85Decode', 'A85'], ['ASCIIHexDecode', 'AHx']].map((names) => new Set(names.map(name)));
/** Streams of a font that tell its letters and their widths. */
const fontStreams = ['ToUnicode', 'Encoding', 'FontFile', 'FontFile2', 'FontFile3'].map(name);

/** Pages and forms are not looked into further than this: a file that goes on has a circle in it. */
const mostPages = 100_000;
const deepest = 30;

/**
 * Looks which compressed streams that pages use are not what was written: they hold a sum of their bytes (Adler-32). A stream
 * that ends whole but lacks the end of its sum is sound: some writers count it short.
 * @returns what is damaged; `encrypted` where nothing can be told; undefined where the parts of the file cannot be told apart
 */
export async function damageOf(bytes: Uint8Array): Promise<Damage | 'encrypted' | undefined> {
  try {
    const document = await PDFDocument.load(bytes, { updateMetadata: false, ignoreEncryption: true, throwOnInvalidObject: false, warnOnInvalidObjects: false });
    return document.isEncrypted ? 'encrypted' : { ...new Look(document).pages(), objects: hasDamagedObjects(bytes) };
  } catch {
    return undefined;
  }
}

class Look {
  /** Streams looked at before: many pages use the same fonts. */
  private readonly known = new Map<PDFRawStream, boolean>();
  private readonly fonts = new Map<PDFObject, boolean>();

  constructor(private readonly document: PDFDocument) {}

  pages(): Pick<Damage, 'pages' | 'pageCount'> {
    const found = new Map<number, Set<Doubtful>>();
    let number = 0;
    const walk = (node: PDFDict, inherited: PDFDict | undefined, seen: ReadonlySet<PDFDict>): void => {
      if (seen.has(node) || number >= mostPages) return;
      const own = this.dict(node.get(resources)) ?? inherited;
      const children = this.array(node.get(kids));
      if (children) return children.forEach((child) => void (this.dict(child) && walk(this.dict(child)!, own, new Set([...seen, node]))));
      number++;
      const doubts = this.doubtsOf(node, own);
      if (doubts.size > 0) found.set(number, doubts);
    };
    const root = this.dict(this.document.catalog.get(name('Pages')));
    if (root) walk(root, undefined, new Set());
    return { pages: found, pageCount: number };
  }

  private doubtsOf(page: PDFDict, own: PDFDict | undefined): Set<Doubtful> {
    const doubts = new Set<Doubtful>();
    const printed = this.object(page.get(contents));
    for (const each of printed instanceof PDFArray ? printed.asArray() : [printed]) if (this.isDamaged(each)) doubts.add('what is printed on it');
    if (own) this.inResources(own, doubts, new Set());
    return doubts;
  }

  private inResources(own: PDFDict, doubts: Set<Doubtful>, seen: Set<PDFDict>): void {
    if (seen.has(own) || seen.size > deepest) return;
    seen.add(own);
    for (const each of this.dict(own.get(font))?.values() ?? []) if (this.isDamagedFont(each)) doubts.add('the letters of a font');
    for (const each of this.dict(own.get(xobject))?.values() ?? []) {
      const drawn = this.object(each);
      if (!(drawn instanceof PDFRawStream) || drawn.dict.get(subtype) !== form) continue;
      if (this.isDamaged(drawn)) doubts.add('a part that is drawn in it');
      const within = this.dict(drawn.dict.get(resources));
      if (within) this.inResources(within, doubts, seen);
    }
  }

  private isDamagedFont(of: PDFObject): boolean {
    const known = this.fonts.get(of);
    if (known !== undefined) return known;
    this.fonts.set(of, false);
    const own = this.dict(of);
    const descriptor = own && this.dict(own.get(name('FontDescriptor')));
    const descendants = own && this.array(own.get(name('DescendantFonts')));
    const damaged =
      fontStreams.some((key) => this.isDamaged(own?.get(key)) || this.isDamaged(descriptor?.get(key))) ||
      (descendants ?? []).some((each) => this.isDamagedFont(each)) ||
      (own ? (this.dict(own.get(name('CharProcs')))?.values() ?? []).some((each) => this.isDamaged(each)) : false);
    this.fonts.set(of, damaged);
    return damaged;
  }

  private isDamaged(of: PDFObject | undefined): boolean {
    const stream = this.object(of);
    if (!(stream instanceof PDFRawStream)) return false;
    let damaged = this.known.get(stream);
    if (damaged === undefined) this.known.set(stream, (damaged = this.isDamagedStream(stream)));
    return damaged;
  }

  /** Of streams that are compressed, or compressed and then written in letters; others hold no sum. */
  private isDamagedStream({ dict, contents: bytes }: PDFRawStream): boolean {
    const own = this.object(dict.get(filter));
    const [first, second] = (own instanceof PDFArray ? own.asArray() : [own]).map((each) => this.object(each) as PDFName);
    if (flate.has(first)) return isDamagedFlate(bytes);
    if (!flate.has(second)) return false;
    const written = ascii85.has(first) ? fromAscii85(bytes) : asciiHex.has(first) ? Buffer.from(Buffer.from(bytes).toString('latin1').replace(/\s|>.*$/gs, ''), 'hex') : undefined;
    return ascii85.has(first) && !written ? true : written !== undefined && isDamagedFlate(written);
  }

  private object(of: PDFObject | undefined): PDFObject | undefined {
    return of instanceof PDFRef ? this.document.context.lookup(of) : of;
  }
  private dict(of: PDFObject | undefined): PDFDict | undefined {
    const found = this.object(of);
    return found instanceof PDFDict ? found : found instanceof PDFRawStream ? found.dict : undefined;
  }
  private array(of: PDFObject | undefined): PDFObject[] | undefined {
    const found = this.object(of);
    return found instanceof PDFArray ? found.asArray() : undefined;
  }
}

/** Is a compressed text not what was written? */
export function isDamagedFlate(bytes: Uint8Array): boolean {
  try {
    inflateSync(bytes);
    return false;
  } catch (error) {
    if ((error as { code?: string }).code !== 'Z_BUF_ERROR') return true;
  }
  try {
    // It ended too early: of what was printed, or only of the sum behind it?
    inflateRawSync(bytes.subarray(2));
    return false;
  } catch {
    return true;
  }
}

/** Bytes written as letters of base 85 (PDF 32000-1, 7.4.3); undefined where a letter is none of these. */
function fromAscii85(letters: Uint8Array): Buffer | undefined {
  const bytes: number[] = [];
  let group = 0;
  let count = 0;
  for (const letter of letters) {
    if (letter <= 32) continue;
    if (letter === 0x7e) break;
    if (letter === 0x7a && count === 0) {
      bytes.push(0, 0, 0, 0);
      continue;
    }
    if (letter < 0x21 || letter > 0x75) return undefined;
    group = group * 85 + letter - 0x21;
    if (++count < 5) continue;
    bytes.push((group / 16_777_216) & 255, (group / 65_536) & 255, (group / 256) & 255, group & 255);
    group = count = 0;
  }
  if (count > 1) {
    for (let i = count; i < 5; i++) group = group * 85 + 84;
    bytes.push(...[(group / 16_777_216) & 255, (group / 65_536) & 255, (group / 256) & 255].slice(0, count - 1));
  }
  return Buffer.from(bytes);
}

/** Streams that hold other objects, or tell where they stand. */
const ofObjects = /\/Type\s*\/(?:ObjStm|XRef)\b/g;

/** Is a stream damaged in which the file keeps its objects? They are found by what is written before them. */
function hasDamagedObjects(bytes: Uint8Array): boolean {
  const text = Buffer.from(bytes.buffer, bytes.byteOffset, bytes.length).toString('latin1');
  for (const { index } of text.matchAll(ofObjects)) {
    const start = /stream\r?\n/g;
    start.lastIndex = index;
    const found = start.exec(text);
    const open = text.lastIndexOf('obj', index);
    if (!found || open < 0 || found.index - open > 4000) continue;
    const head = text.slice(open, found.index);
    if (!/\/FlateDecode\b/.test(head)) continue;
    const from = found.index + found[0].length;
    const length = /\/Length\s+(\d+)(?!\s+\d+\s+R)/.exec(head);
    const end = length ? from + Number(length[1]) : text.indexOf('endstream', from);
    if (isDamagedFlate(bytes.subarray(from, end < 0 ? bytes.length : end))) return true;
  }
  return false;
}
