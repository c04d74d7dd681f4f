import { assetListAddress, listAddress } from './parts/listAddress.ts';

/** A screen, by the first part of its address. */
export interface Screen {
  /** Downloads it, when it is first needed. */
  readonly load: () => Promise<unknown>;
  /**
   * What it asks of the project first, as paths: with the first screen these are asked for before
   * the program is read.
   * @param id the second part of the address
   */
  readonly asks?: (id: string) => readonly string[];
  /** Whether it keeps what is typed in this browser until the server has it. */
  readonly keepsSteps?: boolean;
}

/** What every screen within the frame asks for. */
const everywhere = ['/lenses', '/facets', '/agreements'];
const topics = listAddress({ kind: 'topic' }, 0);

export const screens = {
  'sign-in': { load: () => import('./shell/SignIn.vue') },
  workshop: { load: () => import('./shell/WorkShop.vue') },
  library: {
    load: () => import('./stages/library/LibraryStage.vue'),
    asks: () => [...everywhere, listAddress({}, 0), assetListAddress({}, 0), '/folders'],
  },
  facets: { load: () => import('./stages/facets/FacetsStage.vue') },
  variables: { load: () => import('./stages/variables/VariablesStage.vue') },
  sources: { load: () => import('./stages/sources/SourcesStage.vue') },
  agreements: { load: () => import('./stages/agreements/AgreementsStage.vue') },
  write: {
    load: () => import('./stages/write/WriteStage.vue'),
    asks: (id) => [
      ...(id === '' ? [] : [`/live/${id}/document`]),
      ...['/variables', topics, ...everywhere, '/sources'],
    ],
    keepsSteps: true,
  },
  arrange: {
    load: () => import('./stages/arrange/ArrangeStage.vue'),
    asks: (id) => [
      ...(id === '' ? [] : [`/items/${id}`]),
      ...['/variables', '/editions', ...everywhere],
    ],
  },
  whole: { load: () => import('./stages/whole/WholeStage.vue'), keepsSteps: true },
  appearances: { load: () => import('./stages/appearances/AppearancesStage.vue') },
  copies: { load: () => import('./stages/copies/CopiesStage.vue') },
  style: { load: () => import('./stages/style/StyleStage.vue') },
  looks: { load: () => import('./stages/style/LookStage.vue') },
  outside: { load: () => import('./stages/publish/IntegrationsStage.vue') },
  publish: { load: () => import('./stages/publish/PublishStage.vue') },
} satisfies Record<string, Screen>;
