import {
  Conflict,
  FolderCount,
  Item,
  ItemId,
  ItemPage,
  ItemQuery,
  ListedItem,
  NewItem,
  Reach,
  ReachOf,
  Removal,
  Revision,
  SaveItem,
  SummaryRequest,
} from '@ukiyo/contracts';
import { evaluateProfile, lensOf } from '@ukiyo/core/facets';
import { isA, isTopic, mapTemplate, topicTemplate, writeCanonical } from '@ukiyo/core/grammar';
import { freeId } from '@ukiyo/core/library';
import { element, isElement, readXml, type Element } from '@ukiyo/core/markup';
import { finished } from 'node:stream/promises';
import { setTimeout as sleep } from 'node:timers/promises';
import type { FastifyReply, FastifyRequest } from 'fastify';
import type { FastifyPluginAsyncZod } from 'fastify-type-provider-zod';
import { z } from 'zod';
import { permissionToChange } from '../access/roles.ts';
import type { Equipped } from '../jobs/clerk.ts';
import { Turns } from '../access/turns.ts';
import type { Texts } from '../live/texts.ts';
import { allow, type Api, grantOf, notFound, personOf, Refused } from './guard.ts';
import { namesOf } from './naming.ts';

const InProject = z.object({ project: z.uuid() });
const OneItem = InProject.extend({ id: ItemId });

/** Characters of a text that takes a moment to be passed on. */
const longText = 200_000;
const restAfterLong = 60;

type InTurn = <Read>(
  request: FastifyRequest,
  reply: FastifyReply,
  read: () => Promise<Read>,
) => Promise<Read>;

/**
 * Long texts are read one at a time, in turns between people, and with a rest after each: sending
 * one keeps the thread that answers busy, and short requests need it several times.
 */
function longReads({ items }: Equipped): InTurn {
  const turns = new Turns();
  return async (request, reply, read) => {
    const { project, id } = OneItem.parse(request.params);
    if ((await items.lengthOf(project, id)) <= longText) return read();
    return new Promise((resolve, reject) => {
      const passOn = async (): Promise<void> => {
        const passed = finished(reply.raw).catch(() => undefined);
        resolve(await read());
        await passed;
        await sleep(restAfterLong);
      };
      turns.take(personOf(request).id, passOn).catch(reject);
    });
  };
}

async function templateOf(texts: Texts, project: string, id: string): Promise<Element> {
  const item = await texts.read({ project, item: id });
  const root = item && readXml(item.text).document?.root;
  if (!root || !isTopic(root.name)) throw notFound('template');
  return root;
}

/** The conditions that a lens drops, of those that the project's items have. */
async function dropped(
  { items, editions, facets }: Equipped,
  project: string,
  id: string,
): Promise<Record<string, string>[]> {
  const list = (await facets.read(project)).facets;
  const lens = lensOf(id, await editions.lenses(project), list);
  if (!lens) throw notFound('lens');
  return (await items.conditions(project)).filter(
    (conditions) => !evaluateProfile(conditions, lens, list).kept,
  );
}

/** Lists of topics and maps, by query and by ID. */
function listRoutes(app: Api, services: Equipped): void {
  const { items } = services;
  app.get(
    '/items',
    allow('read', { params: InProject, querystring: ItemQuery, response: { 200: ItemPage } }),
    async ({ params: { project }, query }) =>
      items.list(
        project,
        query,
        query.lens === undefined ? [] : await dropped(services, project, query.lens),
      ),
  );
  app.post(
    '/summaries',
    allow('read', {
      params: InProject,
      body: SummaryRequest,
      response: { 200: z.array(ListedItem) },
    }),
    ({ params, body }) => items.summaries(params.project, body.ids),
  );
  app.get(
    '/folders',
    allow('read', { params: InProject, response: { 200: z.array(FolderCount) } }),
    ({ params }) => items.folders(params.project),
  );
}

/** Topics and maps are read, made and saved. */
function textRoutes(app: Api, { items }: Equipped, texts: Texts, inTurn: InTurn): void {
  app.get(
    '/items/:id',
    allow('read', { params: OneItem, response: { 200: Item } }),
    async (request, reply) => {
      const { project, id } = request.params;
      const item = await inTurn(request, reply, () => texts.read({ project, item: id }));
      if (!item) throw notFound('topic or map');
      return item;
    },
  );
  app.post(
    '/items',
    allow('write', { params: InProject, body: NewItem, response: { 201: Item } }),
    async (request, reply) => {
      const { type, title, folder, template } = request.body;
      demandChange(request, folder);
      const model =
        template === undefined
          ? undefined
          : await templateOf(texts, request.params.project, template);
      const taken = await items.ids(request.params.project);
      const id = freeId(title, taken, 'topic');
      const root = model
        ? begunAs(model, id, title)
        : isTopic(type)
          ? topicTemplate(type, id, title)
          : mapTemplate(id, title);
      const kind = isTopic(root.name) ? ('topic' as const) : ('map' as const);
      const made = await items.create(
        request.params.project,
        {
          id,
          kind,
          folder,
          name: `${id}.${kind === 'map' ? 'ditamap' : 'dita'}`,
          text: writeCanonical(root),
        },
        personOf(request).name,
      );
      if (!made)
        throw new Refused(
          409,
          'item.taken',
          'There is a topic of that name in this folder already.',
        );
      return reply.status(201).send(made);
    },
  );
  app.put(
    '/items/:id',
    {
      ...allow('write', {
        params: OneItem,
        body: SaveItem,
        response: { 200: Item, 409: Conflict },
      }),
      bodyLimit: 22 * 1024 * 1024,
    },
    async (request, reply) => {
      const { project, id } = request.params;
      const { name } = personOf(request);
      demandChange(request, (await items.folderOf(project, id)) ?? '');
      const outcome = await texts.write({ project, item: id }, request.body, name);
      if (!outcome) throw notFound('topic or map');
      if ('conflict' in outcome) {
        return reply.status(409).send({
          code: 'item.conflict',
          message:
            `${outcome.conflict.updatedBy} saved this after you opened it. Your text is ` +
            'still here.',
          current: outcome.conflict,
        });
      }
      return outcome.saved;
    },
  );
}

/** Where topics and maps are used, and taking them away. */
function useRoutes(app: Api, { items, uses, editions, clerk }: Equipped): void {
  app.delete(
    '/items/:id',
    allow('write', { params: OneItem, querystring: Removal, response: { 204: z.null() } }),
    async (request, reply) => {
      const { project, id } = request.params;
      const { by } = request.query;
      demandChange(request, (await items.folderOf(project, id)) ?? '');
      if (by === undefined) {
        const { uses: found } = await uses.reach(project, { of: 'item', id });
        const made = (await editions.editions(project))
          .filter(({ map }) => map === id)
          .map(({ name }) => `“${name}”`);
        if (made.length > 0)
          throw new Refused(
            409,
            'item.used',
            `This is the map of ${made.join(', ')}. Choose another one there first.`,
          );
        if (found.length > 0)
          throw new Refused(
            409,
            'item.used',
            `This is used by ${namesOf(found)}. Choose what takes its place there, or take ` +
              'it out there first.',
          );
        if (!(await items.remove(project, id))) throw notFound('topic or map');
      } else {
        const changed =
          by === id
            ? undefined
            : await clerk.do('replaceItem', project, { id, by }, personOf(request).name);
        if (!changed) throw notFound('topic or map');
      }
      return reply.status(204).send(null);
    },
  );
  app.get(
    '/uses',
    allow('read', { params: InProject, querystring: ReachOf, response: { 200: Reach } }),
    ({ params, query }) => uses.reach(params.project, query),
  );
}

/** What topics and maps were before. */
function revisionRoutes(app: Api, { items }: Equipped, inTurn: InTurn): void {
  app.get(
    '/items/:id/revisions',
    allow('read', { params: OneItem, response: { 200: z.array(Revision) } }),
    ({ params }) => items.revisions(params.project, params.id),
  );
  app.get(
    '/items/:id/revisions/:version',
    allow('read', {
      params: OneItem.extend({ version: z.coerce.number().int() }),
      response: { 200: z.object({ text: z.string() }) },
    }),
    async (request, reply) => {
      const { project, id, version } = request.params;
      const text = await inTurn(request, reply, () => items.revisionText(project, id, version));
      if (text === undefined) throw notFound('revision');
      return { text };
    },
  );
}

/** Topics and maps: lists, texts, revisions and where they are used. */
export const itemRoutes =
  (services: Equipped, texts: Texts): FastifyPluginAsyncZod =>
  async (app) => {
    const inTurn = longReads(services);
    listRoutes(app, services);
    textRoutes(app, services, texts, inTurn);
    useRoutes(app, services);
    revisionRoutes(app, services, inTurn);
  };

/** What others begin as is for administrators to change. */
function demandChange(request: FastifyRequest, folder: string): void {
  if (!grantOf(request).permissions.has(permissionToChange(folder)))
    throw new Refused(403, 'not-allowed', 'Templates are changed by administrators.');
}

/** A new topic that is as the template is, but for its id and title. */
function begunAs(template: Element, id: string, title: string): Element {
  const titled = template.children.map((child) =>
    isElement(child) && isA(child.name, 'title')
      ? element(child.name, child.attributes, [title])
      : child,
  );
  return { ...template, attributes: { ...template.attributes, id }, children: titled };
}
