/** What a table says of a name that somebody wrote: never what every object has, such as `constructor`. */
export const own = <Value>(table: Readonly<Record<string, Value>>, name: string): Value | undefined =>
  Object.hasOwn(table, name) ? table[name] : undefined;
