import { problem, type Problem } from '@ukiyo/core/problems';

/**
 * The text of an XML file: by byte order mark, else by its declaration, else UTF-8 (W3C XML 1.0,
 * appendix F). Problems: `xml.encoding` when the bytes are not what they claim to be; the text then
 * has replacement characters.
 */
export function decodeXml(bytes: Uint8Array): { text: string; problems: Problem[] } {
  const encoding = declaredEncoding(bytes);
  try {
    return { text: new TextDecoder(encoding, { fatal: true }).decode(bytes), problems: [] };
  } catch (error) {
    const message =
      error instanceof RangeError
        ? `The file says that it is in “${encoding}”, which is not known.`
        : `The file is not in ${encoding}, as it says or as is usual. Some characters are lost.`;
    return {
      text: new TextDecoder().decode(bytes),
      problems: [problem('error', 'xml.encoding', message)],
    };
  }
}

function declaredEncoding(bytes: Uint8Array): string {
  const [first, second, third] = bytes;
  if (first === 0xfe && second === 0xff) return 'utf-16be';
  if (first === 0xff && second === 0xfe) return 'utf-16le';
  if (first === 0xef && second === 0xbb && third === 0xbf) return 'utf-8';
  const head = new TextDecoder('latin1').decode(bytes.subarray(0, 200));
  return (
    /^<\?xml[^>]*\sencoding\s*=\s*["']([\w.-]+)["']/u.exec(head)?.[1]?.toLowerCase() ?? 'utf-8'
  );
}
