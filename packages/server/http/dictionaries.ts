import { Dictionaries, Locale } from '@ukiyo/contracts';
import american from 'dictionary-en';
import british from 'dictionary-en-gb';
import type { FastifyPluginAsyncZod } from 'fastify-type-provider-zod';
import { z } from 'zod';
import { notFound } from './guard.ts';

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

/** Word lists for the spelling of content; the browser keeps them. */
export const dictionaryRoutes: FastifyPluginAsyncZod = async (app) => {
  app.get(
    '/dictionaries/:locale',
    {
      config: { permission: 'read' },
      schema: { params: z.object({ locale: Locale }), response: { 200: Dictionaries } },
    },
    async ({ params }, reply) => {
      const found = dictionariesFor(params.locale);
      if (!found) throw notFound(`dictionary for “${params.locale}”`);
      const decoder = new TextDecoder();
      return reply
        .header('cache-control', 'private, max-age=86400')
        .send(
          found.map(({ aff, dic }) => ({ aff: decoder.decode(aff), dic: decoder.decode(dic) })),
        );
    },
  );
};
