import type { ResolvedElement } from '@ukiyo/core/compose';

/**
 * A short form as it is read here: in full where it is met first.
 * @param met keys of terms that have been met; added to
 */
export function asMet(element: ResolvedElement, met: Set<string>): ResolvedElement {
  const { firstForm, attributes } = element;
  const key = attributes['keyref'];
  if (!firstForm || key === undefined || met.has(key)) return element;
  met.add(key);
  return { ...element, children: firstForm };
}
