const clock = new Intl.DateTimeFormat('en-GB', { hour: '2-digit', minute: '2-digit' });
const day = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'short', year: 'numeric' });

/** `today 14:02`, `yesterday 9:15`, `26 Nov 2026`; with `exact`, `26 Nov 2026 14:02`. */
export function whenWords(time: string | number | Date, { now = new Date(), exact = false }: { now?: Date; exact?: boolean } = {}): string {
  const date = new Date(time);
  const before = new Date(now);
  before.setDate(now.getDate() - 1);
  if (date.toDateString() === now.toDateString()) return `today ${clock.format(date)}`;
  if (date.toDateString() === before.toDateString()) return `yesterday ${clock.format(date)}`;
  return exact ? `${day.format(date)} ${clock.format(date)}` : day.format(date);
}
