import { withWidth } from '@ukiyo/core/editing';
import { isElement, textOf, type Attributes, type Node as XmlNode } from '@ukiyo/core/markup';
import { readMedia, type Media } from '@ukiyo/core/media';
import { DOMSerializer, type Node } from 'prosemirror-model';
import type { EditorView, NodeViewConstructor } from 'prosemirror-view';
import { nodeDom } from './dom.ts';

/** What the page needs to know of the library. */
export interface PageImages {
  imageAddress(id: string): string;
  /** The reference of the image that a key stands for. */
  keyedImage(key: string): string | undefined;
}

const millimetre = 96 / 25.4;
const narrowest = 5;

/**
 * Pulls at a corner: the width follows the hand, the height the width; one step for the whole pull.
 */
function handle(
  view: EditorView,
  image: HTMLImageElement,
  place: () => number | undefined,
): HTMLElement {
  const dom = document.createElement('span');
  dom.className = 'pull';
  dom.title = 'Pull to change the width';
  dom.addEventListener('pointerdown', (down) => {
    down.preventDefault();
    down.stopPropagation();
    dom.setPointerCapture(down.pointerId);
    const start = image.getBoundingClientRect().width;
    const widthAt = ({ clientX }: PointerEvent): number =>
      Math.max(narrowest * millimetre, start + clientX - down.clientX);
    const pull = (move: PointerEvent): void => void (image.style.width = `${widthAt(move)}px`);
    dom.addEventListener('pointermove', pull);
    dom.addEventListener(
      'pointerup',
      (up) => {
        dom.removeEventListener('pointermove', pull);
        const position = place();
        if (position !== undefined)
          view.dispatch(withWidth(view.state, position, widthAt(up) / millimetre));
      },
      { once: true },
    );
  });
  return dom;
}

/** An image of the library, in a line or by itself. */
export function pictureDom(
  node: Node,
  context: PageImages,
): { readonly dom: HTMLElement; readonly image: HTMLImageElement } {
  const { keyref, href: own = '', alt: short = '', width } = node.attrs['attributes'] as Attributes;
  const href = (keyref === undefined ? undefined : context.keyedImage(keyref)) ?? own;
  const alt = (node.attrs['children'] as readonly XmlNode[]).find(
    (child) => isElement(child) && child.name === 'alt',
  );
  const dom = document.createElement(node.isInline ? 'span' : 'div');
  dom.className = 'picture';
  dom.dataset['element'] = 'image';
  const image = document.createElement('img');
  const id = href.startsWith('asset:') ? href.slice('asset:'.length) : '';
  image.alt = alt ? textOf(alt) : short;
  if (image.alt === '') dom.classList.add('without-alt');
  if (id !== '') image.src = context.imageAddress(id);
  if (width !== undefined && /^\d+(\.\d+)?(mm|cm|in|pt|px)$/u.test(width))
    image.style.width = width;
  dom.append(image);
  return { dom, image };
}

/** The same, to be pulled wider or narrower. */
export function imageView(context: PageImages): NodeViewConstructor {
  return (node: Node, view, getPosition) => {
    const { dom, image } = pictureDom(node, context);
    if (view.editable) dom.append(handle(view, image, getPosition));
    return {
      dom,
      stopEvent: (event) =>
        event.target instanceof HTMLElement && event.target.classList.contains('pull'),
    };
  };
}

const ofLibrary = 'asset:';

/** A player for what lies in the library; what lies elsewhere is named, not loaded. */
function mediaDom(
  { source, description, poster, kind }: Media,
  context: PageImages,
  tag: 'div' | 'span',
): HTMLElement {
  const dom = document.createElement(tag);
  dom.className = 'media';
  dom.dataset['element'] = 'object';
  dom.contentEditable = 'false';
  const addressOf = (reference: string): string =>
    context.imageAddress(reference.slice(ofLibrary.length));
  if (source.startsWith(ofLibrary)) {
    const player = document.createElement(kind);
    player.controls = true;
    player.preload = 'metadata';
    player.src = addressOf(source);
    player.setAttribute('aria-label', description);
    if (player instanceof HTMLVideoElement && poster.startsWith(ofLibrary))
      player.poster = addressOf(poster);
    dom.append(player);
  } else if (poster.startsWith(ofLibrary)) {
    const image = document.createElement('img');
    image.src = addressOf(poster);
    image.alt = '';
    dom.append(image);
  }
  const words = document.createElement('span');
  words.className = 'words';
  words.textContent = [description, source.startsWith(ofLibrary) ? '' : source]
    .filter((part) => part !== '')
    .join(' · ');
  dom.append(words);
  return dom;
}

/** What is shown but not opened; of that, video and sound can be played. */
export function closedView(context: PageImages): NodeViewConstructor {
  return (node: Node) => {
    const held = node.attrs['node'] as XmlNode;
    const media = isElement(held) && held.name === 'object' ? readMedia(held) : undefined;
    if (media)
      return {
        dom: mediaDom(media, context, node.isInline ? 'span' : 'div'),
        stopEvent: (event) => event.target instanceof HTMLMediaElement && event.type !== 'dblclick',
      };
    return DOMSerializer.renderSpec(document, nodeDom(node));
  };
}
