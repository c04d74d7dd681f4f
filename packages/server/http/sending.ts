import { createReadStream } from 'node:fs';
import { stat } from 'node:fs/promises';
import { extname } from 'node:path';
import type { FastifyReply } from 'fastify';
import { notFound } from './guard.ts';

const types: Readonly<Record<string, string>> = {
  '.html': 'text/html; charset=utf-8',
  '.js': 'text/javascript; charset=utf-8',
  '.css': 'text/css; charset=utf-8',
  '.xml': 'application/xml; charset=utf-8',
  '.svg': 'image/svg+xml',
  '.png': 'image/png',
  '.jpg': 'image/jpeg',
  '.gif': 'image/gif',
  '.webp': 'image/webp',
  '.woff2': 'font/woff2',
  '.pdf': 'application/pdf',
  '.zip': 'application/zip',
  '.epub': 'application/epub+zip',
  '.mp4': 'video/mp4',
  '.webm': 'video/webm',
  '.mp3': 'audio/mpeg',
  '.md': 'text/plain; charset=utf-8',
  '.json': 'application/json',
};

/** What a published site may load: its own scripts and styles and nothing from elsewhere; it may frame and send nothing. What a lens marks has its colours in the element. */
const ownOnly =
  "default-src 'none'; script-src 'self'; style-src 'self'; style-src-attr 'unsafe-inline'; img-src 'self' data:; font-src 'self'; media-src 'self'; base-uri 'none'; form-action 'none'; frame-ancestors 'self'";

/** One page has its styles, faces and images in it, and no script at all. */
const allInside =
  "default-src 'none'; style-src 'unsafe-inline'; img-src data:; font-src data:; media-src data:; base-uri 'none'; form-action 'none'; frame-ancestors 'self'";

const headed = (path: string, reply: FastifyReply, isOnePage = false): FastifyReply =>
  reply
    .header('content-security-policy', isOnePage ? allInside : ownOnly)
    .header('cache-control', 'private, max-age=0')
    .type(types[extname(path).toLowerCase()] ?? 'application/octet-stream');

/** What was built or proofed, as it lies there; kept apart from the application by what it may load. @param isOnePage whether it is a page with all in it */
export async function sendFile(
  path: string,
  reply: FastifyReply,
  downloadName?: string,
  isOnePage = false,
): Promise<FastifyReply> {
  const found = await stat(path).catch(() => undefined);
  if (!found?.isFile()) throw notFound('file');
  headed(path, reply, isOnePage);
  if (downloadName !== undefined)
    reply.header(
      'content-disposition',
      `attachment; filename*=UTF-8''${encodeURIComponent(downloadName)}`,
    );
  return reply.send(createReadStream(path));
}

/** A file of a site that is made when it is asked for. */
export const sendMade = (
  path: string,
  content: string | Uint8Array,
  reply: FastifyReply,
): FastifyReply =>
  headed(path, reply).send(typeof content === 'string' ? content : Buffer.from(content));
