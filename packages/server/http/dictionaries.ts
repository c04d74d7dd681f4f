import { Dictionary, Locale } from '@ukiyo/contracts';
import english from 'dictionary-en';
import type { FastifyPluginAsyncZod } from 'fastify-type-provider-zod';
import { z } from 'zod';
import { notFound } from './guard.ts';

/** Dictionaries that ship, by language: those of the Hunspell project whose licences allow it. */
const shipped: Readonly<Record<string, { readonly aff: Uint8Array; readonly dic: Uint8Array }>> = { en: english };

/** Word lists for the spelling of content; the browser keeps them. */
export const dictionaryRoutes: FastifyPluginAsyncZod = async (app) => {
  app.get('/dictionaries/:locale', { config: { permission: 'read' }, schema: { params: z.object({ locale: Locale }), response: { 200: Dictionary } } }, async ({ params }, reply) => {
    const found = shipped[params.locale.split('-')[0]!.toLowerCase()];
    if (!found) throw notFound(`dictionary for “${params.locale}”`);
    const decoder = new TextDecoder();
    return reply.header('cache-control', 'private, max-age=86400').send({ aff: decoder.decode(found.aff), dic: decoder.decode(found.dic) });
  });
};
