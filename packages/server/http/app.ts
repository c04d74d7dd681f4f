import compress from '@fastify/compress';
import cookie from '@fastify/cookie';
import helmet from '@fastify/helmet';
import statics from '@fastify/static';
import websocket from '@fastify/websocket';
import Fastify, { type FastifyInstance } from 'fastify';
import {
  hasZodFastifySchemaValidationErrors,
  serializerCompiler,
  validatorCompiler,
} from 'fastify-type-provider-zod';
import { z } from 'zod';
import type { Services } from '../app/services.ts';
import type { Queue } from '../jobs/queue.ts';
import { createAnalyst } from '../jobs/analyst.ts';
import { createProofer } from '../jobs/proofer.ts';
import { createAuthority } from '../live/authority.ts';
import { analysisRoutes } from './analysis.ts';
import { alternateRoutes } from './alternates.ts';
import { agreementRoutes } from './agreements.ts';
import { designRoutes } from './designs.ts';
import { dictionaryRoutes } from './dictionaries.ts';
import { facetRoutes } from './facets.ts';
import { lensRoutes } from './lenses.ts';
import { fileRoutes } from './files.ts';
import { guard, Refused } from './guard.ts';
import { itemRoutes } from './items.ts';
import { liveRoutes } from './live.ts';
import { impressionRoutes } from './impressions.ts';
import { outsideRoutes } from './outside.ts';
import { publishingRoutes } from './publishing.ts';
import { sessionRoutes } from './session.ts';
import { sourceRoutes } from './sources.ts';
import { variableRoutes } from './variables.ts';

export interface AppOptions {
  /** Folder of the built interface; left out in tests of the server alone. */
  readonly webFolder?: string;
  readonly log?: boolean;
}

/** The whole HTTP side: `/api/…` and, under every other address, the interface. */
export async function createApp(
  services: Services,
  queue: Queue,
  { webFolder, log = false }: AppOptions = {},
): Promise<FastifyInstance> {
  const app = Fastify({
    logger: log ? { level: process.env['LOG_LEVEL'] ?? 'info' } : false,
    bodyLimit: 2 * 1024 * 1024,
  });
  app.setValidatorCompiler(validatorCompiler);
  app.setSerializerCompiler(serializerCompiler);
  app.setErrorHandler(
    (error: Error & { statusCode?: number; validation?: unknown }, request, reply) => {
      if (error instanceof Refused)
        return reply.status(error.status).send({ code: error.code, message: error.message });
      if (hasZodFastifySchemaValidationErrors(error))
        return reply
          .status(400)
          .send({
            code: 'bad-request',
            message: `The request is not as it should be: ${error.validation.map((one) => `${one.instancePath} ${one.message ?? ''}`.trim()).join('; ')}.`,
          });
      const status = error.statusCode ?? 500;
      if (status >= 500) request.log.error(error);
      const message =
        status === 429
          ? 'Too many attempts. Wait a minute and try again.'
          : status < 500
            ? error.message
            : 'Something went wrong here. It is in the log.';
      return reply.status(status).send({ code: status === 429 ? 'too-many' : 'failed', message });
    },
  );

  await app.register(helmet, {
    contentSecurityPolicy: {
      useDefaults: false,
      directives: {
        defaultSrc: ["'none'"],
        scriptSrc: ["'self'"],
        styleSrc: ["'self'", "'unsafe-inline'"],
        imgSrc: ["'self'", 'data:', 'blob:'],
        fontSrc: ["'self'"],
        mediaSrc: ["'self'"],
        connectSrc: ["'self'"],
        workerSrc: ["'self'"],
        frameSrc: ["'self'"],
        baseUri: ["'none'"],
        formAction: ["'self'"],
        frameAncestors: ["'none'"],
      },
    },
    strictTransportSecurity: false,
  });
  await app.register(cookie);
  await app.register(compress, { globalCompression: true });
  await app.register(websocket, { options: { maxPayload: 24 * 1024 * 1024 } });
  guard(app, services.people, services.tokens);

  app.get(
    '/api/health',
    {
      config: { permission: 'anyone' },
      schema: {
        response: {
          200: z.object({ status: z.literal('ok'), uptime: z.number(), memory: z.number() }),
        },
      },
    },
    async () => {
      await services.database.sequelize.query('SELECT 1');
      return {
        status: 'ok' as const,
        uptime: Math.round(process.uptime()),
        memory: process.memoryUsage.rss(),
      };
    },
  );
  await app.register(sessionRoutes(services), { prefix: '/api' });
  await app.register(dictionaryRoutes, { prefix: '/api' });
  const authority = createAuthority(services.live, services.items, {
    written: ({ project, item: id }, version) =>
      void queue
        .announce(project, { kind: 'item', id, version })
        .catch((error: unknown) => app.log.error(error)),
    failed: (error) => app.log.error(error),
  });
  queue.events.on('steps', authority.follow);
  // What was acknowledged before a crash is written to the texts before anybody reads them.
  app.addHook('onReady', () => authority.settle());
  const analyst = createAnalyst(services.settings);
  const proofer = createProofer(services.settings);
  app.addHook('onClose', async () => {
    analyst.close();
    proofer.close();
    queue.events.off('steps', authority.follow);
    await authority.close();
  });
  await app.register(liveRoutes(services.people, services.items, authority), {
    prefix: '/api/projects/:project',
  });
  await app.register(itemRoutes(services, queue, authority), { prefix: '/api/projects/:project' });
  await app.register(agreementRoutes(services), { prefix: '/api/projects/:project' });
  await app.register(facetRoutes(services, queue), { prefix: '/api/projects/:project' });
  await app.register(alternateRoutes(services, queue, authority), {
    prefix: '/api/projects/:project',
  });
  await app.register(variableRoutes(services, queue, authority), {
    prefix: '/api/projects/:project',
  });
  await app.register(lensRoutes(services), { prefix: '/api/projects/:project' });
  await app.register(fileRoutes(services, authority), { prefix: '/api/projects/:project' });
  await app.register(analysisRoutes(services, queue, analyst, authority), {
    prefix: '/api/projects/:project',
  });
  await app.register(designRoutes(services, proofer, authority), {
    prefix: '/api/projects/:project',
  });
  await app.register(publishingRoutes(services, queue, authority), {
    prefix: '/api/projects/:project',
  });
  await app.register(sourceRoutes(services, queue, authority), {
    prefix: '/api/projects/:project',
  });
  await app.register(outsideRoutes(services), { prefix: '/api/projects/:project' });
  await app.register(impressionRoutes(services, queue), { prefix: '/api/projects/:project' });

  if (webFolder !== undefined) {
    await app.register(statics, {
      root: webFolder,
      wildcard: false,
      index: false,
      cacheControl: false,
      setHeaders: (reply, path) =>
        void reply.header(
          'cache-control',
          path.includes('/assets/') ? 'public, max-age=31536000, immutable' : 'no-cache',
        ),
    });
  }
  app.setNotFoundHandler((request, reply) => {
    if (webFolder !== undefined && request.method === 'GET' && !request.url.startsWith('/api/'))
      return reply.type('text/html').header('cache-control', 'no-cache').sendFile('index.html');
    return reply
      .status(404)
      .send({ code: 'not-found', message: 'There is nothing at this address.' });
  });
  return app;
}
