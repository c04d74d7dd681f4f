/** Files that topics link to or quote: documents, and code or data as text. */

const names = (list: string): readonly string[] => list.split(' ');

/** Endings of files that are read as text. Pages and scripts for servers are not among them. */
const textEndings: ReadonlySet<string> = new Set(
  names(
    'txt csv tsv json yaml yml toml ini cfg conf properties log md diff patch css sql sh bat ps1 ' +
      'py rb pl lua r m tex c h cc cpp hpp cs go rs swift java kt scala ts mjs js dts proto st ' +
      'mml',
  ),
);
const documentTypes: Readonly<Record<string, string>> = {
  pdf: 'application/pdf',
  zip: 'application/zip',
};
const textType = 'text/plain';

const endingOf = (name: string): string => name.slice(name.lastIndexOf('.') + 1).toLowerCase();

/** The media type of a file that can be attached, by its ending; undefined for all others. */
export function attachmentTypeOf(name: string): string | undefined {
  const ending = endingOf(name);
  return documentTypes[ending] ?? (textEndings.has(ending) ? textType : undefined);
}

export const isAttachment = (mediaType: string): boolean =>
  mediaType === textType || Object.values(documentTypes).includes(mediaType);

/** Whether a file is quoted as text (`coderef`). */
export const isTextType = (mediaType: string): boolean => mediaType === textType;

/** A text has no control characters but tabs and the ends of lines and pages. */
export const isReadableText = (text: string): boolean =>
  !/[\u0000-\u0008\u000b\u000e-\u001f]/u.test(text);

/**
 * The lines that a fragment names (RFC 5147, 2.2: `line=2,5` are those between the second and the
 * fifth line end); all of them without one.
 */
export function linesOfText(text: string, fragment = ''): string {
  const [, from = '', to = ''] = /(?:^|;)line=(\d*)(?:,(\d*))?/u.exec(fragment) ?? [];
  const lines = text.replace(/\r\n?/gu, '\n').replace(/\n$/u, '').split('\n');
  if (from === '' && to === '') return lines.join('\n');
  return lines.slice(Number(from), to === '' ? undefined : Number(to)).join('\n');
}

/** Code that a page could load: on a site it is text and nothing else. */
const loadable: ReadonlySet<string> = new Set(['js', 'mjs', 'css']);

/** An ending under which no server runs a file, and no browser draws or runs it. */
export const attachmentEnding = (name: string, mediaType: string): string => {
  const ending = endingOf(name);
  const isPlain = attachmentTypeOf(name) === mediaType && !loadable.has(ending);
  return isPlain ? ending : isTextType(mediaType) ? 'txt' : 'bin';
};
