import { lensKey, openFacets, type Facet, type Lens, type OpenFacet } from '../facets/index.ts';
import type { Library } from '../library/index.ts';
import type { HouseRule } from '../rules/index.ts';
import { usualNumbering, type Numbering } from '../styles/index.ts';
import { choosing, type Choose } from './alternates.ts';
import type { Composition } from './composition.ts';
import { once, type ComposeMemory } from './memory.ts';

/** The settings that all passes of a composition share. */
export interface ComposeContext {
  readonly library: Library;
  /** Of the map as a whole; a branch has its own. */
  readonly lens: Lens | undefined;
  readonly facets: readonly Facet[];
  readonly rules: readonly HouseRule[];
  readonly variables: Readonly<Record<string, string>>;
  readonly locale: string;
  readonly numbering: Numbering;
  readonly memory: ComposeMemory;
  /** Whether it is for paper; undefined where that is not said. */
  readonly isPrint: boolean | undefined;
  /** The facets left to the readers, by the lens of a branch. */
  readonly openThrough: (lens: Lens | undefined) => readonly OpenFacet[];
  /** Chooses among topics, images and their alternates, by the lens of a branch. */
  readonly chooseThrough: (lens: Lens | undefined) => Choose;
}

export function composeContext(input: Composition, memory: ComposeMemory): ComposeContext {
  const { library, facets = [], rules = [], variables = {}, locale = 'en' } = input;
  const openThrough = oncePerLens((lens) => openFacets(input.open ?? [], facets, lens));
  return {
    library,
    lens: withDelivery(input.lens, input.deliveryTargets),
    isPrint: input.deliveryTargets?.includes('print'),
    facets,
    rules,
    variables,
    locale,
    numbering: input.numbering ?? usualNumbering,
    memory,
    openThrough,
    chooseThrough: oncePerLens((lens) => choosing(library, lens, facets, openThrough(lens))),
  };
}

function oncePerLens<Made>(
  make: (lens: Lens | undefined) => Made,
): (lens: Lens | undefined) => Made {
  const byKey = new Map<string, Made>();
  // Most places have the same lens; its key, which takes longer to make, is only for equal ones.
  const byLens = new Map<Lens | undefined, Made>();
  return (lens) => once(byLens, lens, () => once(byKey, lensKey(lens), () => make(lens)));
}

/** Values of `deliveryTarget` by which outputs are named; others are for filters alone. */
const outputs = [
  'print',
  'pdf',
  'site',
  'page',
  'html',
  'html5',
  'xhtml',
  'epub',
  'markdown',
] as const;

/** The lens, extended to drop content for other outputs (DITA 1.3, `deliveryTarget`). */
function withDelivery(
  lens: Lens | undefined,
  targets: readonly string[] | undefined,
): Lens | undefined {
  if (!targets) return lens;
  const dropped = outputs
    .filter((value) => !targets.includes(value))
    .map((value) => ({ facet: 'deliveryTarget', value, action: 'drop' as const }));
  return { ...lens, name: lens?.name ?? '', rules: [...(lens?.rules ?? []), ...dropped] };
}
