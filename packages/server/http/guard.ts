import type { Person } from '@ukiyo/contracts';
import type { FastifyInstance, FastifyRequest, FastifySchema, HTTPMethods } from 'fastify';
import type { FastifyPluginAsyncZod } from 'fastify-type-provider-zod';
import { setAsker, withAsker } from '../access/asker.ts';
import type { Grant, Grants } from '../access/grants.ts';
import type { Permission } from '../access/roles.ts';

export const sessionCookie = 'ukiyo_session';

interface GuardedRoute {
  readonly method: HTTPMethods;
  readonly url: string;
  readonly permission: Permission | 'anyone';
}

declare module 'fastify' {
  interface FastifyInstance {
    /** Every route of the API with what it needs. */
    guarded: GuardedRoute[];
  }
  interface FastifyRequest {
    grant: Grant | null;
  }
  interface FastifyContextConfig {
    /** What is needed; `anyone` needs no session. Every route has one. */
    permission?: Permission | 'anyone';
  }
}

/** The API while routes are added to it: what their Zod schemas say is what handlers get. */
export type Api = Parameters<FastifyPluginAsyncZod>[0];

/** What a route says of itself: who may ask, and what is asked and answered. */
export const allow = <S extends FastifySchema>(permission: Permission | 'anyone', schema: S) => ({
  config: { permission },
  schema,
});

/** A refusal that a person sees: a code, one sentence, and the status of HTTP. */
export class Refused extends Error {
  constructor(
    readonly status: number,
    readonly code: string,
    message: string,
    /** Seconds after which the same may be tried again. */
    readonly retryAfter?: number,
  ) {
    super(message);
  }
}

export const notFound = (what: string): Refused =>
  new Refused(404, 'not-found', `There is no such ${what}.`);

/** @param what the thing that another person has saved since, in the middle of a sentence */
export const changedMeanwhile = (code: string, what: string): Refused =>
  new Refused(
    409,
    code,
    `Another person changed ${what} after you opened this screen. Copy what you typed, then ` +
      'reload the page.',
  );

export function grantOf(request: FastifyRequest): Grant {
  if (!request.grant) throw new Refused(401, 'signed-out', 'Please sign in.');
  return request.grant;
}
export const personOf = (request: FastifyRequest): Person => grantOf(request).person;

const isApi = (url: string): boolean => url.startsWith('/api/');

/** Whether a request comes from a page of another server (Fetch Standard, “Origin” header). */
function isForeign({ headers: { origin, host } }: FastifyRequest): boolean {
  return origin !== undefined && (!URL.canParse(origin) || new URL(origin).host !== host);
}

/** Lines of one address that may be authenticated at once; the others reconnect a moment later. */
const mostArriving = 60;

/** Limits the lines of one address that are authenticated at once: each takes a query. */
function arrivals() {
  const counts = new Map<string, number>();
  return async <Found>(address: string, find: () => Promise<Found>): Promise<Found> => {
    const count = counts.get(address) ?? 0;
    if (count >= mostArriving)
      throw new Refused(429, 'too-many-lines', 'Too many windows are connecting at once.', 1);
    counts.set(address, count + 1);
    try {
      return await find();
    } finally {
      const left = (counts.get(address) ?? 1) - 1;
      if (left === 0) counts.delete(address);
      else counts.set(address, left);
    }
  };
}

/**
 * Asks for each request who it is from and whether they may do it; a route of the API without a
 * permission does not start.
 */
export function guard(app: FastifyInstance, grants: Grants): void {
  app.decorateRequest('grant', null);
  app.decorate('guarded', []);
  app.addHook('onRoute', ({ url, config, method }) => {
    if (!isApi(url) || method === 'HEAD') return;
    const permission = config?.permission;
    if (permission === undefined) throw new Error(`The route ${url} does not say who may use it`);
    for (const one of [method].flat()) app.guarded.push({ method: one, url, permission });
  });
  app.addHook('onRequest', (_request, _reply, done) => withAsker(done));
  const arriving = arrivals();
  app.addHook('onRequest', async (request) => {
    // The files of the interface itself are for anyone; they hold nothing of the library.
    const { permission = isApi(request.url) ? ('administer' as const) : ('anyone' as const) } =
      request.routeOptions.config;
    // A line for live editing begins as a GET.
    const changes =
      (request.method !== 'GET' && request.method !== 'HEAD') ||
      request.headers.upgrade !== undefined;
    if (changes && isForeign(request))
      throw new Refused(403, 'foreign-origin', 'This request comes from another site.');
    if (!isApi(request.url)) return;
    const secret = /^Bearer (\S+)$/iu.exec(request.headers.authorization ?? '')?.[1];
    const session = request.cookies[sessionCookie];
    const find = (): Promise<Grant | undefined> =>
      secret !== undefined
        ? grants.byToken(secret)
        : session === undefined
          ? Promise.resolve(undefined)
          : grants.bySession(session);
    const found = await (request.headers.upgrade === undefined
      ? find()
      : arriving(request.ip, find));
    request.grant = found ?? null;
    if (found) setAsker(found.person.id);
    if (permission === 'anyone' || request.is404) return;
    if (!grantOf(request).permissions.has(permission))
      throw new Refused(403, 'not-allowed', 'Your role does not allow this.');
  });
}
