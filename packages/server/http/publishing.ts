import { rm } from 'node:fs/promises';
import { extname, join } from 'node:path';
import { BuildInput, Edition, EditionInput, Impression, outputs } from '@ukiyo/contracts';
import type { FastifyPluginAsyncZod } from 'fastify-type-provider-zod';
import { z } from 'zod';
import type { Services } from '../app/services.ts';
import type { Queue } from '../jobs/queue.ts';
import type { ContentAddresses } from './content.ts';
import { sendFile } from './sending.ts';
import { allow, type Api, notFound, personOf, Refused } from './guard.ts';

const InProject = z.object({ project: z.uuid() });
const One = InProject.extend({ id: z.uuid() });

/** Editions are read, made, changed and deleted. */
function editionRoutes(app: Api, { editions, impressionFolder, proofFile }: Services): void {
  app.get(
    '/editions',
    allow('read', { params: InProject, response: { 200: z.array(Edition) } }),
    ({ params }) => editions.editions(params.project),
  );
  app.post(
    '/editions',
    allow('publish', { params: InProject, body: EditionInput, response: { 201: Edition } }),
    async ({ params, body }, reply) =>
      reply.status(201).send(await editions.createEdition(params.project, body)),
  );
  app.put(
    '/editions/:id',
    allow('publish', { params: One, body: EditionInput, response: { 200: Edition } }),
    async ({ params, body }) => {
      const edition = await editions.updateEdition(params.project, params.id, body);
      if (!edition) throw notFound('edition');
      return edition;
    },
  );
  app.delete(
    '/editions/:id',
    allow('publish', { params: One, response: { 204: z.null() } }),
    async (request, reply) => {
      const { params } = request;
      const built = await editions.impressionsOf(params.project, params.id);
      if (built.some(({ seal }) => seal !== null))
        throw new Refused(
          409,
          'signed',
          'An impression of it is signed off and stays. Take back the sign-off first.',
        );
      if (!(await editions.removeEdition(params.project, params.id))) throw notFound('edition');
      await Promise.all(
        [...built.map(({ id }) => impressionFolder(id)), proofFile(params.id)].map((path) =>
          rm(path, { recursive: true, force: true }),
        ),
      );
      return reply.status(204).send(null);
    },
  );
}

/** Builds are ordered, followed and cancelled. */
function buildRoutes(app: Api, { editions }: Services, queue: Queue): void {
  app.post(
    '/editions/:id/impressions',
    allow('build', { params: One, body: BuildInput.nullish(), response: { 202: Impression } }),
    async (request, reply) => {
      const { project, id } = request.params;
      if (!(await editions.edition(project, id))) throw notFound('edition');
      const impression = await queue.order(project, id, personOf(request).name, {
        locale: request.body?.locale ?? null,
      });
      return reply.status(202).send(impression);
    },
  );
  app.get(
    '/impressions',
    allow('read', { params: InProject, response: { 200: z.array(Impression) } }),
    ({ params }) => editions.impressions(params.project),
  );
  app.get(
    '/impressions/:id',
    allow('read', { params: One, response: { 200: Impression } }),
    async ({ params }) => {
      const impression = await editions.impression(params.project, params.id);
      if (!impression) throw notFound('impression');
      return impression;
    },
  );
  app.post(
    '/impressions/:id/cancel',
    allow('build', { params: One, response: { 200: Impression } }),
    async ({ params }) => {
      const impression = await editions.impression(params.project, params.id);
      if (!impression) throw notFound('impression');
      if (await editions.endImpression(params.id, { state: 'cancelled' }))
        await queue.cancel(params.id);
      return { ...impression, state: 'cancelled' as const };
    },
  );
}

/** What was built. */
function fileRoutes(
  app: Api,
  { editions, impressionFolder }: Services,
  content: ContentAddresses,
): void {
  app.get(
    '/editions/:id/shipped/*',
    allow('read', { params: One.extend({ '*': z.string() }) }),
    async (request, reply) => {
      const { params } = request;
      const built = (await editions.impressionsOf(params.project, params.id)).filter(
        ({ state }) => state === 'done',
      );
      const shipped = built.find(({ seal }) => seal !== null) ?? built[0];
      if (!shipped) throw notFound('impression');
      const { id } = shipped;
      return content.redirect(request, reply, { kind: 'impression', id }, params['*']);
    },
  );
  app.get(
    '/impressions/:id/files/*',
    allow('read', { params: One.extend({ '*': z.string() }) }),
    async (request, reply) => {
      const { params } = request;
      if (!(await editions.impression(params.project, params.id))) throw notFound('impression');
      const { id } = params;
      return content.redirect(request, reply, { kind: 'impression', id }, params['*']);
    },
  );
  app.get(
    '/impressions/:id/download',
    allow('read', { params: One }),
    async ({ params }, reply) => {
      const impression = await editions.impression(params.project, params.id);
      if (!impression) throw notFound('impression');
      const { file } = outputs[impression.output];
      const name = impression.editionName.replace(/[^\p{L}\p{N} ._-]/gu, '_');
      return sendFile(join(impressionFolder(params.id), file), reply, {
        downloadName: `${name}${extname(file)}`,
      });
    },
  );
}

/** Editions, their builds, and what comes out. */
export const publishingRoutes =
  (services: Services, queue: Queue, content: ContentAddresses): FastifyPluginAsyncZod =>
  async (app) => {
    editionRoutes(app, services);
    buildRoutes(app, services, queue);
    fileRoutes(app, services, content);
  };
