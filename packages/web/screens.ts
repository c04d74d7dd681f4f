/** The screens by the first part of their address, each downloaded when it is first needed. */
export const screens = {
  'sign-in': () => import('./shell/SignIn.vue'),
  workshop: () => import('./shell/WorkShop.vue'),
  library: () => import('./stages/library/LibraryStage.vue'),
  facets: () => import('./stages/facets/FacetsStage.vue'),
  variables: () => import('./stages/variables/VariablesStage.vue'),
  sources: () => import('./stages/sources/SourcesStage.vue'),
  agreements: () => import('./stages/agreements/AgreementsStage.vue'),
  write: () => import('./stages/write/WriteStage.vue'),
  arrange: () => import('./stages/arrange/ArrangeStage.vue'),
  whole: () => import('./stages/whole/WholeStage.vue'),
  appearances: () => import('./stages/appearances/AppearancesStage.vue'),
  copies: () => import('./stages/copies/CopiesStage.vue'),
  style: () => import('./stages/style/StyleStage.vue'),
  looks: () => import('./stages/style/LookStage.vue'),
  outside: () => import('./stages/publish/IntegrationsStage.vue'),
  publish: () => import('./stages/publish/PublishStage.vue'),
};
