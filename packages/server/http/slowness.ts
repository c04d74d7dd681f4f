import type { FastifyInstance } from 'fastify';

/**
 * The headers of a request come within this time, and its body at no less than this rate after a
 * first rest.
 */
const headersWithin = 10_000;
const firstRest = 15_000;
const slowestRate = 8 * 1024;
const lookEvery = 2_000;
/** How long a connection stays whose request was refused before it had come, in milliseconds. */
const restOfRefused = 3_000;
/** Even a large package over a slow line is there by then, in milliseconds. */
const requestWithin = 30 * 60_000;

/** Connections that send a byte now and then, to hold a place that others need. */
export const slowness = {
  /** Options of the server (Node.js, `http.createServer`). */
  server: {
    requestTimeout: requestWithin,
    keepAliveTimeout: 30_000,
    http: { headersTimeout: headersWithin, connectionsCheckingInterval: lookEvery },
  },

  /** Ends requests whose body does not come. */
  watch(app: FastifyInstance): void {
    app.addHook('onRequest', async ({ raw }, reply) => {
      if (raw.method === 'GET' || raw.method === 'HEAD') return;
      const began = performance.now();
      const before = raw.socket.bytesRead;
      const looking = setInterval(() => {
        const late = performance.now() - began - firstRest;
        const received = raw.socket.bytesRead - before;
        if (raw.complete) clearInterval(looking);
        else if (late > 0 && received < (late * slowestRate) / 1000) raw.destroy();
      }, lookEvery);
      const stop = (): void => clearInterval(looking);
      raw.once('close', stop);
      reply.raw.once('close', stop);
    });
    // A refused client need not send the rest; it gets a moment to read the reason.
    app.addHook('onResponse', async ({ raw }) => {
      if (raw.complete) return;
      // What had not come then may be here by now, and another request on its way.
      setTimeout(() => void (raw.complete || raw.destroy()), restOfRefused).unref();
    });
  },
};
