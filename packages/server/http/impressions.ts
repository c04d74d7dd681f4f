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
import { allow, type Api, notFound, personOf, Refused } from './guard.ts';

const One = z.object({ project: z.uuid(), id: z.uuid() });

const readImpression = async (
  { editions }: Equipped,
  project: string,
  id: string,
): Promise<Impression> => {
  const impression = await editions.impression(project, id);
  if (!impression) throw notFound('impression');
  return impression;
};
const answer = { response: { 200: Impression } };

/** Names and notes of an impression, and taking it away. */
function noteRoutes(app: Api, services: Equipped): void {
  const { editions, impressionFolder } = services;
  app.put(
    '/impressions/:id/name',
    allow('publish', { params: One, body: ImpressionName, ...answer }),
    async ({ params: { project, id }, body }) => {
      if (!(await editions.nameImpression(project, id, body.name))) throw notFound('impression');
      return readImpression(services, project, id);
    },
  );
  app.post(
    '/impressions/:id/notes',
    allow('review', { params: One, body: NewNote, ...answer }),
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
      return readImpression(services, project, id);
    },
  );
  app.delete(
    '/impressions/:id',
    allow('publish', { params: One, response: { 204: z.null() } }),
    async ({ params: { project, id } }, reply) => {
      const { state } = await readImpression(services, project, id);
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
}

/** Impressions are signed off, and that is taken back. */
function sealRoutes(app: Api, services: Equipped): void {
  const { editions, sendNotifications } = services;
  app.put(
    '/impressions/:id/seal',
    allow('publish', { params: One, body: SignOff, ...answer }),
    async (request) => {
      const { project, id } = request.params;
      const { state, problems, stops } = await readImpression(services, project, id);
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
      const signed = await readImpression(services, project, id);
      await sendNotifications(project, 'signed', signed).catch((error: unknown) =>
        request.log.error(error),
      );
      return signed;
    },
  );
  app.delete(
    '/impressions/:id/seal',
    allow('publish', { params: One, ...answer }),
    async (request) => {
      const { project, id } = request.params;
      const { seal } = await readImpression(services, project, id);
      if (!seal) throw new Refused(409, 'not-signed', 'It is not signed off.');
      await editions.sealImpression(project, id, null);
      await editions.noteOnImpression(project, id, {
        person: personOf(request).name,
        at: new Date().toISOString(),
        text: `Took back the sign-off of ${seal.person}.`,
      });
      return readImpression(services, project, id);
    },
  );
}

/** Impressions are built again, and compared. */
function againRoutes(app: Api, services: Equipped, queue: Queue): void {
  const { impressionFolder, clerk } = services;
  app.post(
    '/impressions/:id/again',
    allow('build', { params: One, response: { 202: Impression } }),
    async (request, reply) => {
      const { project, id } = request.params;
      const { edition } = await readImpression(services, project, id);
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
    allow('read', {
      params: One.extend({ earlier: z.uuid() }),
      response: { 200: ImpressionComparison },
    }),
    async ({ params: { project, id, earlier } }) => {
      const [later, before] = await Promise.all([
        readImpression(services, project, id),
        readImpression(services, project, earlier),
      ]);
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
}

/**
 * What people do with what was built: name it, note on it, sign it off, compare it, build it again,
 * take it away.
 */
export const impressionRoutes =
  (services: Equipped, queue: Queue): FastifyPluginAsyncZod =>
  async (app) => {
    noteRoutes(app, services);
    sealRoutes(app, services);
    againRoutes(app, services, queue);
  };
