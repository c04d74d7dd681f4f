import { open } from 'node:fs/promises';
import { extname } from 'node:path';
import type { FastifyReply } from 'fastify';
import { headLength, sniffedType, typeByEnding } from '../media/types.ts';
import { notFound } from './guard.ts';

/** Types of what the presses make; what people bring has the types of `media/types`. */
const madeTypes: Readonly<Record<string, string>> = {
  '.html': 'text/html; charset=utf-8',
  '.js': 'text/javascript; charset=utf-8',
  '.css': 'text/css; charset=utf-8',
  // A browser would draw XML, and run what is in it.
  '.xml': 'text/plain; charset=utf-8',
  '.md': 'text/plain; charset=utf-8',
  '.json': 'application/json; charset=utf-8',
  '.woff2': 'font/woff2',
  '.pdf': 'application/pdf',
  '.zip': 'application/zip',
  '.epub': 'application/epub+zip',
};
const unknownType = 'application/octet-stream';

/**
 * What a page may do that was made of what people wrote: run the scripts that came with it, in an
 * origin of its own, so that nothing of the application is within its reach (HTML Standard,
 * sandboxing; CSP 3, 6.2.4). Links may open windows, and pages be printed.
 */
const apart = 'sandbox allow-scripts allow-popups allow-popups-to-escape-sandbox allow-modals';
const nothing = "default-src 'none'; base-uri 'none'; form-action 'none'";

/** @param framedBy the origin that may show it in a frame */
function policyFor(type: string, isOnePage: boolean, framedBy: string): string {
  const framed = `frame-ancestors ${framedBy}`;
  // The viewer of a browser refuses to open a PDF in a sandbox; a PDF has no access to the page it
  // came from.
  if (type === 'application/pdf') return `${nothing}; ${framed}`;
  if (!type.startsWith('text/html'))
    return `${nothing}; style-src 'unsafe-inline'; img-src data:; sandbox; ${framed}`;
  // One page has its styles, faces and images in it, and no script at all.
  const loads = isOnePage
    ? "style-src 'unsafe-inline'; img-src data:; font-src data:; media-src data:"
    : "script-src 'self'; style-src 'self'; style-src-attr 'unsafe-inline'; img-src 'self' " +
      "data:; font-src 'self'; media-src 'self'";
  return `${nothing}; ${loads}; ${apart}; ${framed}`;
}

export interface Sending {
  /** Its name, where it lies under another; its ending says what it is. */
  readonly name?: string;
  /** The name under which it is downloaded; left out where it is shown. */
  readonly downloadName?: string;
  /** Whether it is a page with all in it. */
  readonly isOnePage?: boolean;
  /** The origin that may show it in a frame; that of the address itself where there is none. */
  readonly framedBy?: string;
}

/** Says what an answer is and what it may do. @param head its first bytes */
function withHeaders(
  path: string,
  head: Uint8Array,
  reply: FastifyReply,
  { downloadName, isOnePage = false, framedBy = "'self'" }: Sending,
): FastifyReply {
  const ending = extname(path).toLowerCase();
  const brought = typeByEnding(ending);
  // A file that begins otherwise than its ending says is not shown at all.
  const isWhatItSays = brought === undefined || sniffedType(head) === brought || ending === '.svg';
  const type = isWhatItSays ? (brought ?? madeTypes[ending] ?? unknownType) : unknownType;
  const isShown = type !== unknownType && downloadName === undefined;
  const named =
    downloadName === undefined ? '' : `; filename*=UTF-8''${encodeURIComponent(downloadName)}`;
  return reply
    .header('content-security-policy', policyFor(type, isOnePage, framedBy))
    .header('x-content-type-options', 'nosniff')
    .header('cache-control', 'no-store')
    .header('content-disposition', isShown ? 'inline' : `attachment${named}`)
    .removeHeader('x-frame-options')
    .type(type);
}

/**
 * Sends a file as it lies there. Only the presses and the stores of the server have written it, but
 * people brought what is in it.
 */
export async function sendFile(
  path: string,
  reply: FastifyReply,
  sending: Sending = {},
): Promise<FastifyReply> {
  const file = await open(path).catch(() => undefined);
  if (!file) throw notFound('file');
  try {
    if (!(await file.stat()).isFile()) throw notFound('file');
    const head = Buffer.alloc(headLength);
    await file.read(head, 0, headLength, 0);
    withHeaders(sending.name ?? path, head, reply, sending);
  } catch (error) {
    await file.close();
    throw error;
  }
  return reply.send(file.createReadStream({ start: 0 }));
}

/** Sends what was made or read for this answer. */
export function sendMade(
  path: string,
  content: string | Uint8Array,
  reply: FastifyReply,
  sending: Sending = {},
): FastifyReply {
  const bytes = Buffer.from(content);
  return withHeaders(path, bytes, reply, sending).send(bytes);
}
