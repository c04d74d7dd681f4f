/** Schemes that a reader's program may safely open. */
const openSchemes = /^(https?|mailto|tel|ftp):/iu;

/** `URL` of the WHATWG, which browsers and Node have alike. */
declare const URL: new (href: string) => { readonly href: string; readonly host: string };

/** Whether a reference leads to the web, or to a program that writes or calls. */
export const leadsOutside = (href: string): boolean => openSchemes.test(href);

/** What an address may be written with (RFC 3986, 2), every percent sign before two digits. */
const wellWritten = /^(?:[\w\-.~:/?#@!$&'()*+,;=]|%[\da-f]{2})*$/iu;
/** What the parser of URLs leaves as it is, and RFC 3986 does not allow beside the host. */
const illegal = /%(?![\da-f]{2})|[[\]\\^`{|}<>" ]/giu;

/**
 * An address as it may stand in a link: one that is well written as it is, others with what is
 * illegal percent-encoded (URL Standard, 4.4; RFC 3986, 2.1).
 * @returns undefined where it cannot be read
 */
export function webAddress(href: string): string | undefined {
  const url = parse(href);
  if (!url || wellWritten.test(href)) return url && href;
  const path = url.host === '' ? 0 : url.href.indexOf(url.host) + url.host.length;
  return url.href.slice(0, path) + url.href.slice(path).replace(illegal, encodeURIComponent);
}

function parse(href: string): { readonly href: string; readonly host: string } | undefined {
  try {
    return new URL(href);
  } catch {
    return undefined;
  }
}
