import { createRouter, createWebHistory } from 'vue-router';
import { useSession } from './parts/session.ts';
import { screens } from './screens.ts';
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
      component: screens['sign-in'].load,
      meta: { open: true },
    },
    {
      path: '/',
      component: screens.workshop.load,
      children: [
        { path: '', redirect: '/library' },
        {
          path: 'library',
          name: 'library',
          component: screens.library.load,
        },
        {
          path: 'facets',
          name: 'facets',
          component: screens.facets.load,
        },
        {
          path: 'variables',
          name: 'variables',
          component: screens.variables.load,
        },
        {
          path: 'sources/:id?',
          name: 'sources',
          component: screens.sources.load,
          meta: { first: firstSource },
        },
        {
          path: 'agreements',
          name: 'agreements',
          component: screens.agreements.load,
        },
        {
          path: 'write/:id?',
          name: 'write',
          component: screens.write.load,
        },
        {
          path: 'arrange/:id?',
          name: 'arrange',
          component: screens.arrange.load,
          meta: { first: firstMap },
        },
        {
          path: 'whole/:id',
          name: 'whole',
          component: screens.whole.load,
        },
        {
          path: 'appearances',
          name: 'appearances',
          component: screens.appearances.load,
        },
        {
          path: 'copies',
          name: 'copies',
          component: screens.copies.load,
        },
        {
          path: 'style/:kind(sheets|plans)?/:id?',
          name: 'style',
          component: screens.style.load,
          meta: { first: firstSheet },
        },
        {
          path: 'looks/:id?',
          name: 'looks',
          component: screens.looks.load,
          meta: { first: firstLook, stage: 'style' },
        },
        {
          path: 'outside',
          name: 'outside',
          component: screens.outside.load,
          meta: { stage: 'publish' },
        },
        {
          path: 'publish/:id?',
          name: 'publish',
          component: screens.publish.load,
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
