import type { Element } from '@ukiyo/core/markup';
import { partLanguageOf } from '../shared/index.ts';
import type { PrintBlock } from './document.ts';

/** The blocks of an element in the language that it says it has. @param locale around it */
export function inLanguage(blocks: PrintBlock[], element: Element, locale: string): PrintBlock[] {
  const language = partLanguageOf(element.attributes, locale);
  return language && blocks.length > 0 ? [{ t: 'lang', c: blocks, ...language }] : blocks;
}
