import {
  Appearances,
  Contents,
  CopiesShared,
  CopyReport,
  CopySharing,
  ElementAt,
  ElementUses,
  ReaderCheck,
  StyleId,
  StyleUses,
} from '@ukiyo/contracts';
import type { FastifyPluginAsyncZod } from 'fastify-type-provider-zod';
import { z } from 'zod';
import type { Equipped } from '../jobs/clerk.ts';
import type { Analyst } from '../jobs/analyst.ts';
import { allow, notFound, personOf, Refused } from './guard.ts';

const InProject = z.object({ project: z.uuid() });
const OneEdition = InProject.extend({ id: z.uuid() });

/** What is asked of a whole library at once, answered by a process of its own. */
export const analysisRoutes =
  ({ clerk }: Equipped, analyst: Analyst): FastifyPluginAsyncZod =>
  async (app) => {
    app.get(
      '/appearances',
      allow('read', { params: InProject, response: { 200: Appearances } }),
      async ({ params: { project } }) => {
        return analyst.ask(project, { kind: 'appearances' });
      },
    );
    app.get(
      '/editions/:id/readers',
      allow('read', { params: OneEdition, response: { 200: ReaderCheck } }),
      async ({ params: { project, id } }) => {
        const check = await analyst.ask(project, { kind: 'every-reader', edition: id });
        if (!check) throw notFound('edition');
        return check;
      },
    );
    app.get(
      '/why',
      allow('read', {
        params: InProject,
        querystring: ElementAt,
        response: { 200: ElementUses },
      }),
      async ({ params: { project }, query }) => {
        return analyst.ask(project, { kind: 'why', ...query });
      },
    );
    app.get(
      '/editions/:id/contents',
      allow('read', { params: OneEdition, response: { 200: Contents } }),
      async ({ params: { project, id } }) => {
        const contents = await analyst.ask(project, { kind: 'contents', edition: id });
        if (!contents) throw notFound('edition');
        return contents;
      },
    );
    app.get(
      '/designs/sheets/:id/uses',
      allow('read', { params: InProject.extend({ id: StyleId }), response: { 200: StyleUses } }),
      async ({ params: { project, id } }) => {
        return analyst.ask(project, { kind: 'styles', sheet: id });
      },
    );
    app.get(
      '/copies',
      allow('read', { params: InProject, response: { 200: CopyReport } }),
      async ({ params: { project } }) => {
        return analyst.ask(project, { kind: 'copies' });
      },
    );
    app.post(
      '/copies/share',
      {
        ...allow('write', {
          params: InProject,
          body: CopySharing,
          response: { 201: CopiesShared },
        }),
        bodyLimit: 8 * 1024 * 1024,
      },
      async (request, reply) => {
        const { project } = request.params;
        const made = await clerk.do('mergeCopies', project, request.body, personOf(request).name);
        if (!made)
          throw new Refused(
            409,
            'copies.changed',
            'The wording that is to be kept is not there any more, or can stand in no topic ' +
              'by itself.',
          );
        return reply.status(201).send(made);
      },
    );
  };
