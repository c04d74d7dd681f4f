import type { FastifyInstance } from 'fastify';
import type { Database } from '../data/database.ts';
import { notFound, Refused } from './guard.ts';

/**
 * Whether every text in a value can be stored: PostgreSQL has no U+0000, and half of a surrogate
 * pair is no character (Unicode 3.9, D77).
 */
function isStorable(root: unknown): boolean {
  const left: unknown[] = [root];
  while (left.length > 0) {
    const value = left.pop();
    if (typeof value === 'string' && (value.includes('\0') || /\p{Surrogate}/u.test(value)))
      return false;
    if (Array.isArray(value)) for (const one of value) left.push(one);
    else if (typeof value === 'object' && value !== null)
      for (const [name, one] of Object.entries(value)) left.push(name, one);
  }
  return true;
}

/** What holds for every request and every answer, whatever the route. */
export function keepClean(app: FastifyInstance, { models }: Database): void {
  app.addHook('preValidation', async ({ body, query, params }) => {
    if (![body, query, params].every(isStorable))
      throw new Refused(
        400,
        'bad-characters',
        'The request contains a character that cannot be stored (U+0000 or half of a ' +
          'surrogate pair).',
      );
  });

  /** Projects are never deleted, so one that was there is there. */
  const known = new Set<string>();
  app.addHook('preHandler', async ({ params }) => {
    const project =
      typeof params === 'object' && params !== null && 'project' in params
        ? params.project
        : undefined;
    if (typeof project !== 'string' || known.has(project)) return;
    if (!(await models.projects.findByPk(project, { attributes: ['id'] })))
      throw notFound('project');
    known.add(project);
  });

  app.addHook('onSend', async (request, reply) => {
    // Nothing of a library stays in a shared cache (OWASP ASVS 4.0, 8.2.1).
    if (request.url.startsWith('/api/') && !reply.hasHeader('cache-control'))
      reply.header('cache-control', 'no-store');
    if (request.protocol === 'https') reply.header('strict-transport-security', 'max-age=31536000');
  });
}
