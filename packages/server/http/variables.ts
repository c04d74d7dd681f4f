import { ItemId, VariableChange, VariableRename, Variables } from '@ukiyo/contracts';
import { markupNodes } from '@ukiyo/core/library';
import type { FastifyPluginAsyncZod } from 'fastify-type-provider-zod';
import { z } from 'zod';
import type { Equipped } from '../jobs/clerk.ts';
import { allow, changedMeanwhile, notFound, personOf, Refused } from './guard.ts';

const InProject = z.object({ project: z.uuid() });

/** Variables: what maps define, which maps hold which set, one name for another. */
export const variableRoutes =
  ({ clerk }: Equipped): FastifyPluginAsyncZod =>
  async (app) => {
    app.get(
      '/variables',
      allow('read', { params: InProject, response: { 200: Variables } }),
      ({ params }) => clerk.do('readVariables', params.project),
    );
    app.post(
      '/variables/rename',
      allow('write', { params: InProject, body: VariableRename, response: { 200: Variables } }),
      async (request) => {
        const { project } = request.params;
        const { from, to } = request.body;
        const known = new Set(
          (await clerk.do('readVariables', project)).variables.map(({ key }) => key),
        );
        if (!known.has(from)) throw notFound('variable');
        if (from !== to && known.has(to))
          throw new Refused(409, 'variables.taken', `There is a variable “${to}” already.`);
        await clerk.do('renameVariable', project, { from, to }, personOf(request).name);
        return clerk.do('readVariables', project);
      },
    );
    app.post(
      '/variables/:set',
      allow('write', {
        params: InProject.extend({ set: ItemId }),
        body: VariableChange,
        response: { 200: Variables },
      }),
      async (request) => {
        const { project, set } = request.params;
        const { body } = request;
        if (body.kind === 'define' && markupNodes(body.definition.markup) === undefined)
          throw new Refused(400, 'variables.markup', 'What the variable says cannot be read.');
        if (body.kind === 'remove') await refuseIfLast(project, body.at.key);
        if (body.kind === 'held' && body.on && body.map === set)
          throw new Refused(400, 'variables.itself', 'A map cannot take itself in.');
        const changed = await clerk.do(
          'changeVariables',
          project,
          { set, change: body },
          personOf(request).name,
        );
        if (!changed) throw changedMeanwhile('variables.conflict', 'this set of variables');
        return clerk.do('readVariables', project);
      },
    );

    /** What is used keeps at least one definition. */
    async function refuseIfLast(project: string, key: string): Promise<void> {
      const { variables: all, uses } = await clerk.do('readVariables', project);
      const use = uses[key];
      if (use && all.filter((one) => one.key === key).length === 1)
        throw new Refused(
          409,
          'variables.used',
          `“${key}” is used at ${use.count} ${use.count === 1 ? 'place' : 'places'} in ` +
            `${use.items} of the topics and maps. Take it out there first, or give it another ` +
            'name.',
        );
    }
  };
