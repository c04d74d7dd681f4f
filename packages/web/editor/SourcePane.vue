<script setup lang="ts">
import {
  autocompletion,
  closeBrackets,
  closeBracketsKeymap,
  completionKeymap,
} from '@codemirror/autocomplete';
import { defaultKeymap, history, historyKeymap, indentWithTab } from '@codemirror/commands';
import { bracketMatching, syntaxHighlighting } from '@codemirror/language';
import { lintGutter, setDiagnostics, type Diagnostic } from '@codemirror/lint';
import { search, searchKeymap } from '@codemirror/search';
import { EditorState } from '@codemirror/state';
import { drawSelection, EditorView, keymap, lineNumbers } from '@codemirror/view';
import type { Problem } from '@ukiyo/core/problems';
import { onMounted, onUnmounted, ref, watch } from 'vue';
import { colours, languageOf, type SourceLanguage } from './sourceLanguage.ts';

/** A topic as text. What is typed goes out; what others change comes in around the caret. */
const { language, problems, editable } = defineProps<{
  language: SourceLanguage;
  problems: readonly Problem[];
  editable: boolean;
}>();
const text = defineModel<string>('text', { required: true });
const mount = ref<HTMLElement>();
let view: EditorView | undefined;

function diagnosticOf({ severity, message, where }: Problem, state: EditorState): Diagnostic {
  const line = state.doc.line(Math.max(1, Math.min(state.doc.lines, where.line ?? 1)));
  const to = Math.min(line.to, line.from + Math.max(0, (where.column ?? 1) - 1));
  // The start tag ends where the problem is.
  const start = state.doc.sliceString(line.from, to).lastIndexOf('<');
  return {
    from: start === -1 ? line.from : line.from + start,
    to: Math.max(to, line.from),
    severity,
    message,
  };
}
function mark(): void {
  if (view)
    view.dispatch(
      setDiagnostics(
        view.state,
        problems.map((one) => diagnosticOf(one, view!.state)),
      ),
    );
}
/** Changes only what differs, so that the caret stays where it is. */
function take(next: string): void {
  if (!view) return;
  const now = view.state.doc.toString();
  if (now === next) return;
  let from = 0;
  while (from < now.length && from < next.length && now[from] === next[from]) from += 1;
  let end = 0;
  while (
    end < now.length - from &&
    end < next.length - from &&
    now[now.length - 1 - end] === next[next.length - 1 - end]
  )
    end += 1;
  view.dispatch({
    changes: { from, to: now.length - end, insert: next.slice(from, next.length - end) },
  });
}
onMounted(() => {
  view = new EditorView({
    parent: mount.value!,
    state: EditorState.create({
      doc: text.value,
      extensions: [
        lineNumbers(),
        history(),
        drawSelection(),
        bracketMatching(),
        closeBrackets(),
        autocompletion(),
        search({ top: true }),
        lintGutter(),
        syntaxHighlighting(colours),
        keymap.of([
          ...closeBracketsKeymap,
          ...completionKeymap,
          ...searchKeymap,
          ...historyKeymap,
          ...defaultKeymap,
          indentWithTab,
        ]),
        EditorView.lineWrapping,
        EditorState.readOnly.of(!editable),
        EditorView.contentAttributes.of({
          'aria-label': language === 'source' ? 'Source' : 'Markdown',
          spellcheck: 'false',
        }),
        EditorView.updateListener.of((update) => {
          if (update.docChanged) text.value = update.state.doc.toString();
        }),
        languageOf(language),
      ],
    }),
  });
  mark();
  view.focus();
});
onUnmounted(() => view?.destroy());
watch(text, take);
watch(() => problems, mark);
</script>

<template>
  <div ref="mount" class="source" />
</template>

<style scoped>
.source {
  max-width: 760px;
  min-height: 60vh;
  margin: 0 auto;
  background: var(--sheet);
  border: 1px solid var(--hair);
  border-radius: 3px;
}
.source :deep(.cm-editor) {
  min-height: 60vh;
  color: var(--ink);
  outline: none;
}
.source :deep(.cm-scroller) {
  font: 400 13px/1.55 var(--font-code);
}
.source :deep(.cm-gutters) {
  background: var(--paper);
  color: var(--soft);
  border-color: var(--hair);
}
.source :deep(.cm-cursor) {
  border-color: var(--ink);
}
.source :deep(.cm-tooltip),
.source :deep(.cm-panels) {
  background: var(--sheet);
  color: var(--ink);
  border-color: var(--hair);
}
</style>
