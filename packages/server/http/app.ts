import compress from '@fastify/compress';
import cookie from '@fastify/cookie';
import helmet from '@fastify/helmet';
import multipart from '@fastify/multipart';
import statics from '@fastify/static';
import websocket from '@fastify/websocket';
import type { LiveEvent } from '@ukiyo/contracts';
import Fastify, { type FastifyInstance } from 'fastify';
import { hasZodFastifySchemaValidationErrors, validatorCompiler } from 'fastify-type-provider-zod';
import { z } from 'zod';
import { openLines } from '../access/lines.ts';
import type { Services } from '../app/services.ts';
import { withCurrentTexts, type Equipped } from '../jobs/clerk.ts';
import type { Queue } from '../jobs/queue.ts';
import { createAnalyst } from '../jobs/analyst.ts';
import { createProofer } from '../jobs/proofer.ts';
import { TooMuch } from '../access/turns.ts';
import { OutOfMemory, OutOfTime } from '../jobs/warm.ts';
import { createAuthority } from '../live/authority.ts';
import { textService } from '../live/texts.ts';
import { analysisRoutes } from './analysis.ts';
import { alternateRoutes } from './alternates.ts';
import { agreementRoutes } from './agreements.ts';
import { assetRoutes } from './assets.ts';
import { contentAddresses, contentRoutes, keepContentApart, longestPass } from './content.ts';
import { designRoutes } from './designs.ts';
import { dictionaryRoutes } from './dictionaries.ts';
import { eventRoutes } from './events.ts';
import { facetRoutes } from './facets.ts';
import { lensRoutes } from './lenses.ts';
import { allow, guard, Refused } from './guard.ts';
import { keepClean } from './hygiene.ts';
import { itemRoutes } from './items.ts';
import { liveRoutes } from './live.ts';
import { impressionRoutes } from './impressions.ts';
import { integrationRoutes } from './integrations.ts';
import { packageRoutes } from './packages.ts';
import { publishingRoutes } from './publishing.ts';
import { tolerantSerializer } from './serializing.ts';
import { sessionRoutes } from './session.ts';
import { sourceRoutes } from './sources.ts';
import { slowness } from './slowness.ts';
import { largestFile } from './uploads.ts';
import { variableRoutes } from './variables.ts';

/**
 * Addresses of proxies whose word about the client is taken, or what tells them by address and
 * distance.
 */
export type TrustedProxies = string | ((address: string, hop: number) => boolean);

export interface AppOptions {
  /** Folder of the built interface; left out in tests of the server alone. */
  readonly webFolder?: string;
  readonly log?: boolean;
  /** Without it, the address of the connection is that of the client (`TRUST_PROXY`). */
  readonly trustProxy?: TrustedProxies;
  /** Origin at which everything is shown that is made of what people wrote (`CONTENT_URL`). */
  readonly contentUrl?: string;
}

/** Bodies of requests, in bytes; routes that take more say so. */
const largestBody = 2 * 1024 * 1024;
/** One message of an editor, in bytes: a text of the largest size, pasted at once. */
const largestMessage = 24 * 1024 * 1024;

/** The whole HTTP side: `/api/…`, `/content/…` and, under every other address, the interface. */
export async function createApp(
  services: Equipped,
  queue: Queue,
  { webFolder, log = false, trustProxy, contentUrl }: AppOptions = {},
): Promise<FastifyInstance> {
  const app = Fastify({
    logger: log ? { level: process.env['LOG_LEVEL'] ?? 'info' } : false,
    bodyLimit: largestBody,
    trustProxy: trustProxy ?? false,
    routerOptions: { maxParamLength: longestPass },
    ...slowness.server,
  });
  app.setValidatorCompiler(validatorCompiler);
  app.setSerializerCompiler(tolerantSerializer((error) => app.log.error(error)));
  answerErrors(app);
  await protect(app, contentUrl);
  slowness.watch(app);
  guard(app, services.grants);
  keepClean(app, services.database);
  await addRoutes(app, services, queue, contentUrl);
  await serveInterface(app, webFolder);
  return app;
}

function answerErrors(app: FastifyInstance): void {
  app.setErrorHandler(
    (error: Error & { statusCode?: number; validation?: unknown }, request, reply) => {
      if (error instanceof Refused) {
        if (error.retryAfter !== undefined) reply.header('retry-after', error.retryAfter);
        return reply
          .status(error.status)
          .type('application/json')
          .send({ code: error.code, message: error.message });
      }
      if (error instanceof TooMuch)
        return reply.status(429).send({
          code: 'too-much',
          message: 'You have asked for a lot at once. Wait until some of it is done.',
        });
      if (error instanceof OutOfTime)
        return reply.status(503).send({
          code: 'out-of-time',
          message: 'This took too long, so it was stopped. Nothing was changed.',
        });
      if (error instanceof OutOfMemory)
        return reply.status(413).send({
          code: 'out-of-memory',
          message:
            'This needs more memory than the server allows. Nothing was changed. Try it in parts.',
        });
      if (hasZodFastifySchemaValidationErrors(error)) {
        const faults = error.validation.map((one) =>
          `${one.instancePath} ${one.message ?? ''}`.trim(),
        );
        return reply.status(400).send({
          code: 'bad-request',
          message: `The request is not as it should be: ${faults.join('; ')}.`,
        });
      }
      const status = error.statusCode ?? 500;
      if (status >= 500) request.log.error(error);
      const message =
        status < 500
          ? error.message
          : 'The server could not complete this request. The administrator finds the reason in ' +
            'the log.';
      return reply.status(status).type('application/json').send({ code: 'failed', message });
    },
  );
}

/** Headers and parsers that every answer and request passes. */
async function protect(app: FastifyInstance, contentUrl: string | undefined): Promise<void> {
  const content = contentUrl === undefined ? [] : [new URL(contentUrl).origin];
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
        frameSrc: ["'self'", ...content],
        baseUri: ["'none'"],
        formAction: ["'self'"],
        frameAncestors: ["'none'"],
      },
    },
    // Said where the request came by https; see `keepClean`.
    strictTransportSecurity: false,
  });
  keepContentApart(app, contentUrl);
  await app.register(cookie);
  await app.register(compress, { globalCompression: true });
  await app.register(multipart, { limits: { fileSize: largestFile, files: 1, fields: 4 } });
  await app.register(websocket, { options: { maxPayload: largestMessage } });
}

async function addRoutes(
  app: FastifyInstance,
  services: Equipped,
  queue: Queue,
  contentUrl: string | undefined,
): Promise<void> {
  const failed = (error: unknown): void => app.log.error(error);
  const authority = createAuthority(services, failed);
  const lines = openLines(services.grants, failed);
  const texts = textService(services.items, authority);
  const withTexts = { ...services, clerk: withCurrentTexts(services.clerk, texts.flushAll) };
  const analyst = createAnalyst(services.settings, texts.flushAll);
  const proofer = createProofer(services.settings, texts.flushAll);
  const content = contentAddresses(services.signer, contentUrl);
  const recheck = (person: string): void => void lines.recheck(person).catch(failed);
  const hear = (event: LiveEvent, project: string): void => {
    if (event.kind === 'item-gone') authority.remove({ project, item: event.id });
  };
  queue.events.on('steps', authority.follow);
  queue.events.on('live', hear);
  queue.events.on('access', recheck);
  queue.events.on('missed', lines.endAll);
  // What was acknowledged before a crash is written to the texts before anybody reads them.
  app.addHook('onReady', () => authority.flushAll());
  app.addHook('onClose', async () => {
    analyst.close();
    proofer.close();
    lines.close();
    queue.events.off('steps', authority.follow);
    queue.events.off('live', hear);
    queue.events.off('access', recheck);
    queue.events.off('missed', lines.endAll);
    await authority.close();
  });

  await app.register(contentRoutes(services, proofer));
  await app.register(
    async (api) => {
      addHealth(api, services);
      await api.register(sessionRoutes(services));
      await api.register(dictionaryRoutes);
    },
    { prefix: '/api' },
  );
  await app.register(
    async (project) => {
      await project.register(liveRoutes(withTexts, lines, authority));
      await project.register(eventRoutes(queue, lines));
      await project.register(itemRoutes(withTexts, texts));
      await project.register(agreementRoutes(withTexts));
      await project.register(facetRoutes(withTexts));
      await project.register(alternateRoutes(withTexts));
      await project.register(variableRoutes(withTexts));
      await project.register(lensRoutes(withTexts));
      await project.register(assetRoutes(withTexts));
      await project.register(packageRoutes(withTexts));
      await project.register(analysisRoutes(withTexts, analyst));
      await project.register(designRoutes(withTexts, proofer, content));
      await project.register(publishingRoutes(withTexts, queue, content));
      await project.register(sourceRoutes(withTexts));
      await project.register(integrationRoutes(withTexts));
      await project.register(impressionRoutes(withTexts, queue));
    },
    { prefix: '/api/projects/:project' },
  );
}

function addHealth(app: FastifyInstance, { database }: Services): void {
  const Health = z.object({ status: z.literal('ok'), uptime: z.number(), memory: z.number() });
  app.get('/health', allow('anyone', { response: { 200: Health } }), async () => {
    await database.sequelize.query('SELECT 1');
    return {
      status: 'ok' as const,
      uptime: Math.round(process.uptime()),
      memory: process.memoryUsage.rss(),
    };
  });
}

async function serveInterface(app: FastifyInstance, webFolder: string | undefined): Promise<void> {
  if (webFolder !== undefined)
    await app.register(statics, {
      root: webFolder,
      wildcard: false,
      preCompressed: true,
      index: false,
      cacheControl: false,
      setHeaders: (reply, path) =>
        void reply.header(
          'cache-control',
          path.includes('/assets/') ? 'public, max-age=31536000, immutable' : 'no-cache',
        ),
    });
  app.setNotFoundHandler((request, reply) => {
    const isPage = request.method === 'GET' && !/^\/(api|content)\//u.test(request.url);
    if (webFolder !== undefined && isPage)
      return reply.type('text/html').header('cache-control', 'no-cache').sendFile('index.html');
    return reply
      .status(404)
      .send({ code: 'not-found', message: 'There is nothing at this address.' });
  });
}
