import type { Request } from 'express';

/** A query as it stands behind an address. */
export const queryAddress = (query: Request['query']): URLSearchParams =>
  new URLSearchParams(
    Object.entries(query).flatMap(([name, value]) =>
      [value ?? []].flat().map((each) => [name, String(each)] as [string, string]),
    ),
  );

/** The same query from the next page on. A reader that gives its token in the address goes on by it. */
export function nextPage(query: Request['query'], place: string, from: string): URLSearchParams {
  const address = queryAddress(query);
  address.set(place, from);
  return address;
}
