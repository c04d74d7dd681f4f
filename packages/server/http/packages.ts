import { open } from 'node:fs/promises';
import { join } from 'node:path';
import { ImportReport } from '@ukiyo/contracts';
import type { FastifyRequest } from 'fastify';
import type { FastifyPluginAsyncZod } from 'fastify-type-provider-zod';
import { z } from 'zod';
import type { Equipped } from '../jobs/clerk.ts';
import { allow, personOf, Refused } from './guard.ts';
import { temporaryFiles } from './uploads.ts';

const InProject = z.object({ project: z.uuid() });

/** Whole libraries as packages: files on the disk, which another process reads and writes. */
export const packageRoutes =
  ({ clerk, settings }: Equipped): FastifyPluginAsyncZod =>
  async (app) => {
    const temporary = temporaryFiles(settings.dataFolder);
    const busy = new Set<string>();
    /** One package at a time for each person, because packages are large. */
    async function alone<Made>(request: FastifyRequest, act: () => Promise<Made>): Promise<Made> {
      const { id } = personOf(request);
      if (busy.has(id))
        throw new Refused(
          429,
          'package.busy',
          'Your last package is still being imported or exported. Wait until it is done.',
        );
      busy.add(id);
      try {
        return await act();
      } finally {
        busy.delete(id);
      }
    }

    app.get('/package', allow('read', { params: InProject }), (request, reply) =>
      alone(request, async () => {
        const { project } = request.params;
        return temporary.use(async (folder) => {
          const path = join(folder, 'library.zip');
          await clerk.do('exportPackage', project, path);
          // Open files outlive their names: what is sent is there to its end.
          const file = await open(path);
          return reply
            .type('application/zip')
            .header('content-disposition', 'attachment; filename="library.zip"')
            .send(file.createReadStream());
        });
      }),
    );
    app.post(
      '/package',
      allow('publish', { params: InProject, response: { 200: ImportReport } }),
      (request) =>
        alone(request, async () => {
          const upload = await request.file();
          const report = await temporary.withUpload(upload, (path) =>
            clerk.do('importPackage', request.params.project, path, personOf(request).name),
          );
          if ('refused' in report)
            throw new Refused(422, report.refused.code, report.refused.message);
          return report;
        }),
    );
  };
