import { ImportReport } from '@ukiyo/contracts';
import { readZip } from '@ukiyo/intake';
import type { FastifyPluginAsyncZod } from 'fastify-type-provider-zod';
import { zipSync } from 'fflate';
import { z } from 'zod';
import type { Services } from '../app/services.ts';
import type { Authority } from '../live/authority.ts';
import { personOf } from './guard.ts';
import { uploaded } from './uploads.ts';

const InProject = z.object({ project: z.uuid() });

/** Whole libraries as packages. */
export const packageRoutes =
  ({ packages }: Services, authority: Authority): FastifyPluginAsyncZod =>
  async (app) => {
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
