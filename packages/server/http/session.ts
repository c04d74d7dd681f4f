import { randomUUID } from 'node:crypto';
import { OwnSession, OwnSessions, Refusal, Session, SignIn } from '@ukiyo/contracts';
import type { FastifyRequest } from 'fastify';
import type { FastifyPluginAsyncZod } from 'fastify-type-provider-zod';
import { z } from 'zod';
import { sessionDays } from '../access/sessions.ts';
import type { Services } from '../app/services.ts';
import { allow, grantOf, notFound, personOf, Refused, sessionCookie } from './guard.ts';

const cookie = { path: '/api', httpOnly: true, sameSite: 'strict' as const };
const daySeconds = 86_400;

/** Marks a browser in which a person has signed in before; it grants nothing by itself. */
const deviceCookie = 'ukiyo_device';
const DeviceMark = z.object({ device: z.uuid(), email: z.string() });

const tooMany = (seconds: number): Refused =>
  new Refused(
    429,
    'too-many-attempts',
    `Too many attempts to sign in. Try again in ${seconds} ` +
      `${seconds === 1 ? 'second' : 'seconds'}.`,
    seconds,
  );

/** Signing in and out, and where a person is signed in. */
export const sessionRoutes =
  ({ people, sessions, attempts, signer, database }: Services): FastifyPluginAsyncZod =>
  async (app) => {
    const projects = async () =>
      (await database.models.projects.findAll({ order: [['name', 'ASC']] })).map((row) => {
        const { id, name, locale } = row.get();
        return { id, name, locale };
      });
    const deviceOf = (request: FastifyRequest, email: string): string | undefined => {
      const mark = signer.read(request.cookies[deviceCookie] ?? '', DeviceMark);
      return mark?.email === email ? mark.device : undefined;
    };

    app.get('/session', allow('read', { response: { 200: Session } }), async (request) => ({
      person: personOf(request),
      projects: await projects(),
    }));
    app.post(
      '/session',
      allow('anyone', { body: SignIn, response: { 200: Session, 401: Refusal } }),
      async (request, reply) => {
        const { email, password } = request.body;
        const from = { email, address: request.ip, device: deviceOf(request, email) };
        const wait = await attempts.admit(from);
        if (wait > 0) throw tooMany(wait);
        const person = await people.verified(email, password);
        if (!person)
          throw new Refused(401, 'wrong-password', 'The address or the password is wrong.');
        await attempts.succeed(from);
        // The session that this browser had before is of no use any more.
        const before = request.cookies[sessionCookie];
        if (before !== undefined) await sessions.endByToken(before);
        const token = await sessions.create(person.id, request.headers['user-agent'] ?? '');
        const secure = request.protocol === 'https';
        const mark = signer.sign({ device: from.device ?? randomUUID(), email });
        reply
          .setCookie(sessionCookie, token, { ...cookie, secure, maxAge: sessionDays * daySeconds })
          .setCookie(deviceCookie, mark, { ...cookie, secure, maxAge: 365 * daySeconds });
        return { person, projects: await projects() };
      },
    );
    app.delete(
      '/session',
      allow('anyone', { response: { 204: z.null() } }),
      async (request, reply) => {
        const token = request.cookies[sessionCookie];
        if (token !== undefined) await sessions.endByToken(token);
        reply.clearCookie(sessionCookie, cookie);
        return reply.status(204).send(null);
      },
    );

    app.get('/sessions', allow('read', { response: { 200: OwnSessions } }), async (request) => {
      const { access, person } = grantOf(request);
      if (access.kind !== 'session') throw notFound('session');
      return { current: access.id, sessions: await sessions.list(person.id) };
    });
    app.delete(
      '/sessions/:id',
      allow('read', {
        params: z.object({ id: OwnSession.shape.id }),
        response: { 204: z.null() },
      }),
      async (request, reply) => {
        const { access, person } = grantOf(request);
        // A token may read and build; it must not end sessions.
        if (access.kind !== 'session' || !(await sessions.end(person.id, request.params.id)))
          throw notFound('session');
        return reply.status(204).send(null);
      },
    );
  };
