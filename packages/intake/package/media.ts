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
