import { literally } from '@ukiyo/core/language';

/**
 * A pattern for a stretch of XML, written as XML. Between tags there may be any white space, and
 * the lines of the sample may be indented; what varies is put in as a pattern.
 */
export function xml(parts: TemplateStringsArray, ...varying: readonly RegExp[]): RegExp {
  const samples = parts.map((part) =>
    literally(part.replace(/\s*\n\s*/gu, '')).replaceAll('><', '>\\s*<'),
  );
  const [first, ...others] = samples;
  const source = others.reduce((made, part, at) => `${made}${varying[at]!.source}${part}`, first!);
  return new RegExp(source, 'u');
}
