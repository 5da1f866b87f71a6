// Which statements another program may send: those that look, and those that set how the answer looks. What a reader may
// not touch is closed by its role; here is kept out what would change the role itself, or what outlives one asker's turn.

/** Settings that are an asker's own affair. */
export const ownSettings: ReadonlySet<string> = new Set([
  'application_name',
  'bytea_output',
  'client_min_messages',
  'datestyle',
  'default_transaction_deferrable',
  'default_transaction_isolation',
  'default_transaction_read_only',
  'extra_float_digits',
  'intervalstyle',
  'search_path',
  'statement_timeout',
  'lock_timeout',
  'idle_in_transaction_session_timeout',
  'timezone',
  'transaction_isolation',
  'work_mem',
  'enable_seqscan',
  'jit',
  'row_security',
  'synchronize_seqscans',
]);

const looking = new Set([
  'select',
  'with',
  'values',
  'table',
  'show',
  'explain',
  '(',
  'begin',
  'start',
  'commit',
  'end',
  'rollback',
  'abort',
  'savepoint',
  'release',
  'fetch',
  'move',
  'close',
  'deallocate',
  'unlisten',
  'declare',
  'set',
  'reset',
  'copy',
]);

/** A word, a name or text in its quotes, a mark. Words are in small letters. */
type Token = string;

/**
 * The tokens of each statement of a script, parted at semicolons, as PostgreSQL reads them (SQL syntax, lexical structure):
 * nested comments, quotes, quotes with escapes, dollar quotes.
 * @returns undefined where a quote or comment has no end
 */
export function statementsOf(sql: string): Token[][] | undefined {
  const statements: Token[][] = [[]];
  const token =
    /\s+|--[^\n\r]*|(?<block>\/\*)|(?<escaped>[eE]'(?:[^'\\]|\\[\s\S]|'')*')|(?:[bBxXnN]|[uU]&)?'(?:[^']|'')*'|(?:[uU]&)?(?<name>"(?:[^"]|"")*")|(?<dollar>\$(?:[A-Za-z_\u0080-\uffff][\w\u0080-\uffff]*)?\$)|\$\d+|(?<word>[A-Za-z_\u0080-\uffff][\w$\u0080-\uffff]*)|[\d.]+|(?<end>;)|(?<mark>[^'"])/y;
  for (let at = 0; at < sql.length;) {
    token.lastIndex = at;
    const found = token.exec(sql);
    if (!found) return undefined;
    at = token.lastIndex;
    const { block, dollar, word, end, name, mark } = found.groups!;
    const statement = statements.at(-1)!;
    if (block) {
      const after = endOfComment(sql, at);
      if (after === undefined) return undefined;
      at = after;
    } else if (dollar) {
      const close = sql.indexOf(dollar, at);
      if (close < 0) return undefined;
      statement.push(sql.slice(token.lastIndex - dollar.length, (at = close + dollar.length)));
    } else if (end) statements.push([]);
    else if (word) statement.push(word.toLowerCase());
    else if (name) statement.push(name);
    else if (mark) statement.push(mark);
    else if (/\S/.test(found[0]) && !found[0].startsWith('--')) statement.push(found[0]);
  }
  return statements.filter((each) => each.length > 0);
}

/** Where a comment ends that has begun before; comments stand within comments. */
function endOfComment(sql: string, from: number): number | undefined {
  const edge = /\/\*|\*\//g;
  edge.lastIndex = from;
  for (let depth = 1; ;) {
    const found = edge.exec(sql);
    if (!found) return undefined;
    depth += found[0] === '/*' ? 1 : -1;
    if (depth === 0) return edge.lastIndex;
  }
}

/** What a script asks for beside rows. */
export interface Understood {
  /** Why it is not run. */
  readonly refused?: string;
  /** It may have changed how the answers look from here on. */
  readonly sets: boolean;
  /** Prepared statements that it lets go: their names, or "all". */
  readonly lets: readonly string[];
}

/** Is every statement of the script one that looks? */
export function understood(sql: string): Understood {
  const statements = statementsOf(sql);
  if (!statements) return refusal('a quote or comment in the statement has no end');
  for (const statement of statements) {
    const refused = refusalOf(statement);
    if (refused !== undefined) return refusal(refused);
  }
  return {
    sets: statements.some(([first]) => first === 'set' || first === 'reset'),
    lets: statements.flatMap(([first, ...rest]) => (first === 'deallocate' ? [unquoted(rest.at(-1) ?? '')] : [])),
  };
}

const refusal = (refused: string): Understood => ({ refused, sets: false, lets: [] });

const unquoted = (name: string) => (name.startsWith('"') ? name.slice(1, -1).replaceAll('""', '"') : name);

function refusalOf([first, ...rest]: Token[]): string | undefined {
  if (!looking.has(first))
    return `${first.toUpperCase()} is not run here: the published datasets can be read with SELECT, and nothing else`;
  switch (first) {
    case 'set':
    case 'reset':
      return settingRefused(rest);
    case 'copy': {
      const outside = outsideBrackets(rest);
      return outside.includes('to') &&
        outside.includes('stdout') &&
        !outside.includes('from') &&
        !outside.includes('program')
        ? undefined
        : 'COPY writes here to STDOUT only';
    }
    case 'declare':
      return outsideBrackets(rest).join(' ').includes('with hold')
        ? 'a cursor WITH HOLD is not kept here: declare it within a transaction'
        : undefined;
    default:
      return undefined;
  }
}

/** `set [session | local] NAME = ...`, `set transaction ...`, `set time zone ...`, `set names ...`, `reset NAME | all`. */
function settingRefused(tokens: Token[]): string | undefined {
  const words =
    tokens[0] === 'session' && tokens[1] === 'characteristics'
      ? ['transaction']
      : tokens[0] === 'session' || tokens[0] === 'local'
        ? tokens.slice(1)
        : tokens;
  const name = unquoted(words[0] ?? '').toLowerCase();
  // Another encoding would hide quotes in letters.
  if (name === 'names' || name === 'client_encoding')
    return /^'?(?:utf-?8|unicode|default)'?$/i.test(words.at(-1)!) ? undefined : 'texts go as UTF8 here';
  if (['transaction', 'all'].includes(name) || (name === 'time' && words[1] === 'zone')) return undefined;
  if (ownSettings.has(name) && words[1] !== '.') return undefined;
  return `"${name}" cannot be set here`;
}

function outsideBrackets(tokens: readonly Token[]): Token[] {
  let depth = 0;
  return tokens.filter((token) => {
    if (token === '(') depth++;
    else if (token === ')') depth--;
    else return depth === 0;
    return false;
  });
}
