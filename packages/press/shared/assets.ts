import { readXml } from '@ukiyo/core/markup';
import { attachmentEnding, isTextType } from '@ukiyo/core/media';

/** An image or other file that a publication shows. */
export interface AssetFile {
  readonly id: string;
  readonly name: string;
  readonly mediaType: string;
  readonly width?: number;
  readonly height?: number;
  readonly bytes: Uint8Array;
}

/** Gives the file of an asset, or undefined when it cannot be had. */
export type AssetSource = (id: string) => AssetFile | undefined;

const signatures: readonly (readonly [string, readonly number[]])[] = [
  ['image/png', [0x89, 0x50, 0x4e, 0x47]],
  ['image/jpeg', [0xff, 0xd8, 0xff]],
  ['image/gif', [0x47, 0x49, 0x46, 0x38]],
  ['image/webp', [0x52, 0x49, 0x46, 0x46]],
];

/** Whether the bytes are what the media type says, as far as their beginning tells. */
export function isImage({ mediaType, bytes }: Pick<AssetFile, 'mediaType' | 'bytes'>): boolean {
  if (mediaType === 'image/svg+xml')
    return readXml(new TextDecoder().decode(bytes)).document?.root.name === 'svg';
  const signature = signatures.find(([type]) => type === mediaType)?.[1];
  return signature !== undefined && signature.every((byte, index) => bytes[index] === byte);
}

/** The text of a file of code or data; undefined for all others. */
export const textOfFile = ({ mediaType, bytes }: AssetFile): string | undefined =>
  isTextType(mediaType) ? new TextDecoder().decode(bytes) : undefined;

const endings: Record<string, string> = {
  'image/svg+xml': 'svg',
  'image/png': 'png',
  'image/jpeg': 'jpg',
  'image/gif': 'gif',
  'image/webp': 'webp',
  'video/mp4': 'mp4',
  'video/webm': 'webm',
  'audio/mpeg': 'mp3',
};

/**
 * A file name that is safe anywhere: made from the id and the media type; of what a person typed
 * only an ending that is known to be harmless.
 */
export function assetFileName({
  id,
  name,
  mediaType,
}: Pick<AssetFile, 'id' | 'name' | 'mediaType'>): string {
  const ending = endings[mediaType] ?? attachmentEnding(name, mediaType);
  return `${id.replace(/[^A-Za-z0-9-]/gu, '_')}.${ending}`;
}
