import { isAttachment } from '@ukiyo/core/media';
import {
  AssetPage,
  AssetQuery,
  Folder,
  ItemId,
  ListedAsset,
  SummaryRequest,
} from '@ukiyo/contracts';
import type { FastifyPluginAsyncZod } from 'fastify-type-provider-zod';
import { z } from 'zod';
import type { Services } from '../app/services.ts';
import { imagesIn } from '../work/packaged.ts';
import { nameForType } from '../media/types.ts';
import { allow, type Api, grantOf, notFound, Refused } from './guard.ts';
import { namesOf } from './naming.ts';
import { sendFile } from './sending.ts';
import { temporaryFiles } from './uploads.ts';

const InProject = z.object({ project: z.uuid() });
const OneAsset = InProject.extend({ id: ItemId });

/** An id of letters, digits and marks that a file can also have as its name. */
function idFor(fileName: string, taken: ReadonlySet<string>): string {
  const stem = fileName
    .replace(/\.[^.]*$/u, '')
    .replace(/[^\p{L}\p{N}._-]+/gu, '-')
    .replace(/^[^\p{L}_]+/u, '')
    .slice(0, 180);
  const wanted = stem === '' ? 'image' : stem;
  let id = wanted;
  for (let count = 2; taken.has(id); count += 1) id = `${wanted}-${count}`;
  return id;
}

/** What shows an image would have a gap where it was. */
async function refuseIfUsed(
  { assets, uses, designs }: Services,
  project: string,
  id: string,
): Promise<void> {
  const { uses: found } = await uses.reach(project, { of: 'item', id });
  if (found.length > 0)
    throw new Refused(
      409,
      'image.used',
      `The image “${id}” is used in ${namesOf(found)}. Remove it there first.`,
    );
  const [asset] = await assets.summaries(project, [id]);
  const alternates = asset?.alternates ?? [];
  if (alternates.length > 0)
    throw new Refused(
      409,
      'image.used',
      `The image “${id}” has alternates: ` +
        `${alternates.map(({ name }) => `“${name}”`).join(', ')}. Delete them first.`,
    );
  if (imagesIn(await designs.read(project)).includes(id))
    throw new Refused(
      409,
      'image.used',
      `The image “${id}” is part of a page plan or a site look. Remove it there first.`,
    );
}

/** Images are read and added. */
function fileRoutes(app: Api, { assets, blobs, items, storeImage, settings }: Services): void {
  const temporary = temporaryFiles(settings.dataFolder);
  app.get(
    '/assets',
    allow('read', { params: InProject, querystring: AssetQuery, response: { 200: AssetPage } }),
    ({ params, query }) => assets.list(params.project, query),
  );
  app.post(
    '/assets/summaries',
    allow('read', {
      params: InProject,
      body: SummaryRequest,
      response: { 200: z.array(ListedAsset) },
    }),
    ({ params, body }) => assets.summaries(params.project, body.ids),
  );
  app.get('/assets/:id/file', allow('read', { params: OneAsset }), async ({ params }, reply) => {
    const row = await assets.find(params.project, params.id);
    if (!row) throw notFound('image');
    // What is attached is downloaded, and never loaded by a page of the application.
    const sending = isAttachment(row.mediaType) ? { downloadName: row.name } : { name: row.name };
    return sendFile(blobs.fileOf(row.hash), reply, sending);
  });
  app.post(
    '/assets',
    allow('write', {
      params: InProject,
      querystring: z.object({ folder: Folder.default('images') }),
      response: { 201: ListedAsset },
    }),
    async (request, reply) => {
      const { project } = request.params;
      const { name, stored } = await temporary.withUpload(
        await request.file(),
        async (path, upload) => ({
          name: upload.filename.split(/[\\/]/u).at(-1) ?? 'file',
          stored: await storeImage(path, upload.mimetype),
        }),
      );
      if ('refusal' in stored) throw new Refused(422, 'image.unreadable', stored.refusal);
      const id = idFor(name, await items.ids(project));
      const ending = /\.[^.]*$/u.exec(name)?.[0] ?? '';
      const fileName = nameForType(`${id}${ending}`, stored.mediaType);
      const { folder } = request.query;
      const isCreated = await assets.create(project, { id, folder, name: fileName, ...stored });
      const [row] = isCreated ? await assets.summaries(project, [id]) : [];
      if (!row)
        throw new Refused(
          409,
          'image.taken',
          `The folder “${folder}” already has an image named “${fileName}”.`,
        );
      return reply.status(201).send(row);
    },
  );
}

/** Images are deleted. */
function removalRoutes(app: Api, services: Services): void {
  const { assets } = services;
  app.delete(
    '/assets/:id',
    allow('write', { params: OneAsset, response: { 204: z.null() } }),
    async (request, reply) => {
      const { project, id } = request.params;
      const { person } = grantOf(request);
      await refuseIfUsed(services, project, id);
      if (!(await assets.remove(project, id))) throw notFound('image');
      request.log.info({ person: person.id, asset: id }, 'image deleted');
      return reply.status(204).send(null);
    },
  );
}

/** Images, videos and sounds of the library. */
export const assetRoutes =
  (services: Services): FastifyPluginAsyncZod =>
  async (app) => {
    fileRoutes(app, services);
    removalRoutes(app, services);
  };
