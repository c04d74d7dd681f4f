import { rm, stat } from 'node:fs/promises';
import { join } from 'node:path';
import {
  Impression,
  ImpressionComparison,
  ImpressionName,
  NewNote,
  SignOff,
} from '@ukiyo/contracts';
import { blockingOf, problemKey } from '@ukiyo/core/problems';
import type { FastifyPluginAsyncZod } from 'fastify-type-provider-zod';
import { z } from 'zod';
import type { Equipped } from '../jobs/clerk.ts';
import { inputsFile } from '../jobs/build.ts';
import type { Queue } from '../jobs/queue.ts';
import { notFound, personOf, Refused } from './guard.ts';

const One = z.object({ project: z.uuid(), id: z.uuid() });

/**
 * What people do with what was built: name it, note on it, sign it off, compare it, build it again,
 * take it away.
 */
export const impressionRoutes =
  (
    { editions, impressionFolder, sendNotifications, clerk }: Equipped,
    queue: Queue,
  ): FastifyPluginAsyncZod =>
  async (app) => {
    const read = async (project: string, id: string): Promise<Impression> => {
      const impression = await editions.impression(project, id);
      if (!impression) throw notFound('impression');
      return impression;
    };
    const answer = { response: { 200: Impression } };

    app.put(
      '/impressions/:id/name',
      {
        config: { permission: 'publish' },
        schema: { params: One, body: ImpressionName, ...answer },
      },
      async ({ params: { project, id }, body }) => {
        if (!(await editions.nameImpression(project, id, body.name))) throw notFound('impression');
        return read(project, id);
      },
    );
    app.post(
      '/impressions/:id/notes',
      { config: { permission: 'review' }, schema: { params: One, body: NewNote, ...answer } },
      async (request) => {
        const { project, id } = request.params;
        if (
          !(await editions.noteOnImpression(project, id, {
            person: personOf(request).name,
            at: new Date().toISOString(),
            text: request.body.text,
          }))
        )
          throw notFound('impression');
        return read(project, id);
      },
    );
    app.put(
      '/impressions/:id/seal',
      { config: { permission: 'publish' }, schema: { params: One, body: SignOff, ...answer } },
      async (request) => {
        const { project, id } = request.params;
        const { state, problems, stops } = await read(project, id);
        if (state !== 'done')
          throw new Refused(409, 'not-built', 'Only what was built can be signed off.');
        const { waived } = request.body;
        const left = blockingOf(problems, stops).filter(
          (found) => !waived.some((one) => one.problem === problemKey(found)),
        );
        if (left.length > 0)
          throw new Refused(
            409,
            'blocked',
            `${left.length === 1 ? 'A problem keeps' : `${left.length} problems keep`} it ` +
              `from being signed off: ${left[0]!.message} Mend what is wrong, or say why it ` +
              'may go out.',
          );
        await editions.sealImpression(project, id, {
          person: personOf(request).name,
          at: new Date().toISOString(),
          waived,
        });
        const signed = await read(project, id);
        await sendNotifications(project, 'signed', signed).catch((error: unknown) =>
          request.log.error(error),
        );
        return signed;
      },
    );
    app.delete(
      '/impressions/:id/seal',
      { config: { permission: 'publish' }, schema: { params: One, ...answer } },
      async (request) => {
        const { project, id } = request.params;
        const { seal } = await read(project, id);
        if (!seal) throw new Refused(409, 'not-signed', 'It is not signed off.');
        await editions.sealImpression(project, id, null);
        await editions.noteOnImpression(project, id, {
          person: personOf(request).name,
          at: new Date().toISOString(),
          text: `Took back the sign-off of ${seal.person}.`,
        });
        return read(project, id);
      },
    );
    app.delete(
      '/impressions/:id',
      { config: { permission: 'publish' }, schema: { params: One, response: { 204: z.null() } } },
      async ({ params: { project, id } }, reply) => {
        const { state } = await read(project, id);
        if (state === 'queued' || state === 'running')
          throw new Refused(409, 'being-built', 'It is still being built. Cancel it first.');
        if (!(await editions.removeImpression(project, id)))
          throw new Refused(
            409,
            'signed',
            'It is signed off and stays. Take back the sign-off first.',
          );
        await rm(impressionFolder(id), { recursive: true, force: true });
        return reply.status(204).send(null);
      },
    );
    app.post(
      '/impressions/:id/again',
      { config: { permission: 'build' }, schema: { params: One, response: { 202: Impression } } },
      async (request, reply) => {
        const { project, id } = request.params;
        const { edition } = await read(project, id);
        const isRecorded = await stat(join(impressionFolder(id), inputsFile)).then(
          () => true,
          () => false,
        );
        if (!isRecorded)
          throw new Refused(409, 'not-recorded', 'What went into it was not recorded.');
        const impression = await queue.order(project, edition, personOf(request).name, {
          again: id,
        });
        return reply.status(202).send(impression);
      },
    );
    app.get(
      '/impressions/:id/since/:earlier',
      {
        config: { permission: 'read' },
        schema: {
          params: One.extend({ earlier: z.uuid() }),
          response: { 200: ImpressionComparison },
        },
      },
      async ({ params: { project, id, earlier } }) => {
        const [later, before] = await Promise.all([read(project, id), read(project, earlier)]);
        const pages = await clerk.do('compareImpressions', earlier, id);
        if (!pages)
          throw new Refused(
            409,
            'not-recorded',
            `The pages of impression ${before.number} or ${later.number} were not recorded, ` +
              'so they cannot be compared.',
          );
        return { earlier: before.number, later: later.number, pages };
      },
    );
  };
