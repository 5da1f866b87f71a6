/** A moment of the database as a short day and time of this machine's place. */
export function dayOf(moment: string): string {
  const date = new Date(moment.replace(' ', 'T').replace(/([+-]\d\d)$/, '$1:00'));
  return Number.isNaN(date.getTime()) ? moment : date.toLocaleString('en-GB', { day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit' });
}

/** The part of a period that tells it from its neighbours. */
export function shortPeriod(period: string): string {
  const week = /-W(\d\d)$/.exec(period);
  if (week) return `wk ${Number(week[1])}`;
  const quarter = /-Q(\d)$/.exec(period);
  if (quarter) return `Q${quarter[1]}`;
  const month = /^\d{4}-(\d\d)$/.exec(period);
  return month ? ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec'][Number(month[1]) - 1] : period;
}

export const plural = (count: number, one: string, many = `${one}s`) => `${count.toLocaleString('en')} ${count === 1 ? one : many}`;
