const two = (n: number) => String(n).padStart(2, '0');

/** The day of an ISO text, for a calendar; null: it is none. */
export function dayFrom(text: string): Date | null {
  const [, year, month, day] = /^(\d{4})-(\d{2})-(\d{2})$/.exec(text.trim())?.map(Number) ?? [];
  const date = new Date(year, month - 1, day);
  return date.getMonth() === month - 1 ? date : null;
}

/** The ISO text of a calendar's day, wherever the clock stands; "" for none. */
export const dayText = (day: Date | string | null): string => (day instanceof Date ? `${String(day.getFullYear()).padStart(4, '0')}-${two(day.getMonth() + 1)}-${two(day.getDate())}` : (day ?? ''));
