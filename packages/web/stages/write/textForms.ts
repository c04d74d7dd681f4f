import { writeCanonical } from '@ukiyo/core/grammar';
import type { Agreed } from '@ukiyo/core/library';
import type { Element } from '@ukiyo/core/markup';
import type { Problem } from '@ukiyo/core/problems';
import { unreachable } from '../../parts/api.ts';
import type { SourceLanguage } from '../../editor/sourceLanguage.ts';

/** How a topic is written as text, and read from it, in one language. */
export interface TextForm {
  /** @returns the text, or why the topic cannot be one */
  readonly write: (root: Element) => { readonly text: string } | { readonly refusal: string };
  /** @param before the topic as it was; @returns no `root` where the text is no topic */
  readonly read: (
    text: string,
    before: Element,
    agreed: Agreed,
  ) => { readonly root?: Element; readonly problems: readonly Problem[] };
}

/** Each is loaded when somebody wants it: few do, and their parsers and checks are large. */
const forms: Record<SourceLanguage, () => Promise<TextForm>> = {
  async source() {
    const { readSource } = await import('@ukiyo/core/source');
    return { write: (root) => ({ text: writeCanonical(root) }), read: readSource };
  },
  async markdown() {
    const { readMarkdown, writeMarkdown } = await import('@ukiyo/core/markdown');
    return {
      write: writeMarkdown,
      read: (text, before) => readMarkdown(text, before),
    };
  },
};

/** @throws ApiError `unreachable` */
export async function textForm(language: SourceLanguage): Promise<TextForm> {
  try {
    return await forms[language]();
  } catch {
    throw unreachable();
  }
}
