import {
  Conflict,
  FolderCount,
  Item,
  ItemId,
  ItemPage,
  ItemQuery,
  NewItem,
  Reach,
  ReachOf,
  Removal,
  Revision,
  SaveItem,
} from '@ukiyo/contracts';
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
import { grantOf, notFound, personOf, Refused } from './guard.ts';
import { namesOf } from './naming.ts';

const InProject = z.object({ project: z.uuid() });
const OneItem = InProject.extend({ id: ItemId });

/** Characters of a text that takes a moment to be passed on. */
const longText = 200_000;
const restAfterLong = 60;

/** Topics and maps: lists, texts, revisions and where they are used. */
export const itemRoutes =
  ({ items, uses, editions, clerk }: Equipped, texts: Texts): FastifyPluginAsyncZod =>
  async (app) => {
    const turns = new Turns();
    /**
     * Long texts are read one at a time, in turns between people, and with a rest after each:
     * sending one keeps the thread that answers busy, and short requests need it several times.
     */
    async function inTurn<Read>(
      request: FastifyRequest,
      reply: FastifyReply,
      { project, id }: z.infer<typeof OneItem>,
      read: () => Promise<Read>,
    ): Promise<Read> {
      if ((await items.lengthOf(project, id)) <= longText) return read();
      return new Promise<Read>((resolve, reject) => {
        const passOn = async (): Promise<void> => {
          const passed = finished(reply.raw).catch(() => undefined);
          resolve(await read());
          await passed;
          await sleep(restAfterLong);
        };
        turns.take(personOf(request).id, passOn).catch(reject);
      });
    }
    async function templateOf(project: string, id: string): Promise<Element> {
      const item = await texts.read({ project, item: id });
      const root = item && readXml(item.text).document?.root;
      if (!root || !isTopic(root.name)) throw notFound('template');
      return root;
    }
    app.get(
      '/items',
      {
        config: { permission: 'read' },
        schema: { params: InProject, querystring: ItemQuery, response: { 200: ItemPage } },
      },
      ({ params, query }) => items.list(params.project, query),
    );
    app.get(
      '/folders',
      {
        config: { permission: 'read' },
        schema: { params: InProject, response: { 200: z.array(FolderCount) } },
      },
      ({ params }) => items.folders(params.project),
    );
    app.get(
      '/items/:id',
      { config: { permission: 'read' }, schema: { params: OneItem, response: { 200: Item } } },
      async (request, reply) => {
        const { project, id } = request.params;
        const item = await inTurn(request, reply, request.params, () =>
          texts.read({ project, item: id }),
        );
        if (!item) throw notFound('topic or map');
        return item;
      },
    );
    app.post(
      '/items',
      {
        config: { permission: 'write' },
        schema: { params: InProject, body: NewItem, response: { 201: Item } },
      },
      async (request, reply) => {
        const { type, title, folder, template } = request.body;
        demandChange(request, folder);
        const model =
          template === undefined ? undefined : await templateOf(request.params.project, template);
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
        config: { permission: 'write' },
        bodyLimit: 22 * 1024 * 1024,
        schema: { params: OneItem, body: SaveItem, response: { 200: Item, 409: Conflict } },
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
    app.delete(
      '/items/:id',
      {
        config: { permission: 'write' },
        schema: { params: OneItem, querystring: Removal, response: { 204: z.null() } },
      },
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
              : await clerk.do('replaceItem', project, id, by, personOf(request).name);
          if (!changed) throw notFound('topic or map');
        }
        return reply.status(204).send(null);
      },
    );
    app.get(
      '/uses',
      {
        config: { permission: 'read' },
        schema: { params: InProject, querystring: ReachOf, response: { 200: Reach } },
      },
      ({ params, query }) => uses.reach(params.project, query),
    );
    app.get(
      '/items/:id/revisions',
      {
        config: { permission: 'read' },
        schema: { params: OneItem, response: { 200: z.array(Revision) } },
      },
      ({ params }) => items.revisions(params.project, params.id),
    );
    app.get(
      '/items/:id/revisions/:version',
      {
        config: { permission: 'read' },
        schema: {
          params: OneItem.extend({ version: z.coerce.number().int() }),
          response: { 200: z.object({ text: z.string() }) },
        },
      },
      async (request, reply) => {
        const { project, id, version } = request.params;
        const text = await inTurn(request, reply, request.params, () =>
          items.revisionText(project, id, version),
        );
        if (text === undefined) throw notFound('revision');
        return { text };
      },
    );
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
