/**
 * The PDF parser, the one place that loads it. Its build for this Node brings replacements for what older engines lack,
 * and puts some of them over what the engine has (JSON, pushing to arrays, regular expressions), many times slower for
 * the whole thread. So everything the engine had before is put back; only what it lacked stays added.
 */
const constructors = [
  Object,
  Function,
  Array,
  String,
  Number,
  RegExp,
  Promise,
  Map,
  Set,
  WeakMap,
  WeakSet,
  Symbol,
  Error,
  Date,
  ArrayBuffer,
  DataView,
  Uint8Array,
  URL,
  URLSearchParams,
];
const typedArray = Object.getPrototypeOf(Uint8Array) as { prototype: object };
const arrayIterator = Object.getPrototypeOf([][Symbol.iterator]()) as object;
const owners: object[] = [
  globalThis,
  JSON,
  Math,
  Reflect,
  arrayIterator,
  typedArray,
  typedArray.prototype,
  ...constructors,
  ...constructors.map((each) => each.prototype as object),
];

const before = owners.map((owner) => ({
  owner,
  own: Object.getOwnPropertyDescriptors(owner) as Record<PropertyKey, PropertyDescriptor>,
}));

const loaded = await import('pdfjs-dist/legacy/build/pdf.mjs');
// The parser would load its worker's part when the first file is opened, and with it the replacements once more.
await import('pdfjs-dist/legacy/build/pdf.worker.mjs' as string);

for (const { owner, own } of before)
  for (const key of Reflect.ownKeys(own)) {
    const now = Object.getOwnPropertyDescriptor(owner, key);
    const had = own[key];
    if (had.configurable && (now?.value !== had.value || now?.get !== had.get)) Object.defineProperty(owner, key, had);
  }

export const pdfjs = loaded;
