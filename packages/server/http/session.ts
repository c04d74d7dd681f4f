import { Refusal, Session, SignIn } from '@ukiyo/contracts';
import type { FastifyPluginAsyncZod } from 'fastify-type-provider-zod';
import { RateLimiterMemory } from 'rate-limiter-flexible';
import { z } from 'zod';
import { sessionDays } from '../access/people.ts';
import type { Services } from '../app/services.ts';
import { personOf, Refused, sessionCookie } from './guard.ts';

const cookie = {
  path: '/',
  httpOnly: true,
  sameSite: 'strict' as const,
  maxAge: sessionDays * 86_400,
};

const mostFailures = 10;

/** Signing in and out. Only attempts that fail are counted: a whole office may come to work at nine. */
export const sessionRoutes =
  ({ people, database }: Services): FastifyPluginAsyncZod =>
  async (app) => {
    const failures = new RateLimiterMemory({ points: mostFailures, duration: 60 });
    const projects = async () =>
      (await database.models.projects.findAll({ order: [['name', 'ASC']] }))
        .map((row) => row.get())
        .map(({ id, name, locale }) => ({ id, name, locale }));
    app.get(
      '/session',
      { config: { permission: 'read' }, schema: { response: { 200: Session } } },
      async (request) => ({ person: personOf(request), projects: await projects() }),
    );
    app.post(
      '/session',
      {
        config: { permission: 'anyone' },
        schema: { body: SignIn, response: { 200: Session, 401: Refusal } },
      },
      async (request, reply) => {
        if (((await failures.get(request.ip))?.consumedPoints ?? 0) >= mostFailures)
          throw new Refused(
            429,
            'too-many-attempts',
            'Too many attempts failed. Try again in a minute.',
          );
        const found = await people.signIn(request.body.email, request.body.password);
        if (!found) {
          await failures.penalty(request.ip);
          throw new Refused(401, 'wrong-password', 'The address or the password is wrong.');
        }
        reply.setCookie(sessionCookie, found.token, {
          ...cookie,
          secure: request.protocol === 'https',
        });
        return { person: found.person, projects: await projects() };
      },
    );
    app.delete(
      '/session',
      { config: { permission: 'anyone' }, schema: { response: { 204: z.null() } } },
      async (request, reply) => {
        const token = request.cookies[sessionCookie];
        if (token !== undefined) await people.signOut(token);
        reply.clearCookie(sessionCookie, cookie);
        return reply.status(204).send(null);
      },
    );
  };
