import {
  Alternates,
  AssetAlternate,
  ItemId,
  ListedAsset,
  NewAlternate,
  StandIn,
} from '@ukiyo/contracts';
import { facetValuesOf } from '@ukiyo/core/facets';
import type { FastifyPluginAsyncZod } from 'fastify-type-provider-zod';
import { z } from 'zod';
import type { Equipped } from '../jobs/clerk.ts';
import { allow, type Api, notFound, personOf, Refused } from './guard.ts';

const OneItem = z.object({ project: z.uuid(), id: ItemId });
const conditionsKey = (conditions: Readonly<Record<string, string>>): string =>
  JSON.stringify(
    [...facetValuesOf(conditions)].map(([facet, values]) => [facet, values.toSorted()]).sort(),
  );
const forNobody = () =>
  new Refused(
    400,
    'alternate.for-everybody',
    'Say for whom it is: without a facet value it would never be taken.',
  );

const readAlternates = async (
  { clerk }: Equipped,
  { project, id }: z.infer<typeof OneItem>,
): Promise<Alternates> => {
  const known = await clerk.do('readAlternates', project, id);
  if (!known) throw notFound('topic');
  return known;
};
const demandNew = (known: Alternates, conditions: Readonly<Record<string, string>>): void => {
  if (facetValuesOf(conditions).size === 0) throw forNobody();
  const same = known.alternates.find(
    ({ item }) => conditionsKey(item.conditions) === conditionsKey(conditions),
  );
  if (same)
    throw new Refused(
      409,
      'alternate.there',
      `There is one for these readers already: “${same.item.title}” (${same.item.id}).`,
    );
};

/** What stands in for a topic, and whether it is up to date. */
function topicRoutes(app: Api, services: Equipped): void {
  const { alternates, clerk } = services;
  app.get(
    '/items/:id/alternates',
    allow('read', { params: OneItem, response: { 200: Alternates } }),
    ({ params }) => readAlternates(services, params),
  );
  app.post(
    '/items/:id/alternates',
    allow('write', {
      params: OneItem,
      body: NewAlternate,
      response: { 201: z.object({ id: z.string() }) },
    }),
    async (request, reply) => {
      const { project, id } = request.params;
      const { conditions } = request.body;
      demandNew(await readAlternates(services, request.params), conditions);
      const made = await alternates.make(project, id, conditions, personOf(request).name);
      if (made === undefined)
        throw new Refused(
          409,
          'alternate.nested',
          'Only a topic that stands for itself can have alternates.',
        );
      return reply.status(201).send({ id: made });
    },
  );
  app.post(
    '/items/:id/stand-in',
    allow('write', { params: OneItem, body: StandIn, response: { 200: Alternates } }),
    async (request) => {
      const { project, id } = request.params;
      const { of, conditions } = request.body;
      demandNew(await readAlternates(services, { project, id: of }), conditions);
      const changed = await clerk.do(
        'standIn',
        project,
        { id, of, conditions },
        personOf(request).name,
      );
      if (!changed)
        throw new Refused(
          409,
          'alternate.nested',
          'Only a topic that stands for itself, and for which none stands in, can become ' +
            'an alternate of another one.',
        );
      return readAlternates(services, { project, id: of });
    },
  );
}

/** An alternate has been looked at again, or becomes a topic of its own. */
function stateRoutes(app: Api, services: Equipped): void {
  const { alternates } = services;
  app.post(
    '/items/:id/alternates/looked-at',
    allow('write', { params: OneItem, response: { 200: Alternates } }),
    async (request) => {
      const { project, id } = request.params;
      await readAlternates(services, request.params);
      if (!(await alternates.lookedAt(project, id, personOf(request).name)))
        throw notFound('alternate');
      return readAlternates(services, request.params);
    },
  );
  app.post(
    '/items/:id/alternates/release',
    allow('write', { params: OneItem, response: { 204: z.null() } }),
    async (request, reply) => {
      const { project, id } = request.params;
      if (!(await alternates.release(project, id, personOf(request).name)))
        throw notFound('alternate');
      return reply.status(204).send(null);
    },
  );
}

/** What stands in for an image. */
function imageRoutes(app: Api, { assets }: Equipped): void {
  app.put(
    '/assets/:id/alternate',
    allow('write', {
      params: OneItem,
      body: AssetAlternate,
      response: { 200: z.array(ListedAsset) },
    }),
    async (request) => {
      const { project, id } = request.params;
      const { of, conditions } = request.body;
      const before = (await assets.summaries(project, [id]))[0];
      if (!before) throw notFound('image');
      if (of !== null) {
        if (facetValuesOf(conditions).size === 0) throw forNobody();
        const [base] = await assets.summaries(project, [of]);
        if (!base || of === id) throw notFound('image');
        if (base.alternateOf !== null || before.alternates.length > 0)
          throw new Refused(
            409,
            'alternate.nested',
            'Only an image that stands for itself can have alternates.',
          );
      }
      await assets.standIn(project, id, of, conditions);
      const touched = [id, of, before.alternateOf].filter((one) => one !== null);
      return assets.summaries(project, touched);
    },
  );
}

/** What stands in for topics and images, each for certain facet values. */
export const alternateRoutes =
  (services: Equipped): FastifyPluginAsyncZod =>
  async (app) => {
    topicRoutes(app, services);
    stateRoutes(app, services);
    imageRoutes(app, services);
  };
