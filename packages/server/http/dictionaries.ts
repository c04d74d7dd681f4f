import { Locale } from '@ukiyo/contracts';
import { promisify } from 'node:util';
import { brotliCompress } from 'node:zlib';
import american from 'dictionary-en';
import british from 'dictionary-en-gb';
import type { FastifyPluginAsyncZod } from 'fastify-type-provider-zod';
import { z } from 'zod';
import { allow, notFound } from './guard.ts';

interface Shipped {
  readonly aff: Uint8Array;
  readonly dic: Uint8Array;
}
/**
 * Dictionaries that ship, by locale: those for Hunspell whose licences allow it. A locale without a
 * region accepts the spellings of all its regions.
 */
const shipped: Readonly<Record<string, readonly Shipped[]>> = {
  en: [american, british],
  'en-us': [american],
  'en-gb': [british],
};

/** Those of the locale (BCP 47), else of its language. */
const dictionariesFor = (locale: string): readonly Shipped[] | undefined =>
  shipped[locale.toLowerCase()] ?? shipped[locale.split('-')[0]!.toLowerCase()];

const decoder = new TextDecoder();
const textOf = (dictionaries: readonly Shipped[]): string =>
  JSON.stringify(
    dictionaries.map(({ aff, dic }) => ({ aff: decoder.decode(aff), dic: decoder.decode(dic) })),
  );
/** Compressed once for all readers (RFC 7932): they are some hundred kilobytes even so. */
const compressed = new Map<readonly Shipped[], Promise<Buffer>>();
function compressedOf(dictionaries: readonly Shipped[]): Promise<Buffer> {
  const found = compressed.get(dictionaries) ?? promisify(brotliCompress)(textOf(dictionaries));
  compressed.set(dictionaries, found);
  return found;
}

/** Word lists for the spelling of content; the browser keeps them. */
export const dictionaryRoutes: FastifyPluginAsyncZod = async (app) => {
  app.get(
    '/dictionaries/:locale',
    allow('read', { params: z.object({ locale: Locale }) }),
    async ({ params, headers }, reply) => {
      const found = dictionariesFor(params.locale);
      if (!found) throw notFound(`dictionary for “${params.locale}”`);
      void reply
        .header('cache-control', 'private, max-age=86400')
        .header('vary', 'accept-encoding')
        .type('application/json; charset=utf-8');
      return /\bbr\b/u.test(String(headers['accept-encoding']))
        ? reply.header('content-encoding', 'br').send(await compressedOf(found))
        : reply.send(textOf(found));
    },
  );
};
