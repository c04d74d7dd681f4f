import { join, normalize, sep } from 'node:path';
import { outputs } from '@ukiyo/contracts';
import type { FastifyInstance, FastifyReply, FastifyRequest } from 'fastify';
import type { FastifyPluginAsyncZod } from 'fastify-type-provider-zod';
import { z } from 'zod';
import type { Access, Grants } from '../access/grants.ts';
import type { Signer } from '../access/signing.ts';
import type { Services } from '../app/services.ts';
import type { Proofer } from '../jobs/proofer.ts';
import { allow, grantOf, notFound, Refused } from './guard.ts';
import { sendFile, sendMade } from './sending.ts';

/**
 * What a signed address leads to: the files of an impression, or the pages of a site as an edition
 * would give it now.
 */
const ProofTarget = z.object({
  kind: z.literal('proof'),
  project: z.uuid(),
  edition: z.uuid(),
  look: z.string(),
});
const Target = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('impression'), id: z.uuid() }),
  ProofTarget,
]);
type ContentTarget = z.infer<typeof Target>;

const Pass = z.object({
  target: Target,
  access: z.object({ kind: z.enum(['session', 'token']), id: z.string() }),
  until: z.number(),
  /** Origin of the application, which may show the content in a frame. */
  from: z.string(),
});

const passHours = 12;
/** Characters of a signed pass; those that are made have some 400. */
export const longestPass = 1500;

/**
 * Everything that is made of people's content is shown below `/content/`, at addresses that are
 * signed for one session and one thing: no cookie is needed there, so that pages run in an origin
 * of their own and still find their fonts and scripts. With an address of its own (`CONTENT_URL`)
 * the content is shown there only.
 */
export interface ContentAddresses {
  /** Leads a request that was let in on to the signed address of a file. */
  redirect(request: FastifyRequest, reply: FastifyReply, target: ContentTarget, path: string): void;
}

export function contentAddresses(signer: Signer, contentUrl: string | undefined): ContentAddresses {
  const addressOf = (access: Access, from: string, target: ContentTarget): string => {
    const until = Math.floor(Date.now() / 1000) + passHours * 3600;
    return `${contentUrl ?? ''}/content/${signer.sign({ target, access, until, from })}`;
  };
  return {
    redirect(request, reply, target, path) {
      const { access } = grantOf(request);
      // It goes into a header and a page: only what can be the name of a server.
      if (!/^[\w.:[\]-]+$/u.test(request.host))
        throw new Refused(400, 'host', 'The request does not name a server that can be.');
      const from = `${request.protocol}://${request.host}`;
      const encoded = path.split('/').map(encodeURIComponent).join('/');
      const query = request.url.includes('?') ? request.url.slice(request.url.indexOf('?')) : '';
      reply.redirect(`${addressOf(access, from, target)}/${encoded}${query}`, 302);
    },
  };
}

/** The file at a requested path below a folder. @throws Refused when the path leads out of it */
function insideOf(folder: string, path: string): string {
  const file = normalize(join(folder, path));
  if (!file.startsWith(folder + sep))
    throw new Refused(400, 'path', 'This path leads out of the impression.');
  return file;
}

/** Whether it is a page with all in it. */
const isOnePage = (path: string): boolean =>
  path === outputs.page.file || /^bundle\/[^/]+\.html$/u.test(path);

/** A session is checked at most this often, in milliseconds: one page asks for a dozen files. */
const recheckAfter = 500;

/** Whether accesses still hold, asked for at most twice a second each. */
function holdsLately(grants: Grants): (access: Access) => Promise<boolean> {
  const asked = new Map<string, { readonly at: number; readonly holds: Promise<boolean> }>();
  return (access) => {
    const now = Date.now();
    for (const [id, { at }] of asked) if (now - at > recheckAfter) asked.delete(id);
    const known = asked.get(access.id);
    if (known) return known.holds;
    const holds = grants.standing([access]).then((standing) => standing.has(access.id));
    asked.set(access.id, { at: now, holds });
    return holds;
  };
}

/**
 * Says that a signed address has expired, and links back.
 * @param from origin of the application, as it was signed
 */
function sendExpired(reply: FastifyReply, from: string): FastifyReply {
  return reply
    .status(403)
    .type('text/html; charset=utf-8')
    .header('cache-control', 'no-store')
    .removeHeader('x-frame-options')
    .header(
      'content-security-policy',
      `default-src 'none'; style-src 'unsafe-inline'; frame-ancestors ${from}; sandbox ` +
        'allow-top-navigation-by-user-activation',
    )
    .send(
      `<!doctype html><html lang="en"><meta charset="utf-8"><title>Address expired</title>
<body style="font: 16px/1.5 sans-serif; margin: 4rem auto; max-width: 32rem; padding: 0 1rem">
<h1 style="font-size: 1.4rem">This address has expired</h1>
<p>It was made for one session. <a href="${from}/publish" target="_top">Open Ukiyo</a>
and open the page again from there.</p>`,
    );
}

/** With an address of its own, the content is served there and nothing else is. */
export function keepContentApart(app: FastifyInstance, contentUrl: string | undefined): void {
  if (contentUrl === undefined) return;
  const { host } = new URL(contentUrl);
  app.addHook('onRequest', async (request) => {
    if ((request.host === host) !== request.url.startsWith('/content/')) throw notFound('address');
  });
}

/** The files behind signed addresses. */
export const contentRoutes =
  ({ signer, grants, impressionFolder }: Services, proofer: Proofer): FastifyPluginAsyncZod =>
  async (app) => {
    const holds = holdsLately(grants);
    const sendProof = async (
      { project, edition, look }: z.infer<typeof ProofTarget>,
      path: string,
      from: string,
      reply: FastifyReply,
    ): Promise<FastifyReply> => {
      const content = await proofer.ask(project, { kind: 'site', edition, look, path });
      if (content === undefined) throw notFound('page');
      return sendMade(path === '' ? 'index.html' : path, content, reply, { framedBy: from });
    };
    app.get(
      '/content/:pass/*',
      allow('anyone', {
        params: z.object({ pass: z.string().max(longestPass), '*': z.string().max(1000) }),
      }),
      async (request, reply) => {
        const { pass: signed, '*': path } = request.params;
        const pass = signer.read(signed, Pass);
        if (!pass) throw notFound('file');
        const { target, access, from, until } = pass;
        if (until < Date.now() / 1000 || !(await holds(access))) return sendExpired(reply, from);
        // Pages in an origin of their own ask for their fonts as strangers do; no cookie is sent or
        // read here.
        reply
          .header('access-control-allow-origin', '*')
          .header('cross-origin-resource-policy', 'cross-origin')
          .header('referrer-policy', 'no-referrer');
        if (target.kind === 'proof') return sendProof(target, path, from, reply);
        return sendFile(insideOf(impressionFolder(target.id), path), reply, {
          isOnePage: isOnePage(path),
          framedBy: from,
        });
      },
    );
  };
