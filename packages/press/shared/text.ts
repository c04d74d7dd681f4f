/**
 * Control characters that XML allows to be written but no output can show, and marks that turn the
 * direction of text around them.
 */
const unprintable = new RegExp(
  String.raw`[\u0000-\u0008\u000B\u000C\u000E-\u001F\u007F-\u009F` +
    String.raw`\u202A-\u202E\u2066-\u2069\uFEFF\uFFFE\uFFFF]`,
  'gu',
);

/**
 * Marks that stand on one letter, beyond those of any language: the longest known has 18, and the
 * Stream-Safe Text Format takes 30 (UAX #15, 13). A page engine takes the square of their number,
 * which with thousands of them are minutes.
 */
const toppling = /(\p{M}{30})\p{M}+/gu;

/** Text without characters that would break a page or hide what it says. */
export function printable(text: string): string {
  return text.replace(unprintable, '').replace(toppling, '$1');
}

/** A day of the calendar as it is written in ISO 8601, at midnight UTC. */
export function dayOf(text: string): Date | undefined {
  const day = /^\d{4}-\d{2}-\d{2}$/u.test(text) ? new Date(`${text}T00:00:00Z`) : undefined;
  return day === undefined || Number.isNaN(day.getTime()) ? undefined : day;
}

/** In which direction a language is written. */
export const directionOf = (locale: string): 'rtl' | 'ltr' =>
  ['ar', 'he', 'fa', 'ur'].includes(locale.split('-')[0]!.toLowerCase()) ? 'rtl' : 'ltr';
