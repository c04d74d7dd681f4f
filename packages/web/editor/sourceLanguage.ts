import { xml, type ElementSpec } from '@codemirror/lang-xml';
import { markdown } from '@codemirror/lang-markdown';
import { HighlightStyle } from '@codemirror/language';
import type { Extension } from '@codemirror/state';
import { tags } from '@lezer/highlight';
import {
  allowedIn,
  attributesOf,
  definitionOf,
  elementDefinitions,
  isMap,
  isTopic,
  labelOf,
} from '@ukiyo/core/grammar';

/**
 * What completion offers, from the table of elements: names with their plain words, attributes with
 * their closed values.
 */
const elements = (): ElementSpec[] =>
  elementDefinitions
    .filter(({ name }) => !isMap(name))
    .map(({ name, help }) => ({
      name,
      top: isTopic(name),
      children: allowedIn(name).filter((child) => definitionOf(child) !== undefined),
      attributes: attributesOf(name).map((attribute) => ({
        name: attribute.name,
        ...(attribute.values ? { values: [...attribute.values] } : {}),
        completion: { info: attribute.help },
      })),
      completion: { detail: labelOf(name), info: help },
    }));

export type SourceLanguage = 'source' | 'markdown';
export const languageOf = (language: SourceLanguage): Extension =>
  language === 'source' ? xml({ elements: elements() }) : markdown();

/** The workshop's own colours, by day and by night. */
export const colours = HighlightStyle.define([
  { tag: [tags.tagName, tags.heading, tags.angleBracket], color: 'var(--prussian)' },
  {
    tag: [tags.attributeName, tags.processingInstruction, tags.comment, tags.quote],
    color: 'var(--soft)',
  },
  { tag: [tags.attributeValue, tags.url, tags.link, tags.monospace], color: 'var(--wisteria)' },
  { tag: tags.strong, fontWeight: '700' },
  { tag: tags.emphasis, fontStyle: 'italic' },
  { tag: tags.heading, fontWeight: '600' },
]);
