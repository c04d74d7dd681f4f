import { AgreedWord, Agreements } from '@ukiyo/contracts';
import { patternFrom } from '@ukiyo/core/rules';
import type { FastifyPluginAsyncZod } from 'fastify-type-provider-zod';
import { z } from 'zod';
import type { Equipped } from '../jobs/clerk.ts';
import { allow, changedMeanwhile, Refused } from './guard.ts';

const InProject = z.object({ project: z.uuid() });

/**
 * What the team has agreed on: house rules and own facts, set by administrators, and words, to
 * which every writer may add.
 */
export const agreementRoutes =
  ({ agreements, clerk }: Equipped): FastifyPluginAsyncZod =>
  async (app) => {
    app.get(
      '/agreements',
      allow('read', { params: InProject, response: { 200: Agreements } }),
      ({ params }) => agreements.read(params.project),
    );
    app.put(
      '/agreements',
      allow('administer', { params: InProject, body: Agreements, response: { 200: Agreements } }),
      async ({ params, body, log }) => {
        const unreadable = body.rules.find(
          (rule) => rule.kind === 'pattern' && !patternFrom(rule.pattern),
        );
        if (unreadable?.kind === 'pattern')
          throw new Refused(
            400,
            'agreements.pattern',
            `“${unreadable.pattern}” is not a pattern that can be matched.`,
          );
        const doubled = body.rules.find(
          ({ id }, index) => body.rules.findIndex((one) => one.id === id) !== index,
        );
        if (doubled)
          throw new Refused(400, 'agreements.doubled', `Two rules have the id “${doubled.id}”.`);
        const saved = await agreements.save(params.project, body);
        if (!saved) throw changedMeanwhile('agreements.conflict', 'the agreements');
        // The counts in the library are updated afterwards, so that this answer does not wait.
        void clerk.do('recount', params.project).catch((error: unknown) => log.error(error));
        return saved;
      },
    );
    app.post(
      '/agreements/words',
      allow('write', { params: InProject, body: AgreedWord, response: { 200: Agreements } }),
      ({ params, body }) => agreements.addWord(params.project, body.locale, body.word),
    );
  };
