import { blockFrom, editorSchema, special } from '@ukiyo/core/editing';
import type { Element } from '@ukiyo/core/markup';
import { DOMSerializer } from 'prosemirror-model';
import { pictureDom, type PageImages } from './views.ts';

/**
 * What a passage borrows, as it looks where it is written: its paragraphs, lists and tables.
 * The first element is there already, as the one that borrows; of it the content is shown.
 */
export function passageDom(elements: readonly Element[], context: PageImages): DocumentFragment {
  const ofSchema = DOMSerializer.nodesFromSchema(editorSchema);
  const image = (node: Parameters<typeof pictureDom>[0]): HTMLElement =>
    pictureDom(node, context).dom;
  const serializer = new DOMSerializer(
    { ...ofSchema, image, [special.blockImage]: image },
    DOMSerializer.marksFromSchema(editorSchema),
  );
  const lent = document.createDocumentFragment();
  elements.forEach((element, at) => {
    const node = blockFrom(element);
    if (at > 0) lent.append('\n');
    lent.append(
      at > 0 || node.isLeaf
        ? serializer.serializeNode(node)
        : serializer.serializeFragment(node.content),
    );
  });
  return lent;
}
