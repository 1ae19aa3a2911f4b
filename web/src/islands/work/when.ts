const today = new Intl.DateTimeFormat('en-GB', { hour: '2-digit', minute: '2-digit' });
const day = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'short' });

/** `today 14:02`, `26 Nov`. */
export function whenWords(time: string, now = new Date()): string {
  const date = new Date(time);
  return date.toDateString() === now.toDateString() ? `today ${today.format(date)}` : day.format(date);
}
