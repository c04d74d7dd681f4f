import { pathOf, shareableAt } from '@ukiyo/core/editing';
import { readableText } from '@ukiyo/core/library';
import type { Path } from '@ukiyo/core/problems';
import { useStorage } from '@vueuse/core';
import type { EditorState } from 'prosemirror-state';

/** Blocks that were copied last, by where they stand, so that they can be borrowed elsewhere. */
export interface Copied {
  readonly item: string;
  readonly paths: readonly Path[];
  /** What they said then: if they say something else now, these are not they. */
  readonly words: readonly string[];
}

/** Kept in this browser: one copies on one page and pastes on another. */
export function useCopied() {
  const copied = useStorage<Copied | null>('ukiyo-copied', null, undefined, {
    flush: 'sync',
    serializer: {
      read: (text) => JSON.parse(text) as Copied | null,
      write: (value) => JSON.stringify(value),
    },
  });
  function note(item: string, state: EditorState): void {
    const shareable = shareableAt(state);
    const path = shareable && pathOf(state.doc, shareable.from);
    if (!shareable || !path) return void (copied.value = null);
    const first = path.at(-1) ?? 0;
    copied.value = {
      item,
      paths: shareable.elements.map((_element, index) => [...path.slice(0, -1), first + index]),
      words: shareable.elements.map(readableText),
    };
  }
  return { copied, note };
}
