import type { Attributes } from '@ukiyo/core/markup';
import type { Node } from 'prosemirror-model';
import type { NodeViewConstructor } from 'prosemirror-view';

/** What the page needs to know of the library. */
export interface PageContext {
  imageAddress(id: string): string;
}

/** Shows an image from the library, in a line or by itself. */
export function imageView(context: PageContext): NodeViewConstructor {
  return (node: Node) => {
    const { href = '', alt = '', width } = node.attrs['attributes'] as Attributes;
    const dom = document.createElement(node.isInline ? 'span' : 'div');
    dom.className = 'picture';
    dom.dataset['element'] = 'image';
    const image = document.createElement('img');
    const id = href.startsWith('asset:') ? href.slice('asset:'.length) : '';
    image.alt = alt;
    if (id !== '') image.src = context.imageAddress(id);
    if (width !== undefined && /^\d+(\.\d+)?(mm|cm|in|pt|px)$/u.test(width)) image.style.width = width;
    dom.append(image);
    return { dom };
  };
}
