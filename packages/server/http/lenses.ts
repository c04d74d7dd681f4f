import { DitavalText, Lens, LensChange, LensDecision, LensName, TakenLens } from '@ukiyo/contracts';
import {
  lensOf,
  readDitaval,
  withDecision,
  withFlagImages,
  writeDitaval,
} from '@ukiyo/core/facets';
import { freeId } from '@ukiyo/core/library';
import type { FastifyPluginAsyncZod } from 'fastify-type-provider-zod';
import { z } from 'zod';
import type { Services } from '../app/services.ts';
import { allow, type Api, notFound, Refused } from './guard.ts';

const InProject = z.object({ project: z.uuid() });
const OneLens = InProject.extend({ id: z.string().max(200) });

const idFor = async ({ editions }: Services, project: string, name: string): Promise<string> =>
  freeId(name, new Set((await editions.lenses(project)).map(({ id }) => id)), 'lens');

/** Lenses are read, made, changed and deleted. */
function keepingRoutes(app: Api, services: Services): void {
  const { editions } = services;
  app.get(
    '/lenses',
    allow('read', { params: InProject, response: { 200: z.array(Lens) } }),
    ({ params }) => editions.lenses(params.project),
  );
  app.post(
    '/lenses',
    allow('publish', { params: InProject, body: LensName, response: { 201: Lens } }),
    async ({ params: { project }, body }, reply) => {
      const lens = {
        id: await idFor(services, project, body.name),
        name: body.name,
        rules: [],
        through: [],
      };
      await editions.saveLens(project, lens);
      return reply.status(201).send(lens);
    },
  );
  app.put(
    '/lenses/:id',
    allow('publish', { params: OneLens, body: LensChange, response: { 200: Lens } }),
    async ({ params, body }) => {
      const { name, through } = body;
      const lens = await editions.changeLens(params.project, params.id, (now) => ({
        ...now,
        ...(name === undefined ? {} : { name }),
        ...(through === undefined ? {} : { through }),
      }));
      if (!lens) throw notFound('lens');
      return lens;
    },
  );
  app.post(
    '/lenses/:id/decisions',
    allow('publish', { params: OneLens, body: LensDecision, response: { 200: Lens } }),
    async ({ params, body }) => {
      const lens = await editions.changeLens(params.project, params.id, (now) => ({
        ...now,
        rules: [...withDecision(now, body).rules],
      }));
      if (!lens) throw notFound('lens');
      return lens;
    },
  );
  app.delete(
    '/lenses/:id',
    allow('publish', { params: OneLens, response: { 204: z.null() } }),
    async ({ params: { project, id } }, reply) => {
      const [of, lenses] = await Promise.all([
        editions.editions(project),
        editions.lenses(project),
      ]);
      const users = [
        ...of.filter(({ lens }) => lens === id),
        ...lenses.filter(({ through }) => through.includes(id)),
      ].map(({ name }) => `“${name}”`);
      if (users.length > 0)
        throw new Refused(
          409,
          'lens.used',
          `This lens is used by ${users.join(', ')}. Choose another lens there first.`,
        );
      if (!(await editions.removeLens(project, id))) throw notFound('lens');
      return reply.status(204).send(null);
    },
  );
}

/** Lenses as DITAVAL. */
function ditavalRoutes(app: Api, services: Services): void {
  const { editions, facets } = services;
  app.get('/lenses/:id/ditaval', allow('read', { params: OneLens }), async ({ params }, reply) => {
    const lens = lensOf(
      params.id,
      await editions.lenses(params.project),
      (await facets.read(params.project)).facets,
    );
    if (!lens) throw notFound('lens');
    const file = `${lens.name.replace(/[^\p{L}\p{N} ._-]/gu, '_')}.ditaval`;
    return reply
      .type('application/xml; charset=utf-8')
      .header('content-disposition', `attachment; filename*=UTF-8''${encodeURIComponent(file)}`)
      .send(writeDitaval(lens));
  });
  app.post(
    '/lenses/ditaval',
    {
      ...allow('publish', { params: InProject, body: DitavalText, response: { 201: TakenLens } }),
      bodyLimit: 3 * 1024 * 1024,
    },
    async (request, reply) => {
      const { project } = request.params;
      const { name, text } = request.body;
      const { lens, problems } = readDitaval(name, text);
      if (!lens)
        throw new Refused(400, 'lens.unreadable', problems[0]?.message ?? 'This is no lens file.');
      const taken = {
        id: await idFor(services, project, name),
        name,
        // Images are files of a package: a DITAVAL file alone has none.
        rules: [...withFlagImages(lens, ownImage).rules],
        ...(lens.clash ? { clash: lens.clash } : {}),
        through: [],
      };
      await editions.saveLens(project, taken);
      return reply.status(201).send({ lens: taken, problems: [...problems] });
    },
  );
}

const ownImage = (image: string): string | undefined =>
  image.startsWith('asset:') ? image : undefined;

/**
 * Lenses: kept by administrators and publishers, looked through by everybody; as DITAVAL in and
 * out.
 */
export const lensRoutes =
  (services: Services): FastifyPluginAsyncZod =>
  async (app) => {
    keepingRoutes(app, services);
    ditavalRoutes(app, services);
  };
