import { isAttachment, type Media } from '@ukiyo/core/media';
import { problem, type Problem } from '@ukiyo/core/problems';
import { assetFileName, isImage, textOfFile, type AssetSource } from '../shared/index.ts';
import { tag, text, type Html } from '../html/index.ts';

/** Address of a file relative to the site's folder, with its size in pixels where known. */
export interface ShownAsset {
  readonly href: string;
  readonly width?: number;
  readonly height?: number;
  readonly mediaType: string;
  /** Of a file of code or data. */
  readonly text?: string;
}

export interface SiteAssets {
  find(id: string): ShownAsset | undefined;
}

/**
 * The files of the library that go out with a publication, by id.
 * @param ofLook images that its look asks for
 * @returns problems `image.unreadable` and `look.image`: those are left out
 */
export function assetsShown(
  ids: readonly string[],
  source: AssetSource,
  ofLook: readonly (string | null | undefined)[] = [],
): { readonly shown: ReadonlyMap<string, ShownAsset>; readonly problems: readonly Problem[] } {
  const problems: Problem[] = [];
  const shown = new Map<string, ShownAsset>();
  const wanted = ofLook.flatMap((id) => (typeof id === 'string' ? [id] : []));
  for (const id of new Set([...ids, ...wanted])) {
    const asset = source(id);
    if (!asset) {
      if (wanted.includes(id))
        problems.push(
          problem(
            'error',
            'look.image',
            `The image “${id}” of the look is not in the library. It is left out.`,
          ),
        );
      continue;
    }
    const isMedia = /^(video|audio)\//u.test(asset.mediaType);
    const isFile = isAttachment(asset.mediaType);
    if (!isMedia && !isFile && !isImage(asset)) {
      problems.push(
        problem(
          'error',
          'image.unreadable',
          `“${asset.name}” is not an image that can be shown. It is left out.`,
        ),
      );
      continue;
    }
    const { width, height } = asset;
    const text = textOfFile(asset);
    shown.set(id, {
      ...(text === undefined ? {} : { text }),
      href: `assets/${assetFileName(asset)}`,
      mediaType: asset.mediaType,
      ...(width === undefined ? {} : { width }),
      ...(height === undefined ? {} : { height }),
    });
  }
  return { shown, problems };
}

const ofLibrary = 'asset:';

/**
 * A player for video or sound of the library or of the web, with what it shows in words below;
 * nothing plays by itself.
 */
export function mediaHtml(
  {
    questions,
    isSite,
  }: { readonly questions: { asset: SiteAssets['find'] }; readonly isSite: boolean },
  media: Media,
  id: string | undefined,
): Html {
  const fileOf = (reference: string): string | undefined =>
    reference.startsWith(ofLibrary)
      ? questions.asset(reference.slice(ofLibrary.length))?.href
      : undefined;
  const source =
    fileOf(media.source) ?? (/^https?:/iu.test(media.source) ? media.source : undefined);
  const words =
    media.description === '' ? [] : [tag('p', { class: 'media-words' }, text(media.description))];
  if (source === undefined) return tag('div', { class: 'media', id }, ...words);
  const label = media.description === '' ? undefined : media.description;
  const poster = media.kind === 'video' ? fileOf(media.poster) : undefined;
  const player = tag(
    media.kind,
    { src: source, controls: true, preload: 'metadata', poster, 'aria-label': label },
    isSite ? tag('a', { href: source }, text(media.description || source)) : [],
  );
  return tag('div', { class: 'media', id }, player, ...words);
}
