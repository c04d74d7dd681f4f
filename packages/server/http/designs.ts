import {
  DesignKind,
  Designs,
  KeptLook,
  KeptPlan,
  LookChange,
  KeptSheet,
  PlanChange,
  Proof,
  ProofOrder,
  SheetChange,
  SiteProof,
  SpecimenOrder,
  StyleId,
  WholeProof,
  WholeProofOrder,
} from '@ukiyo/contracts';
import type { FastifyPluginAsyncZod } from 'fastify-type-provider-zod';
import { z } from 'zod';
import type { Services } from '../app/services.ts';
import type { Proofer } from '../jobs/proofer.ts';
import { allow, type Api, changedMeanwhile, notFound, Refused } from './guard.ts';
import type { ContentAddresses } from './content.ts';
import { sendFile } from './sending.ts';

const InProject = z.object({ project: z.uuid() });
const OneEdition = InProject.extend({ id: z.uuid() });
const One = InProject.extend({ id: StyleId });

/** What of an edition names one. */
const usedAs = { sheets: 'sheet', plans: 'plan', looks: 'look' } as const;
const calledAs = { sheets: 'style sheet', plans: 'page plan', looks: 'site look' } as const;

/** Drawings are large and waited for with every key: what packs them best takes longest. */
const packedFast = { encodings: ['gzip' as const], zlibOptions: { level: 1 } };

/** Designs are read, saved and deleted. */
function keepingRoutes(app: Api, { designs, editions }: Services): void {
  app.get(
    '/designs',
    allow('read', { params: InProject, response: { 200: Designs } }),
    ({ params }) => designs.read(params.project),
  );
  app.put(
    '/designs/sheets/:id',
    allow('publish', { params: One, body: SheetChange, response: { 200: KeptSheet } }),
    async ({ params, body }) => {
      const saved = await designs.save(params.project, {
        kind: 'sheets',
        id: params.id,
        ...body,
      });
      if (!saved) throw changedMeanwhile('design.changed', 'this design');
      return saved;
    },
  );
  app.put(
    '/designs/plans/:id',
    allow('publish', { params: One, body: PlanChange, response: { 200: KeptPlan } }),
    async ({ params, body }) => {
      const saved = await designs.save(params.project, { kind: 'plans', id: params.id, ...body });
      if (!saved) throw changedMeanwhile('design.changed', 'this design');
      return saved;
    },
  );
  app.put(
    '/designs/looks/:id',
    allow('publish', { params: One, body: LookChange, response: { 200: KeptLook } }),
    async ({ params, body }) => {
      const saved = await designs.save(params.project, { kind: 'looks', id: params.id, ...body });
      if (!saved) throw changedMeanwhile('design.changed', 'this design');
      return saved;
    },
  );
  app.delete(
    '/designs/:kind/:id',
    allow('publish', { params: One.extend({ kind: DesignKind }), response: { 204: z.null() } }),
    async ({ params: { project, kind, id } }, reply) => {
      const ships =
        (await designs.read(project))[kind].find((one) => one.id === id)?.ships ?? false;
      const users = (await editions.editions(project))
        .filter((edition) => edition[usedAs[kind]] === id)
        .map(({ name }) => `“${name}”`);
      if (!ships && users.length > 0)
        throw new Refused(
          409,
          'design.used',
          `${users.join(', ')} ${users.length === 1 ? 'is' : 'are'} made with it. Choose ` +
            'another one there first.',
        );
      if (!(await designs.remove(project, kind, id))) throw notFound(calledAs[kind]);
      return reply.status(204).send(null);
    },
  );
}

/** Proofs of pages: of a specimen, a topic, and a whole edition. */
function printProofRoutes(app: Api, { editions, proofFile }: Services, proofer: Proofer): void {
  app.post(
    '/designs/specimen',
    {
      compress: packedFast,
      config: { permission: 'read' },
      schema: { params: InProject, body: SpecimenOrder, response: { 200: Proof } },
    },
    ({ params, body }) => proofer.ask(params.project, { kind: 'specimen', ...body }),
  );
  app.post(
    '/editions/:id/proof',
    {
      compress: packedFast,
      config: { permission: 'read' },
      bodyLimit: 3 * 1024 * 1024,
      schema: { params: OneEdition, body: ProofOrder, response: { 200: Proof } },
    },
    async ({ params, body }) => {
      const proof = await proofer.ask(params.project, {
        kind: 'topic',
        edition: params.id,
        ...body,
      });
      if (!proof) throw notFound('edition');
      return proof;
    },
  );
  app.post(
    '/editions/:id/proof/whole',
    allow('read', { params: OneEdition, body: WholeProofOrder, response: { 200: WholeProof } }),
    async ({ params, body }) => {
      const proof = await proofer.ask(params.project, {
        kind: 'whole',
        edition: params.id,
        file: proofFile(params.id),
        ...body,
      });
      if (!proof) throw notFound('edition');
      return proof;
    },
  );
  app.get(
    '/editions/:id/proof/whole.pdf',
    allow('read', { params: OneEdition }),
    async ({ params }, reply) => {
      if (!(await editions.edition(params.project, params.id))) throw notFound('edition');
      return sendFile(proofFile(params.id), reply);
    },
  );
}

/** Proofs of help sites. */
function siteProofRoutes(
  app: Api,
  { editions }: Services,
  proofer: Proofer,
  content: ContentAddresses,
): void {
  app.post(
    '/editions/:id/proof/site',
    {
      compress: packedFast,
      config: { permission: 'read' },
      bodyLimit: 3 * 1024 * 1024,
      schema: { params: OneEdition, body: ProofOrder, response: { 200: SiteProof } },
    },
    async ({ params, body: { item, text } }) => {
      const proof = await proofer.ask(params.project, {
        kind: 'sitePage',
        edition: params.id,
        item,
        ...(text === undefined ? {} : { text }),
      });
      if (!proof) throw notFound('edition');
      return proof;
    },
  );
  app.get(
    '/editions/:id/proof/site/:look/*',
    allow('read', { params: OneEdition.extend({ look: StyleId, '*': z.string().max(500) }) }),
    async (request, reply) => {
      const { project, id: edition, look, '*': path } = request.params;
      if (!(await editions.edition(project, edition))) throw notFound('edition');
      return content.redirect(request, reply, { kind: 'proof', project, edition, look }, path);
    },
  );
}

/**
 * Style sheets and page plans, kept by publishers; proofs of what they make of a specimen or a
 * topic.
 */
export const designRoutes =
  (services: Services, proofer: Proofer, content: ContentAddresses): FastifyPluginAsyncZod =>
  async (app) => {
    keepingRoutes(app, services);
    printProofRoutes(app, services, proofer);
    siteProofRoutes(app, services, proofer, content);
  };
