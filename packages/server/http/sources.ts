import {
  SourceFolder,
  SourceOrder,
  SourceReading,
  SourceState,
  SourceSummary,
} from '@ukiyo/contracts';
import type { FastifyPluginAsyncZod } from 'fastify-type-provider-zod';
import { z } from 'zod';
import type { Equipped } from '../jobs/clerk.ts';
import { allow, notFound, personOf, Refused } from './guard.ts';

const InProject = z.object({ project: z.uuid() });
const One = InProject.extend({ folder: SourceFolder });

/** Linked sources: which folders there are, how their files stand, and reading them again. */
export const sourceRoutes =
  ({ sources, clerk }: Equipped): FastifyPluginAsyncZod =>
  async (app) => {
    app.get(
      '/sources',
      allow('write', { params: InProject, response: { 200: z.array(SourceSummary) } }),
      ({ params }) => sources.list(params.project),
    );
    app.get(
      '/sources/:folder',
      allow('write', { params: One, response: { 200: SourceState } }),
      async ({ params }) => {
        const state = await clerk.do('lookAtSource', params.project, params.folder);
        if (!state) throw notFound('folder');
        return state;
      },
    );
    app.put(
      '/sources/:folder',
      allow('publish', { params: One, response: { 200: SourceState } }),
      async ({ params }) => {
        if (!(await sources.link(params.project, params.folder)))
          throw new Refused(
            409,
            'sources.linked',
            'This folder is linked already, or it is not there any more.',
          );
        const state = await clerk.do('lookAtSource', params.project, params.folder);
        if (!state) throw notFound('folder');
        return state;
      },
    );
    app.post(
      '/sources/:folder/read',
      allow('write', { params: One, body: SourceOrder, response: { 200: SourceReading } }),
      async (request) => {
        const { project, folder } = request.params;
        const reading = await clerk.do(
          'readSource',
          project,
          { folder, order: request.body },
          personOf(request).name,
        );
        if (!reading) throw notFound('linked source');
        return reading;
      },
    );
    app.delete(
      '/sources/:folder',
      allow('publish', { params: One, response: { 204: z.null() } }),
      async ({ params }, reply) => {
        if (!(await sources.unlink(params.project, params.folder))) throw notFound('linked source');
        return reply.status(204).send(null);
      },
    );
  };
