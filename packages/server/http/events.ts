import type { LiveEvent } from '@ukiyo/contracts';
import type { FastifyRequest } from 'fastify';
import type { FastifyPluginAsyncZod } from 'fastify-type-provider-zod';
import { z } from 'zod';
import type { OpenLines } from '../access/lines.ts';
import type { Queue } from '../jobs/queue.ts';
import { allow, grantOf, Refused } from './guard.ts';

/**
 * Bytes that may wait for a slow browser; beyond, it is disconnected and loads everything again.
 */
const mostWaiting = 1024 * 1024;
/** Interval between signs of life, in milliseconds, so that no proxy closes the stream as idle. */
const signOfLifeEvery = 20_000;

/** Opens a line in the name of who asks. @throws Refused when too many are open */
export function eventLine(
  lines: OpenLines,
  request: FastifyRequest,
  place: string,
  end: () => void,
): () => void {
  const { access, person } = grantOf(request);
  const opened = lines.open({
    access,
    person: person.id,
    role: person.role,
    address: request.ip,
    place,
    end,
  });
  if (!opened)
    throw new Refused(
      429,
      'too-many-lines',
      'Too many windows are connected at once. Close some of them and load this one again.',
    );
  return opened;
}

/** The stream of what happens in a project (HTML Standard, server-sent events). */
export const eventRoutes =
  (queue: Queue, lines: OpenLines): FastifyPluginAsyncZod =>
  async (app) => {
    // A stream never ends by itself: without this the server would wait for its listeners when it
    // is to stop.
    const endings = new Set<() => void>();
    app.addHook('preClose', (done) => {
      for (const end of endings) end();
      done();
    });
    app.get(
      '/events',
      allow('read', { params: z.object({ project: z.uuid() }) }),
      (request, reply) => {
        const stream = reply.raw;
        const end = (): void => void stream.end();
        const closed = eventLine(lines, request, `events:${request.params.project}`, end);
        endings.add(end);
        reply.hijack();
        stream.writeHead(200, {
          'content-type': 'text/event-stream',
          'cache-control': 'no-store',
          connection: 'keep-alive',
          'x-accel-buffering': 'no',
        });
        stream.write(': here\n\n');
        const send = (event: LiveEvent, project: string): void => {
          // One that was ended is not closed before it has sent what waits.
          if (project !== request.params.project || stream.writableEnded) return;
          if (stream.writableLength > mostWaiting) stream.destroy();
          else stream.write(`data: ${JSON.stringify(event)}\n\n`);
        };
        const alive = setInterval(
          () => void (stream.writableEnded || stream.write(': still here\n\n')),
          signOfLifeEvery,
        );
        queue.events.on('live', send);
        stream.on('close', () => {
          clearInterval(alive);
          queue.events.off('live', send);
          endings.delete(end);
          closed();
        });
      },
    );
  };
