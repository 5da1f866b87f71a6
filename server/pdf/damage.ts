import {
  PDFArray,
  PDFDict,
  PDFDocument,
  PDFName,
  PDFNull,
  PDFNumber,
  PDFRawStream,
  PDFRef,
  type PDFObject,
} from '@cantoo/pdf-lib';
import { isWholeContent } from './content-syntax';
import { constants, inflateRawSync, inflateSync } from 'node:zlib';

/** What a damaged stream makes doubtful. */
export type Doubtful = 'its size' | 'what is printed on it' | 'the letters of a font' | 'a part that is drawn in it';

/** By page, from 1: what of it cannot be trusted. `objects`: the file's own list of its parts is damaged, so anything may be missing. */
export interface Damage {
  readonly pages: ReadonlyMap<number, ReadonlySet<Doubtful>>;
  readonly objects: boolean;
  /** How many pages its page tree holds, and how often it lists the one that it lists most. */
  readonly pageCount: number;
  readonly mostListed: number;
  /** Pages that draw without end: states saved in states, or forms in forms, far beyond what a page needs. */
  readonly endless: ReadonlySet<number>;
}

const name = (text: string) => PDFName.of(text);
const [kids, contents, resources, font, xobject, subtype, filter] = [
  'Kids',
  'Contents',
  'Resources',
  'Font',
  'XObject',
  'Subtype',
  'Filter',
].map(name);
const form = name('Form');
const [flate, ascii85, asciiHex] = [
  ['FlateDecode', 'Fl'],
  ['ASCII85Decode', 'A85'],
  ['ASCIIHexDecode', 'AHx'],
].map((names) => new Set(names.map(name)));
/** Streams of a font that tell its letters and their widths. */
const fontStreams = ['ToUnicode', 'Encoding', 'FontFile', 'FontFile2', 'FontFile3'].map(name);

/** The kinds of fonts there are (PDF 32000-1, tables 111 and 113). */
const fontKinds = new Set(['Type0', 'Type1', 'MMType1', 'TrueType', 'Type3', 'CIDFontType0', 'CIDFontType2'].map(name));
const [type3, type0] = ['Type3', 'Type0'].map(name);
/** How streams may be written (PDF 32000-1, table 6), with the short names of inline pictures. */
const filters = new Set(
  [
    'FlateDecode',
    'Fl',
    'LZWDecode',
    'LZW',
    'ASCII85Decode',
    'A85',
    'ASCIIHexDecode',
    'AHx',
    'RunLengthDecode',
    'RL',
    'CCITTFaxDecode',
    'CCF',
    'DCTDecode',
    'DCT',
    'JPXDecode',
    'JBIG2Decode',
    'Crypt',
  ].map(name),
);
const otherStreams = new Set(
  ['ObjStm', 'XRef', 'Metadata', 'XML', 'Image', 'Type1C', 'CIDFontType0C', 'OpenType'].map(name),
);
/** The largest unit of a page, in points: 1,800 km a side with it. */
const largestUnit = 75_000;

/** What is drawn is looked through up to so many bytes; what is longer is told by its sum alone. */
const longestText = 16_000_000;

/** Pages and forms are not looked into further than this: a file that goes on has a circle in it. */
const mostPages = 100_000;
const deepest = 30;
/** States saved in one another; a reader need keep 28 (PDF 32000-1, annex C). */
const deepestStates = 1000;
/** Forms drawn on one page, those within forms counted as often as they are drawn. */
const mostDrawn = 20_000;

/**
 * Looks which compressed streams that pages use are not what was written: they hold a sum of their bytes (Adler-32). A stream
 * that ends whole but lacks the end of its sum is sound: some writers count it short.
 * @param looked hears of every page that was looked at
 * @returns what is damaged; `encrypted` where nothing can be told; undefined where the parts of the file cannot be told apart
 */
export async function damageOf(
  bytes: Uint8Array,
  looked: () => void = () => undefined,
): Promise<Damage | 'encrypted' | undefined> {
  try {
    const document = await PDFDocument.load(bytes, {
      updateMetadata: false,
      ignoreEncryption: true,
      throwOnInvalidObject: false,
      warnOnInvalidObjects: false,
    });
    return document.isEncrypted
      ? 'encrypted'
      : { ...new Look(document, looked).pages(), objects: hasDamagedObjects(bytes) || hasDamagedTags(document) };
  } catch {
    return undefined;
  }
}

class Look {
  /** Streams looked at before: many pages use the same fonts. */
  private readonly known = new Map<PDFRawStream, boolean>();
  private readonly fonts = new Map<PDFObject, boolean>();

  constructor(
    private readonly document: PDFDocument,
    private readonly looked: () => void,
  ) {}

  pages(): Pick<Damage, 'pages' | 'pageCount' | 'mostListed' | 'endless'> {
    const found = new Map<number, Set<Doubtful>>();
    const endless = new Set<number>();
    const listed = new Map<PDFDict, number>();
    let number = 0;
    const walk = (node: PDFDict, inherited: PDFDict | undefined, sized: boolean, seen: ReadonlySet<PDFDict>): void => {
      if (seen.has(node) || number >= mostPages) return;
      const own = this.dict(node.get(resources)) ?? inherited;
      const hasBox = sized || node.get(name('MediaBox')) !== undefined;
      const children = this.array(node.get(kids));
      if (children)
        return children.forEach(
          (child) => void (this.dict(child) && walk(this.dict(child)!, own, hasBox, new Set([...seen, node]))),
        );
      number++;
      this.looked();
      this.texts.clear();
      listed.set(node, (listed.get(node) ?? 0) + 1);
      if (listed.get(node)! > 1) return;
      if (this.isEndless(node, own)) endless.add(number);
      const doubts = this.doubtsOf(node, own);
      if (!hasBox) doubts.add('its size');
      if (doubts.size > 0) found.set(number, doubts);
    };
    const root = this.dict(this.document.catalog.get(name('Pages')));
    if (root) walk(root, undefined, false, new Set());
    return { pages: found, pageCount: number, mostListed: Math.max(0, ...listed.values()), endless };
  }

  private isEndless(page: PDFDict, own: PDFDict | undefined): boolean {
    const printed = this.object(page.get(contents));
    let drawn = 0;
    for (const each of printed instanceof PDFArray ? printed.asArray() : [printed]) {
      const stream = this.object(each);
      if (stream instanceof PDFRawStream) drawn += this.drawnBy(stream, own, 0);
    }
    return drawn > mostDrawn;
  }

  private readonly drawnKnown = new Map<PDFRawStream, number>();

  /** How many forms a stream draws, those within them counted each time; more than any page where states are nested too deep. */
  private drawnBy(stream: PDFRawStream, own: PDFDict | undefined, depth: number): number {
    const known = this.drawnKnown.get(stream);
    if (known !== undefined) return known;
    // A form that draws itself is met again while it is counted.
    this.drawnKnown.set(stream, Infinity);
    let count = depth > deepest ? Infinity : 0;
    const text = this.textOf(stream);
    if (statesIn(text) > deepestStates) count = Infinity;
    const forms = own && this.dict(own.get(xobject));
    for (const { 1: called } of count === 0 && forms ? text.matchAll(/\/([^\s/<>[\]()]+)\s+Do\b/g) : []) {
      const drawn = this.object(forms!.get(name(called)));
      if (drawn instanceof PDFRawStream && drawn.dict.get(subtype) === form)
        count += 1 + this.drawnBy(drawn, this.dict(drawn.dict.get(resources)) ?? own, depth + 1);
      if (count > mostDrawn) break;
    }
    this.drawnKnown.set(stream, count);
    return count;
  }

  /** What was drawn by the streams of the page that is looked at: it is asked for several times. */
  private readonly texts = new Map<PDFRawStream, string>();

  /** What a stream draws, as text; empty where it cannot be had here. */
  private textOf(stream: PDFRawStream): string {
    let text = this.texts.get(stream);
    if (text === undefined) this.texts.set(stream, (text = this.inflated(stream)));
    return text;
  }

  private inflated(stream: PDFRawStream): string {
    const own = this.object(stream.dict.get(filter));
    if (own === undefined) return Buffer.from(stream.contents).toString('latin1');
    if (
      !flate.has((own instanceof PDFArray ? this.object(own.get(0)) : own) as PDFName) ||
      (own instanceof PDFArray && own.size() > 1)
    )
      return '';
    try {
      return inflateSync(stream.contents, {
        finishFlush: constants.Z_SYNC_FLUSH,
        maxOutputLength: longestText,
      }).toString('latin1');
    } catch {
      return '';
    }
  }

  private doubtsOf(page: PDFDict, own: PDFDict | undefined): Set<Doubtful> {
    const doubts = new Set<Doubtful>();
    const printed = this.object(page.get(contents));
    const contentsOf = printed instanceof PDFArray ? printed.asArray() : [page.get(contents)];
    // What is listed as a page, and is none, is another object under its number.
    if (page.get(name('Type')) !== name('Page')) doubts.add('what is printed on it');
    const box = this.array(page.get(name('MediaBox')));
    if (box && !(box.length === 4 && box.every((each) => this.object(each) instanceof PDFNumber)))
      doubts.add('its size');
    const unit = this.object(page.get(name('UserUnit')));
    if (unit !== undefined && !(unit instanceof PDFNumber && unit.asNumber() > 0 && unit.asNumber() <= largestUnit))
      doubts.add('its size');
    for (const each of contentsOf) {
      // What is to be drawn is something else.
      const drawn = this.object(each);
      if (
        this.isDamaged(each) ||
        (each !== undefined && each !== PDFNull && !(drawn instanceof PDFRawStream && !this.isOfAnotherKind(drawn)))
      )
        doubts.add('what is printed on it');
      if (this.lacksFont(each, own)) doubts.add('the letters of a font');
    }
    const drawn = contentsOf.map((each) => this.object(each));
    if (!this.isWhole(drawn.filter((each) => each instanceof PDFRawStream))) doubts.add('what is printed on it');
    if (page.get(resources) !== undefined && this.dict(page.get(resources)) === undefined)
      doubts.add('the letters of a font');
    if (own) this.inResources(own, doubts, new Set());
    return doubts;
  }

  private inResources(own: PDFDict, doubts: Set<Doubtful>, seen: Set<PDFDict>): void {
    if (seen.has(own) || seen.size > deepest) return;
    seen.add(own);
    for (const each of this.dict(own.get(font))?.values() ?? [])
      if (this.isDamagedFont(each)) doubts.add('the letters of a font');
    for (const each of this.dict(own.get(xobject))?.values() ?? []) {
      const drawn = this.object(each);
      if (!(drawn instanceof PDFRawStream) || drawn.dict.get(subtype) !== form) continue;
      if (this.isDamaged(drawn) || !this.isWhole([drawn])) doubts.add('a part that is drawn in it');
      const within = this.dict(drawn.dict.get(resources));
      if (this.lacksFont(drawn, within ?? own)) doubts.add('the letters of a font');
      if (within) this.inResources(within, doubts, seen);
    }
  }

  private readonly wholeKnown = new Map<PDFRawStream, boolean>();

  /** Do streams that are drawn one after the other make whole content? Yes where they cannot be had here. */
  private isWhole(streams: readonly PDFRawStream[]): boolean {
    const [first] = streams;
    const known = streams.length === 1 ? this.wholeKnown.get(first) : undefined;
    if (known !== undefined) return known;
    const texts = streams.map((stream) => this.textOf(stream));
    const whole = texts.some((text) => text === '') || isWholeContent(texts.join('\n'));
    if (streams.length === 1) this.wholeKnown.set(first, whole);
    return whole;
  }

  /** A stream that says that it is no page content: a picture, a font, a stream of objects, metadata. */
  private isOfAnotherKind({ dict }: PDFRawStream): boolean {
    return (
      otherStreams.has(dict.get(name('Type')) as PDFName) ||
      otherStreams.has(dict.get(subtype) as PDFName) ||
      dict.get(name('Length1')) !== undefined
    );
  }

  /** Are letters shown in a font that the page, or form, does not have? */
  private lacksFont(of: PDFObject | undefined, own: PDFDict | undefined): boolean {
    const stream = this.object(of);
    if (!(stream instanceof PDFRawStream)) return false;
    const has = this.dict(own?.get(font));
    return [...this.textOf(stream).matchAll(/(?<![^\s\])>])\/([^\s/<>[\]()]+)\s+-?[\d.]+\s+Tf\b/g)].some(
      ({ 1: called }) => has?.get(name(called)) === undefined,
    );
  }

  private isDamagedFont(of: PDFObject): boolean {
    // A font that is named and is not there.
    if (of instanceof PDFRef && this.object(of) === undefined) return true;
    const known = this.fonts.get(of);
    if (known !== undefined) return known;
    this.fonts.set(of, false);
    const own = this.dict(of);
    const descriptor = own && this.dict(own.get(name('FontDescriptor')));
    const descendants = own && this.array(own.get(name('DescendantFonts')));
    const damaged =
      !own ||
      this.isNoFont(own) ||
      this.isNoMap(own.get(name('ToUnicode'))) ||
      fontStreams.some((key) => this.isDamaged(own?.get(key)) || this.isDamaged(descriptor?.get(key))) ||
      (descendants ?? []).some((each) => this.isDamagedFont(each)) ||
      (this.dict(own.get(name('CharProcs')))?.values() ?? []).some(
        (each) => !(this.object(each) instanceof PDFRawStream) || this.isDamaged(each),
      );
    this.fonts.set(of, damaged);
    return damaged;
  }

  /** A stream that is to tell the letters of a font, and is none (Adobe technical note 5411). */
  private isNoMap(of: PDFObject | undefined): boolean {
    const stream = this.object(of);
    if (!(stream instanceof PDFRawStream)) return false;
    const text = this.textOf(stream);
    return text !== '' && !/\bendcmap\b/.test(text);
  }

  /** Does a font lack what each of its kind has, or is that something else? */
  private isNoFont(own: PDFDict): boolean {
    const kind = own.get(subtype) as PDFName;
    const isName = (key: string) => this.object(own.get(name(key))) instanceof PDFName;
    const isDict = (key: string) => own.get(name(key)) === undefined || this.dict(own.get(name(key))) !== undefined;
    if (!fontKinds.has(kind) || (own.get(name('Type')) !== undefined && own.get(name('Type')) !== font)) return true;
    if (kind === type3 ? this.dict(own.get(name('CharProcs'))) === undefined : !isName('BaseFont')) return true;
    return (
      (kind === type0 && this.array(own.get(name('DescendantFonts'))) === undefined) ||
      !isDict('FontDescriptor') ||
      (own.get(name('FontDescriptor')) !== undefined &&
        this.dict(own.get(name('FontDescriptor')))!.get(name('FontName')) === undefined &&
        kind !== type3) ||
      !(
        isName('ToUnicode') ||
        own.get(name('ToUnicode')) === undefined ||
        this.object(own.get(name('ToUnicode'))) instanceof PDFRawStream
      ) ||
      !(isName('Encoding') || isDict('Encoding'))
    );
  }

  private isDamaged(of: PDFObject | undefined): boolean {
    const stream = this.object(of);
    if (of instanceof PDFRef && stream === undefined) return true;
    if (!(stream instanceof PDFRawStream)) return false;
    let damaged = this.known.get(stream);
    if (damaged === undefined) this.known.set(stream, (damaged = this.isDamagedStream(stream)));
    return damaged;
  }

  /** Of streams that are compressed, or compressed and then written in letters; others hold no sum. */
  private isDamagedStream({ dict, contents: bytes }: PDFRawStream): boolean {
    const own = this.object(dict.get(filter));
    const [first, second, ...others] = (own instanceof PDFArray ? own.asArray() : [own]).map(
      (each) => this.object(each) as PDFName,
    );
    if ([first, second, ...others].some((each) => each !== undefined && !filters.has(each))) return true;
    if (flate.has(first)) return isDamagedFlate(bytes);
    if (!flate.has(second)) return false;
    const written = ascii85.has(first)
      ? fromAscii85(bytes)
      : asciiHex.has(first)
        ? Buffer.from(
            Buffer.from(bytes)
              .toString('latin1')
              .replace(/\s|>.*$/gs, ''),
            'hex',
          )
        : undefined;
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

/** How deep a page's states are saved in one another. */
function statesIn(text: string): number {
  let [depth, most] = [0, 0];
  for (const { 0: operator } of text.matchAll(/(?<![^\s\])>])[qQ](?=\s|$)/g)) {
    depth = operator === 'q' ? depth + 1 : Math.max(0, depth - 1);
    if (depth > most) most = depth;
  }
  return most;
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
    // It ended too early: of what was printed, or only of the sum behind it? What is there of the sum must be right; without any of it nothing is known.
    const { buffer, engine } = inflateRawSync(bytes.subarray(2), { info: true }) as unknown as {
      buffer: Buffer;
      engine: { bytesWritten: number };
    };
    const sum = adler32(buffer);
    const rest = bytes.subarray(2 + engine.bytesWritten);
    return rest.length === 0 || rest.length >= 4 || rest.some((byte, i) => byte !== sum[i]);
  } catch {
    return true;
  }
}

/** The sum of bytes that stands behind a compressed text (RFC 1950), most significant byte first. */
function adler32(bytes: Uint8Array): number[] {
  let [a, b] = [1, 0];
  for (const byte of bytes) {
    a = (a + byte) % 65_521;
    b = (b + a) % 65_521;
  }
  return [b >> 8, b & 255, a >> 8, a & 255];
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

/** Tags are looked through no further than this. */
const mostTags = 200_000;

/** Do the tags of a file, by which tables are read too, lead to something else than tags, content of a page, and pages? */
function hasDamagedTags(document: PDFDocument): boolean {
  const object = (of: PDFObject | undefined) => (of instanceof PDFRef ? document.context.lookup(of) : of);
  const root = object(document.catalog.get(name('StructTreeRoot')));
  if (!(root instanceof PDFDict)) return false;
  const [below, page, kind, type] = ['K', 'Pg', 'S', 'Type'].map(name);
  const contents = new Set(['MCR', 'OBJR'].map(name));
  const waiting: PDFObject[] = [root];
  const seen = new Set<PDFObject>();
  for (let tag = waiting.pop(); tag && seen.size < mostTags; tag = waiting.pop()) {
    if (!(tag instanceof PDFDict) || seen.has(tag)) continue;
    seen.add(tag);
    const on = tag.get(page);
    const shown = object(on);
    if (on !== undefined && !(shown instanceof PDFDict && shown.get(type) === name('Page'))) return true;
    const children = object(tag.get(below));
    for (const child of children instanceof PDFArray ? children.asArray() : [tag.get(below)]) {
      const of = object(child);
      if (
        of === undefined
          ? child !== undefined
          : !(
              of instanceof PDFNumber ||
              of === PDFNull ||
              (of instanceof PDFDict && (of.get(kind) instanceof PDFName || contents.has(of.get(type) as PDFName)))
            )
      )
        return true;
      if (of instanceof PDFDict) waiting.push(of);
    }
  }
  return false;
}

/** Streams that hold other objects, or tell where they stand. */
const ofObjects = /\/Type\s*\/(?:ObjStm|XRef)\b/g;

/** What of a file is not written as objects are: streams, texts (with brackets in them one deep) and remarks. */
const notWritten = /\bstream\r?\n[\s\S]*?endstream|\((?:\\[\s\S]|[^\\()]|\((?:\\[\s\S]|[^\\()])*\))*\)|%[^\r\n]*/g;

/**
 * Does a list of where objects stand lead to some of them, and to others not? Where it leads to none, readers look for the
 * objects themselves; where it leads to most, they take the others for blank.
 */
function listsAmiss(text: string): boolean {
  for (const { index, 0: word } of text.matchAll(/\bxref\s+(?=\d+ \d+\s)/g)) {
    let [right, wrong] = [0, 0];
    let number = 0;
    const line = /(\d+) (\d+)(?: ([nf]))?\s*/y;
    line.lastIndex = index + word.length;
    for (let found = line.exec(text); found; found = line.exec(text)) {
      const [, first, second, kind] = found;
      if (kind === undefined) number = Number(first);
      else {
        if (kind === 'n') {
          const object = new RegExp(`^\\s*${number}\\s+${Number(second)}\\s+obj\\b`);
          if (object.test(text.slice(Number(first), Number(first) + 40))) right++;
          else wrong++;
        }
        number++;
      }
    }
    if (right > 0 && wrong > 0) return true;
  }
  return false;
}

/**
 * Is a stream damaged in which the file keeps its objects (they are found by what is written before them), or are there
 * characters in an object that no writer puts there?
 */
function hasDamagedObjects(bytes: Uint8Array): boolean {
  const text = Buffer.from(bytes.buffer, bytes.byteOffset, bytes.length).toString('latin1');
  if (/[\0-\x08\x0b\x0e-\x1f]/.test(text.slice(text.indexOf('%PDF-')).replace(notWritten, ''))) return true;
  if (listsAmiss(text)) return true;
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
