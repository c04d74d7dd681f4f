<script setup lang="ts">
import type { StyleUses } from '@ukiyo/contracts';
import { labelOf } from '@ukiyo/core/grammar';
import { roleOf, type StyleSheet } from '@ukiyo/core/styles';
import { useItems } from '../../parts/items.ts';

/**
 * Looks that content asks for, most often from an import, and that no style gives: each with the
 * style from which one for it would begin.
 */
const { uses, sheet, disabled } = defineProps<{
  uses: StyleUses | undefined;
  sheet: StyleSheet;
  disabled: boolean;
}>();
const emit = defineEmits<{ make: [look: StyleUses['unstyled'][number]] }>();
const items = useItems();
const nameOf = (style: string): string =>
  sheet.styles[style]?.label ?? roleOf(style)?.label ?? style;
</script>

<template>
  <p v-if="!uses" class="quiet">Reading the library …</p>
  <p v-else-if="uses.unstyled.length === 0" class="quiet">
    Every look that content asks for is given by a style of this sheet.
  </p>
  <template v-else>
    <p>
      What content asks for by its output class, and no style of this sheet gives. It is set as if
      it did not ask.
    </p>
    <table>
      <thead>
        <tr>
          <th scope="col">Asked for</th>
          <th scope="col">By</th>
          <th scope="col">Where</th>
          <th scope="col">Proposed</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="look in uses.unstyled" :key="`${look.element} ${look.outputclass}`">
          <th scope="row">{{ look.outputclass }}</th>
          <td>{{ labelOf(look.element) }}</td>
          <td>
            <details>
              <summary>{{ look.count === 1 ? 'once' : `${look.count} places` }}</summary>
              <router-link
                v-for="item in Object.keys(look.items)"
                :key="item"
                class="topic"
                :to="{ name: 'write', params: { id: item } }"
              >
                {{ items.find(item)?.title ?? item }}
              </router-link>
            </details>
          </td>
          <td>
            <button
              type="button"
              class="plain"
              :disabled="disabled"
              :aria-label="`Make a style for ${look.outputclass} of ${labelOf(look.element)}`"
              @click="emit('make', look)"
            >
              a style based on “{{ nameOf(look.base) }}”
            </button>
          </td>
        </tr>
      </tbody>
    </table>
  </template>
</template>

<style scoped>
table {
  width: 100%;
  border-collapse: collapse;
  font-size: 14px;
}
th,
td {
  padding: 5px 8px 5px 0;
  text-align: start;
  border-bottom: 1px solid var(--hair);
  vertical-align: top;
}
thead th {
  font-weight: 400;
  color: var(--soft);
  font-size: 13px;
}
summary {
  cursor: pointer;
  color: var(--prussian);
}
.topic {
  display: block;
  padding: 2px 0;
}
td button {
  color: var(--prussian);
  text-align: start;
  min-height: 24px;
}
</style>
