<script setup lang="ts">
import { computed } from 'vue';
import { useRoute } from 'vue-router';
import { stages } from './stages.ts';

const open = defineModel<boolean>('open', { required: true });
const route = useRoute();

const everywhere = [
  ['Ctrl K', 'Find or do'],
  ['?', 'These shortcuts'],
  ...stages.map((stage) => [stage.keys, `Go to ${stage.label}`]),
];
const byStage: Record<string, string[][]> = {
  write: [
    ['Ctrl Space', 'What can go here'],
    ['Enter', 'Next paragraph, item or step'],
    ['Enter, when empty', 'Out of the list'],
    ['Ctrl Z, Ctrl Shift Z', 'Undo, redo'],
    ['[[', 'A link: search for where it leads'],
    ['Ctrl Enter', 'Follow the link at the caret'],
    ['Enter, on a note or image', 'Change its words'],
    ['Ctrl F', 'Find and replace'],
    ['Ctrl .', 'What the misspelt word at the caret could be'],
    ['Ctrl Shift V', 'Paste the words alone'],
    ['Ctrl Alt V', 'Paste what was copied as borrowed'],
    ['Enter, on what is borrowed', 'Write it at its home'],
    ['Alt 6, Alt 7', 'The topic as source, as Markdown'],
    ['Ctrl S', 'Give what there is now a name'],
    ['Tab, Shift Tab', 'Item in or out, next or previous cell'],
    ['Alt ↑ ↓', 'Move the element up, down'],
    ['Alt → ←', 'Move the element in, out'],
    ['Ctrl Shift Backspace', 'Remove the element'],
    ['Ctrl B, Ctrl I, Ctrl U', 'Bold, italic, underlined'],
    ['Alt 1 2 3 4', 'Plain, ladder, frames, labels'],
    ['Alt 5', 'Spaces and paragraph ends'],
    [
      'Ctrl ;',
      'For whom it is: facet values of the selected words or the element; again for what is ' +
        'around it',
    ],
    ['Alt 8', 'Facet values beside the text'],
  ],
  arrange: [
    ['↑ ↓', 'Choose'],
    ['Alt ↑ ↓', 'Move up, down'],
    ['Alt → ←', 'In, out'],
    ['Enter', 'Open the topic'],
    ['Ctrl ;', 'For whom the entry is'],
    ['Delete', 'Take out of the map'],
    ['Ctrl Z, Ctrl Shift Z', 'Undo, redo'],
  ],
};
const here = computed(() => byStage[String(route.name)] ?? []);
</script>

<template>
  <n-modal v-model:show="open">
    <div class="list" role="dialog" aria-label="Shortcuts">
      <h1>Shortcuts</h1>
      <dl>
        <template v-for="[keys, what] in [...here, ...everywhere]" :key="keys">
          <dt>
            <kbd>{{ keys }}</kbd>
          </dt>
          <dd>{{ what }}</dd>
        </template>
      </dl>
    </div>
  </n-modal>
</template>

<style scoped>
.list {
  background: var(--sheet);
  padding: 20px 28px;
  border-radius: 4px;
  min-width: 380px;
}
dl {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 6px 20px;
  margin: 16px 0 0;
}
dd {
  margin: 0;
}
</style>
