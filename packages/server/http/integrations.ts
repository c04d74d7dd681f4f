import {
  CreatedNotice,
  CreatedToken,
  NewToken,
  Notice,
  NoticeInput,
  Outbox,
  Token,
} from '@ukiyo/contracts';
import type { FastifyPluginAsyncZod } from 'fastify-type-provider-zod';
import { z } from 'zod';
import type { Services } from '../app/services.ts';
import { allow, notFound, personOf } from './guard.ts';

const InProject = z.object({ project: z.uuid() });
const One = InProject.extend({ id: z.uuid() });

/** Doors to the outside: tokens for programs, who is told of builds, and what was sent. */
export const integrationRoutes =
  ({ tokens, notices, courier, editions }: Services): FastifyPluginAsyncZod =>
  async (app) => {
    app.get(
      '/tokens',
      allow('publish', { params: InProject, response: { 200: z.array(Token) } }),
      (request) => tokens.list(personOf(request).id),
    );
    app.post(
      '/tokens',
      allow('publish', { params: InProject, body: NewToken, response: { 201: CreatedToken } }),
      async (request, reply) =>
        reply.status(201).send(await tokens.create(personOf(request).id, request.body)),
    );
    app.delete(
      '/tokens/:id',
      allow('publish', { params: One, response: { 204: z.null() } }),
      async (request, reply) => {
        if (!(await tokens.revoke(personOf(request).id, request.params.id)))
          throw notFound('token');
        return reply.status(204).send(null);
      },
    );
    app.get(
      '/notices',
      allow('publish', { params: InProject, response: { 200: z.array(Notice) } }),
      ({ params }) => notices.list(params.project),
    );
    app.post(
      '/notices',
      allow('publish', { params: InProject, body: NoticeInput, response: { 201: CreatedNotice } }),
      async ({ params, body }, reply) => {
        if (body.edition !== null && !(await editions.edition(params.project, body.edition)))
          throw notFound('edition');
        return reply.status(201).send(await notices.create(params.project, body));
      },
    );
    app.delete(
      '/notices/:id',
      allow('publish', { params: One, response: { 204: z.null() } }),
      async ({ params }, reply) => {
        if (!(await notices.remove(params.project, params.id))) throw notFound('message');
        return reply.status(204).send(null);
      },
    );
    app.get(
      '/outbox',
      allow('publish', { params: InProject, response: { 200: Outbox } }),
      async ({ params }) => ({
        isSimulated: courier.isSimulated,
        messages: await notices.sent(params.project),
      }),
    );
  };
