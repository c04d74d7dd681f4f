import { createRouter, createWebHistory } from 'vue-router';
import { useSession } from './parts/session.ts';
import { firstEdition, firstLook, firstMap, firstSheet, firstSource } from './shell/first.ts';

declare module 'vue-router' {
  interface RouteMeta {
    /** May be seen by anybody. */
    open?: boolean;
    /** The stage of the work to which it belongs, where it is not the one of its name. */
    stage?: string;
    /** What is opened where the address names nothing. */
    first?: () => Promise<Readonly<Record<string, string>> | undefined>;
  }
}

export const router = createRouter({
  history: createWebHistory(),
  routes: [
    {
      path: '/sign-in',
      name: 'sign-in',
      component: () => import('./shell/SignIn.vue'),
      meta: { open: true },
    },
    {
      path: '/',
      component: () => import('./shell/WorkShop.vue'),
      children: [
        { path: '', redirect: '/library' },
        {
          path: 'library',
          name: 'library',
          component: () => import('./stages/library/LibraryStage.vue'),
        },
        {
          path: 'facets',
          name: 'facets',
          component: () => import('./stages/facets/FacetsStage.vue'),
        },
        {
          path: 'variables',
          name: 'variables',
          component: () => import('./stages/variables/VariablesStage.vue'),
        },
        {
          path: 'sources/:id?',
          name: 'sources',
          component: () => import('./stages/sources/SourcesStage.vue'),
          meta: { first: firstSource },
        },
        {
          path: 'agreements',
          name: 'agreements',
          component: () => import('./stages/agreements/AgreementsStage.vue'),
        },
        {
          path: 'write/:id?',
          name: 'write',
          component: () => import('./stages/write/WriteStage.vue'),
        },
        {
          path: 'arrange/:id?',
          name: 'arrange',
          component: () => import('./stages/arrange/ArrangeStage.vue'),
          meta: { first: firstMap },
        },
        {
          path: 'whole/:id',
          name: 'whole',
          component: () => import('./stages/whole/WholeStage.vue'),
        },
        {
          path: 'appearances',
          name: 'appearances',
          component: () => import('./stages/appearances/AppearancesStage.vue'),
        },
        {
          path: 'copies',
          name: 'copies',
          component: () => import('./stages/copies/CopiesStage.vue'),
        },
        {
          path: 'style/:kind(sheets|plans)?/:id?',
          name: 'style',
          component: () => import('./stages/style/StyleStage.vue'),
          meta: { first: firstSheet },
        },
        {
          path: 'looks/:id?',
          name: 'looks',
          component: () => import('./stages/style/LookStage.vue'),
          meta: { first: firstLook, stage: 'style' },
        },
        {
          path: 'outside',
          name: 'outside',
          component: () => import('./stages/publish/OutsideStage.vue'),
          meta: { stage: 'publish' },
        },
        {
          path: 'publish/:id?',
          name: 'publish',
          component: () => import('./stages/publish/PublishStage.vue'),
          meta: { first: firstEdition },
        },
      ],
    },
    { path: '/:rest(.*)*', redirect: '/library' },
  ],
});

router.beforeEach(async (to) => {
  const session = useSession();
  await session.restore();
  if (to.meta.open !== true && !session.person)
    return { name: 'sign-in', query: to.fullPath === '/library' ? {} : { then: to.fullPath } };
  // Chosen on the way in, and not by the stage once it is open: there it would take back a way that
  // somebody has gone since.
  const params = (to.params['id'] ?? '') === '' ? await to.meta.first?.() : undefined;
  return params ? { ...to, name: to.name!, params, replace: true } : true;
});
