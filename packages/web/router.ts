import { createRouter, createWebHistory } from 'vue-router';
import { useSession } from './parts/session.ts';

export const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: '/sign-in', name: 'sign-in', component: () => import('./shell/SignIn.vue'), meta: { open: true } },
    {
      path: '/',
      component: () => import('./shell/WorkShop.vue'),
      children: [
        { path: '', redirect: '/library' },
        { path: 'library', name: 'library', component: () => import('./stages/library/LibraryStage.vue') },
        { path: 'facets', name: 'facets', component: () => import('./stages/facets/FacetsStage.vue') },
        { path: 'variables', name: 'variables', component: () => import('./stages/variables/VariablesStage.vue') },
        { path: 'agreements', name: 'agreements', component: () => import('./stages/agreements/AgreementsStage.vue') },
        { path: 'write/:id?', name: 'write', component: () => import('./stages/write/WriteStage.vue') },
        { path: 'arrange/:id?', name: 'arrange', component: () => import('./stages/arrange/ArrangeStage.vue') },
        { path: 'whole/:id', name: 'whole', component: () => import('./stages/whole/WholeStage.vue') },
        { path: 'appearances', name: 'appearances', component: () => import('./stages/appearances/AppearancesStage.vue') },
        { path: 'copies', name: 'copies', component: () => import('./stages/copies/CopiesStage.vue') },
        { path: 'style/:kind(sheets|plans)?/:id?', name: 'style', component: () => import('./stages/style/StyleStage.vue') },
        { path: 'publish/:id?', name: 'publish', component: () => import('./stages/publish/PublishStage.vue') },
      ],
    },
    { path: '/:rest(.*)*', redirect: '/library' },
  ],
});

router.beforeEach(async (to) => {
  const session = useSession();
  await session.restore();
  if (to.meta['open'] === true || session.person) return true;
  return { name: 'sign-in', query: to.fullPath === '/library' ? {} : { then: to.fullPath } };
});
