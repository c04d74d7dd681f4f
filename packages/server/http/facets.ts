import { FacetList, ItemSummary, ValueRename, ValueUse, type Facet } from '@ukiyo/contracts';
import { allValues } from '@ukiyo/core/facets';
import type { FastifyPluginAsyncZod } from 'fastify-type-provider-zod';
import { z } from 'zod';
import type { Equipped } from '../jobs/clerk.ts';
import { allow, type Api, changedMeanwhile, personOf, Refused } from './guard.ts';

const InProject = z.object({ project: z.uuid() });
const OneValue = InProject.extend({ facet: z.string().max(100), value: z.string().max(100) });
const Renamed = z.object({ list: FacetList, changed: z.array(z.string()) });

const namesOf = ({ values }: Facet): string[] => allValues(values).map(({ name }) => name);
const namesIn = ({ facets }: FacetList): string =>
  JSON.stringify(facets.map((facet) => [facet.name, namesOf(facet).sort()]).sort());
const firstDouble = (names: readonly string[]): string | undefined =>
  names.find((name, at) => names.indexOf(name) !== at);

/**
 * What is set somewhere is retired or renamed, not taken out: the texts would vary by something
 * unknown.
 */
async function refuseIfUsed({ facets }: Equipped, project: string, next: FacetList): Promise<void> {
  const kept = new Map(next.facets.map((facet) => [facet.name, new Set(namesOf(facet))]));
  const { facets: before } = await facets.read(project);
  const gone = before.flatMap((facet) =>
    allValues(facet.values).flatMap((value) =>
      kept.get(facet.name)?.has(value.name) ? [] : [{ facet: facet.name, ...value }],
    ),
  );
  if (gone.length === 0) return;
  const uses = await facets.uses(project);
  for (const { facet, name, label } of gone) {
    const use = uses.find((one) => one.facet === facet && one.value === name);
    if (use)
      throw new Refused(
        409,
        'facets.used',
        `“${label}” is set at ${use.count} ${use.count === 1 ? 'place' : 'places'} in ` +
          `${use.items} of the topics and maps. Retire it, or make it another value.`,
      );
  }
}

/** Facets, and where their values are set. */
function readingRoutes(app: Api, { facets }: Equipped): void {
  app.get(
    '/facets',
    allow('read', { params: InProject, response: { 200: FacetList } }),
    ({ params }) => facets.read(params.project),
  );
  app.get(
    '/facets/uses',
    allow('read', { params: InProject, response: { 200: z.array(ValueUse) } }),
    ({ params }) => facets.uses(params.project),
  );
  app.get(
    '/facets/uses/:facet/:value',
    allow('read', { params: OneValue, response: { 200: z.array(ItemSummary) } }),
    ({ params }) => facets.usedIn(params.project, params.facet, params.value),
  );
}

/** Facets are changed, and their values renamed. */
function changeRoutes(app: Api, services: Equipped): void {
  const { facets, clerk } = services;
  app.put(
    '/facets',
    allow('publish', { params: InProject, body: FacetList, response: { 200: FacetList } }),
    async ({ params: { project }, body, log }) => {
      const doubled =
        firstDouble(body.facets.map(({ name }) => name)) ??
        body.facets.map((facet) => firstDouble(namesOf(facet))).find((name) => name !== undefined);
      if (doubled !== undefined)
        throw new Refused(400, 'facets.doubled', `The name “${doubled}” is there twice.`);
      await refuseIfUsed(services, project, body);
      const before = await facets.read(project);
      const saved = await facets.save(project, body);
      if (!saved) throw changedMeanwhile('facets.conflict', 'the facets');
      // What is wrong with texts depends on the names alone; the counts in the library follow,
      // and nobody has to wait for them.
      if (namesIn(before) !== namesIn(saved))
        void clerk.do('recount', project).catch((error: unknown) => log.error(error));
      return saved;
    },
  );
  app.post(
    '/facets/rename',
    allow('publish', { params: InProject, body: ValueRename, response: { 200: Renamed } }),
    async (request) => {
      const { project } = request.params;
      const facet = (await facets.read(project)).facets.find(
        ({ name }) => name === request.body.facet,
      );
      if (!facet || !namesOf(facet).includes(request.body.from))
        throw new Refused(
          404,
          'facets.no-value',
          `There is no value “${request.body.from}” in this facet.`,
        );
      const renamed = await clerk.do('renameValue', project, request.body, personOf(request).name);
      if (!renamed) throw changedMeanwhile('facets.conflict', 'the facets');
      return renamed;
    },
  );
}

/**
 * The facets along which content varies: kept by administrators and publishers, used by everybody.
 */
export const facetRoutes =
  (services: Equipped): FastifyPluginAsyncZod =>
  async (app) => {
    readingRoutes(app, services);
    changeRoutes(app, services);
  };
