import type { When } from '../../facets/index.ts';
import { elementById, readReference, type Borrower, type Reference } from '../../library/index.ts';
import type { Element } from '../../markup/index.ts';
import type { Gathering } from './gathering.ts';
import type { Cursor } from './resolved.ts';

/** A topic from which is borrowed, and who gets what it gives; everybody, where nothing is said. */
export interface PassageSource {
  readonly id: string;
  readonly root: Element;
  readonly when?: When;
}

type ItemReference = Reference & { readonly kind: 'item' };

/** What a borrower names; undefined where that is no topic. */
export function passageReference(
  { attributes, place }: Borrower<Cursor>,
  gathering: Gathering,
): ItemReference | undefined {
  const { conref, conkeyref = '' } = attributes;
  const reference =
    conref === undefined ? gathering.keyTarget(conkeyref) : readReference(conref, place.item);
  return reference?.kind === 'item' ? reference : undefined;
}

/**
 * The topics that give what a reference names: that which is chosen for these readers, and where
 * readers decide, alternates for some of them. An alternate gives only what it has.
 */
export function passageSources(
  { id, element }: ItemReference,
  gathering: Gathering,
): readonly PassageSource[] {
  const having = (one: string): PassageSource | undefined => {
    const root = gathering.readItem(one)?.root;
    return root && elementById(root, element) ? { id: one, root } : undefined;
  };
  const { id: chosen, others, when } = gathering.choose(id);
  const closer = others.flatMap((other) => {
    const source = having(other.id);
    return source ? [{ ...source, when: other.when }] : [];
  });
  const base = gathering.readItem(id)?.root;
  const rest = (chosen === id ? undefined : having(chosen)) ?? (base && { id, root: base });
  if (!rest) return closer;
  if (closer.length === 0) return [rest];
  // Readers whose alternate has no such element get that of the others.
  const unless = closer.flatMap((one) => (one.when.all ? [one.when.all] : []));
  return [
    ...closer,
    { ...rest, when: closer.length === others.length && when ? when : { unless } },
  ];
}
