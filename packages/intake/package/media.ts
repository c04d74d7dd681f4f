import { isReadableText, isTextType } from '@ukiyo/core/media';

/**
 * Media types of the files that a library keeps beside its topics, by ending. What a file really
 * is, is checked where it is stored.
 */
const types: Readonly<Record<string, string>> = {
  svg: 'image/svg+xml',
  png: 'image/png',
  jpg: 'image/jpeg',
  jpeg: 'image/jpeg',
  gif: 'image/gif',
  webp: 'image/webp',
  mp4: 'video/mp4',
  webm: 'video/webm',
  mp3: 'audio/mpeg',
};

export function mediaTypeOf(name: string): string | undefined {
  return types[name.slice(name.lastIndexOf('.') + 1).toLowerCase()];
}

const signatures: Readonly<Record<string, readonly number[]>> = {
  'application/pdf': [0x25, 0x50, 0x44, 0x46, 0x2d],
  'application/zip': [0x50, 0x4b, 0x03, 0x04],
};

function isText(bytes: Uint8Array): boolean {
  try {
    return isReadableText(new TextDecoder('utf-8', { fatal: true }).decode(bytes));
  } catch {
    return false;
  }
}

/** Whether an attached file is what its ending says (ISO 32000-2, 7.5.2; APPNOTE 4.3.7). */
export const isWhatItSays = (mediaType: string, bytes: Uint8Array): boolean =>
  isTextType(mediaType)
    ? isText(bytes)
    : (signatures[mediaType]?.every((byte, at) => bytes[at] === byte) ?? false);
