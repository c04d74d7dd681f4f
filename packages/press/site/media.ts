import type { Element } from '@ukiyo/core/markup';
import { readMedia } from '@ukiyo/core/media';
import { raw, tag, text, type Html } from './html.ts';

export interface SiteAssets {
  /** Address of a file relative to the site's folder, with its size in pixels where known. */
  find(id: string): { readonly href: string; readonly width?: number; readonly height?: number; readonly mediaType: string } | undefined;
}

const ofLibrary = 'asset:';

/** A player for video or sound of the library or of the web, with what it shows in words below; nothing plays by itself. */
export function mediaHtml(object: Element, assets: SiteAssets, id: string | undefined): Html {
  const media = readMedia(object);
  if (!media) return raw('');
  const fileOf = (reference: string): string | undefined => (reference.startsWith(ofLibrary) ? assets.find(reference.slice(ofLibrary.length))?.href : undefined);
  const source = fileOf(media.source) ?? (/^https?:/iu.test(media.source) ? media.source : undefined);
  const words = media.description === '' ? [] : [tag('p', { class: 'media-words' }, text(media.description))];
  if (source === undefined) return tag('div', { class: 'media', id }, ...words);
  const label = media.description === '' ? undefined : media.description;
  const poster = media.kind === 'video' ? fileOf(media.poster) : undefined;
  const player = tag(media.kind, { src: source, controls: true, preload: 'metadata', poster, 'aria-label': label }, tag('a', { href: source }, text(media.description || source)));
  return tag('div', { class: 'media', id }, player, ...words);
}
