/** A media type that the library takes, and the endings under which files of it go. */
interface KnownType {
  readonly mediaType: string;
  /** The first is given to files whose own ending is another. */
  readonly endings: readonly [string, ...string[]];
  /** Whether a file begins as files of this type do. */
  readonly matches: (head: Buffer) => boolean;
}

const begins = (head: Buffer, at: number, text: string): boolean =>
  head.subarray(at, at + text.length).toString('latin1') === text;

/**
 * Binary types by their first bytes (PNG 3rd edition, 5.2; JFIF; GIF89a, 17; RFC 9649; ISO
 * 14496-12, 4.3; RFC 8794; ID3 2.4, 3.1; ISO 11172-3, 2.4.2.3). SVG is text and is recognised by
 * reading it.
 */
const binaryTypes: readonly KnownType[] = [
  {
    mediaType: 'image/png',
    endings: ['.png'],
    matches: (head) => begins(head, 0, '\x89PNG\r\n\x1a\n'),
  },
  {
    mediaType: 'image/jpeg',
    endings: ['.jpg', '.jpeg'],
    matches: (head) => begins(head, 0, '\xff\xd8\xff'),
  },
  {
    mediaType: 'image/gif',
    endings: ['.gif'],
    matches: (head) => begins(head, 0, 'GIF87a') || begins(head, 0, 'GIF89a'),
  },
  {
    mediaType: 'image/webp',
    endings: ['.webp'],
    matches: (head) => begins(head, 0, 'RIFF') && begins(head, 8, 'WEBP'),
  },
  { mediaType: 'video/mp4', endings: ['.mp4'], matches: (head) => begins(head, 4, 'ftyp') },
  {
    mediaType: 'video/webm',
    endings: ['.webm'],
    matches: (head) => begins(head, 0, '\x1aE\xdf\xa3') && head.subarray(0, 64).includes('webm'),
  },
  {
    mediaType: 'audio/mpeg',
    endings: ['.mp3'],
    matches: (head) =>
      begins(head, 0, 'ID3') || (head[0] === 0xff && ((head[1] ?? 0) & 0xe0) === 0xe0),
  },
];

export const svgType = 'image/svg+xml';
const endingsByType: ReadonlyMap<string, readonly [string, ...string[]]> = new Map([
  ...binaryTypes.map(({ mediaType, endings }) => [mediaType, endings] as const),
  [svgType, ['.svg']],
]);

/** As many bytes of a file as its type can be told by. */
export const headLength = 64;

/**
 * The media type that the first bytes of a file show; undefined for text and for anything unknown.
 */
export function sniffedType(head: Uint8Array): string | undefined {
  const view = Buffer.from(head.buffer, head.byteOffset, Math.min(head.byteLength, headLength));
  return binaryTypes.find(({ matches }) => matches(view))?.mediaType;
}

/** The name without its ending, and the ending with its dot. */
function splitName(name: string): readonly [stem: string, ending: string] {
  const dot = name.lastIndexOf('.');
  return dot <= 0 ? [name, ''] : [name.slice(0, dot), name.slice(dot)];
}

/**
 * A file name whose ending is one of its type: browsers and file managers go by endings, so that a
 * script called `page.html` must not keep that name because it begins like an image.
 */
export function nameForType(name: string, mediaType: string): string {
  const endings = endingsByType.get(mediaType);
  const [stem, ending] = splitName(name);
  if (!endings || endings.includes(ending.toLowerCase())) return name;
  return `${stem}${endings[0]}`;
}

/** The media type that goes with a file's ending, where it is one that people bring. */
export function typeByEnding(ending: string): string | undefined {
  for (const [mediaType, endings] of endingsByType)
    if (endings.includes(ending.toLowerCase())) return mediaType;
  return undefined;
}
