import multipart from '@fastify/multipart';
import { Asset, Folder, ImportReport, ItemId } from '@ukiyo/contracts';
import { readZip } from '@ukiyo/intake';
import type { FastifyPluginAsyncZod } from 'fastify-type-provider-zod';
import { zipSync } from 'fflate';
import { z } from 'zod';
import type { Services } from '../app/services.ts';
import { settleImage } from '../data/images.ts';
import type { Authority } from '../live/authority.ts';
import { notFound, personOf, Refused } from './guard.ts';

const InProject = z.object({ project: z.uuid() });
const largestFile = 200 * 1024 * 1024;

/** Images and other files of the library, and whole libraries as packages. */
export const fileRoutes =
  ({ assets, blobs, items, packages }: Services, authority: Authority): FastifyPluginAsyncZod =>
  async (app) => {
    await app.register(multipart, { limits: { fileSize: largestFile, files: 1, fields: 4 } });

    app.get(
      '/assets',
      {
        config: { permission: 'read' },
        schema: { params: InProject, response: { 200: z.array(Asset) } },
      },
      ({ params }) => assets.list(params.project),
    );
    app.get(
      '/assets/:id/file',
      { config: { permission: 'read' }, schema: { params: InProject.extend({ id: ItemId }) } },
      async ({ params }, reply) => {
        const row = await assets.find(params.project, params.id);
        if (!row) throw notFound('image');
        // An image opened by itself must not act: nothing but its own styles is allowed.
        reply
          .header(
            'content-security-policy',
            "default-src 'none'; style-src 'unsafe-inline'; img-src data:; sandbox",
          )
          .header('cache-control', 'private, max-age=60')
          .type(row.mediaType);
        return reply.send(Buffer.from(await blobs.get(row.hash)));
      },
    );
    app.post(
      '/assets',
      {
        config: { permission: 'write' },
        schema: {
          params: InProject,
          querystring: z.object({ folder: Folder.default('images') }),
          response: { 201: Asset },
        },
      },
      async (request, reply) => {
        const { name, bytes, claimed } = await uploaded(await request.file());
        const settled = settleImage(bytes, claimed);
        if ('refusal' in settled) throw new Refused(422, 'image.unreadable', settled.refusal);
        const taken = await items.ids(request.params.project);
        const stem =
          name
            .replace(/\.[^.]*$/u, '')
            .replace(/[^\p{L}\p{N}._-]+/gu, '-')
            .replace(/^[^\p{L}_]+/u, '') || 'image';
        let id = stem;
        for (let count = 2; taken.has(id); count += 1) id = `${stem}-${count}`;
        const ending = name.includes('.') ? name.slice(name.lastIndexOf('.')) : '';
        const made = await assets.create(request.params.project, {
          id,
          folder: request.query.folder,
          name: `${id}${ending}`,
          ...settled,
        });
        const row = made ? await assets.find(request.params.project, id) : undefined;
        if (!row)
          throw new Refused(
            409,
            'image.taken',
            'There is an image of that name in this folder already.',
          );
        return reply.status(201).send(row);
      },
    );

    app.get(
      '/package',
      { config: { permission: 'read' }, schema: { params: InProject } },
      async ({ params }, reply) => {
        await authority.settle(params.project);
        const files = await packages.give(params.project);
        reply
          .type('application/zip')
          .header('content-disposition', 'attachment; filename="library.zip"');
        return reply.send(Buffer.from(zipSync(Object.fromEntries(files), { level: 6 })));
      },
    );
    app.post(
      '/package',
      {
        config: { permission: 'publish' },
        schema: { params: InProject, response: { 200: ImportReport } },
      },
      async (request) => {
        const { bytes } = await uploaded(await request.file());
        const { files, problems } = await readZip(bytes);
        const report = await packages.take(request.params.project, files, personOf(request).name);
        return { ...report, problems: [...problems, ...report.problems] };
      },
    );
  };

interface Upload {
  readonly filename: string;
  readonly mimetype: string;
  toBuffer(): Promise<Buffer>;
}

async function uploaded(
  file: Upload | undefined,
): Promise<{ name: string; bytes: Buffer; claimed: string }> {
  if (!file) throw new Refused(400, 'no-file', 'No file came with the request.');
  const bytes = await file.toBuffer().catch(() => {
    throw new Refused(
      413,
      'file-too-large',
      `The file is larger than ${largestFile / 1024 / 1024} MB.`,
    );
  });
  return { name: file.filename.split(/[\\/]/u).at(-1) ?? 'file', bytes, claimed: file.mimetype };
}
