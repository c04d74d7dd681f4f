/** Control characters that XML allows to be written but no output can show, and marks that turn the direction of text around them. */

const unprintable = /[\u0000-\u0008\u000B\u000C\u000E-\u001F\u007F-\u009F\u202A-\u202E\u2066-\u2069\uFEFF\uFFFE\uFFFF]/gu;

/** Text without characters that would break a page or hide what it says. */
export function printable(text: string): string {
  return text.replace(unprintable, '');
}
