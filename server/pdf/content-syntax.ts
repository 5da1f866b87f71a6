// The grammar of what a page draws (PDF 32000-1, 7.8.2 and annex A), as far as it tells that something was lost.

/** Operators, each with what the last of its operands must be: n a number, s a string, a an array, / a name; * anything. */
const operators: ReadonlyMap<string, string> = new Map(
  Object.entries({
    b: '',
    B: '',
    'b*': '',
    'B*': '',
    BDC: '*',
    BI: '',
    BMC: '*',
    BT: '',
    BX: '',
    c: 'nnnnnn',
    cm: 'nnnnnn',
    CS: '/',
    cs: '/',
    d: 'an',
    d0: 'nn',
    d1: 'nnnnnn',
    Do: '/',
    DP: '*',
    EI: '',
    EMC: '',
    ET: '',
    EX: '',
    f: '',
    F: '',
    'f*': '',
    G: 'n',
    g: 'n',
    gs: '/',
    h: '',
    i: 'n',
    ID: '',
    j: 'n',
    J: 'n',
    K: 'nnnn',
    k: 'nnnn',
    l: 'nn',
    m: 'nn',
    M: 'n',
    MP: '*',
    n: '',
    q: '',
    Q: '',
    re: 'nnnn',
    RG: 'nnn',
    rg: 'nnn',
    ri: '/',
    s: '',
    S: '',
    SC: '*',
    sc: '*',
    SCN: '*',
    scn: '*',
    sh: '/',
    'T*': '',
    Tc: 'n',
    Td: 'nn',
    TD: 'nn',
    Tf: '/n',
    Tj: 's',
    TJ: 'a',
    TL: 'n',
    Tm: 'nnnnnn',
    Tr: 'n',
    Ts: 'n',
    Tw: 'n',
    Tz: 'n',
    v: 'nnnn',
    w: 'n',
    W: '',
    'W*': '',
    y: 'nnnn',
    "'": 's',
    '"': 'nns',
  }),
);

const word = /[^\0\t\n\f\r ()<>[\]{}/%]+/y;
const number = /^[-+]*\d*\.?\d*(?:-+\d*)?$/;
/** An inline picture: its bytes run to an EI that stands alone. */
const picture = /[\0\t\n\f\r ]EI(?=[\0\t\n\f\r ]|$)/g;

/**
 * Is a page's content whole: does no string, array or picture run over its end, is every operator one that there is, with
 * operands that it can have? What lies between BX and EX may be of a later time.
 */
export function isWholeContent(text: string): boolean {
  let operands = '';
  /** Kinds of operands before each array or dictionary that is open. */
  const open: string[] = [];
  let compatible = 0;
  for (let i = 0; i < text.length;) {
    const c = text[i];
    if (c <= ' ') i++;
    else if (c === '%') {
      while (i < text.length && text[i] !== '\n' && text[i] !== '\r') i++;
    } else if (c === '(') {
      let depth = 0;
      do {
        if (i >= text.length) return false;
        if (text[i] === '\\') i++;
        else if (text[i] === '(') depth++;
        else if (text[i] === ')') depth--;
        i++;
      } while (depth > 0);
      operands += 's';
    } else if (c === '[' || (c === '<' && text[i + 1] === '<')) {
      open.push(operands);
      operands = '';
      i += c === '[' ? 1 : 2;
    } else if (c === ']' || (c === '>' && text[i + 1] === '>')) {
      const before = open.pop();
      if (before === undefined) return false;
      operands = `${before}${c === ']' ? 'a' : 'd'}`;
      i += c === ']' ? 1 : 2;
    } else if (c === '<') {
      const end = text.indexOf('>', i);
      if (end < 0 || /[^0-9A-Fa-f\0\t\n\f\r ]/.test(text.slice(i + 1, end))) return false;
      operands += 's';
      i = end + 1;
    } else if (c === '/') {
      word.lastIndex = i + 1;
      i += 1 + (word.exec(text)?.[0].length ?? 0);
      operands += '/';
    } else {
      word.lastIndex = i;
      const found = word.exec(text)?.[0];
      // A bracket that closes nothing.
      if (found === undefined) return compatible > 0;
      i += found.length;
      if (number.test(found)) operands += 'n';
      else if (found === 'true' || found === 'false' || found === 'null') operands += 'k';
      else {
        const wanted = operators.get(found);
        if (found === 'BX') compatible++;
        if (found === 'EX') compatible--;
        if (
          open.length > 0 ||
          (compatible <= 0 && (wanted === undefined || (wanted !== '*' && !operands.endsWith(wanted))))
        )
          return false;
        operands = '';
        if (found === 'ID') {
          picture.lastIndex = i;
          const end = picture.exec(text);
          if (!end) return false;
          i = end.index + end[0].length;
        }
      }
    }
  }
  return open.length === 0;
}
