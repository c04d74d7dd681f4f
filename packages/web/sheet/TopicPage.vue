<script setup lang="ts">
import { moveElementTo, valuesOfVarying, type Varying } from '@ukiyo/core/editing';
import { defineAsyncComponent, type Component } from 'vue';
import CharacterChooser from '../editor/CharacterChooser.vue';
import FacetChooser from '../editor/FacetChooser.vue';
import FindBar from '../editor/FindBar.vue';
import GapButton from '../editor/GapButton.vue';
import ImageChooser from '../editor/ImageChooser.vue';
import InsertPalette from '../editor/InsertPalette.vue';
import LinkChooser from '../editor/LinkChooser.vue';
import MediaForm from '../editor/MediaForm.vue';
import PageLadder from '../editor/PageLadder.vue';
import SelectionBar from '../editor/SelectionBar.vue';
import SpellingChooser from '../editor/SpellingChooser.vue';
import TableForm from '../editor/TableForm.vue';
import VariableChooser from '../editor/VariableChooser.vue';
import WordsField from '../editor/WordsField.vue';
import '../editor/page.css';
import { usePageView } from '../editor/pageView.ts';
import type { PopPlace } from '../editor/popList.ts';
import { useLens } from '../parts/lens.ts';
import { useLibrary } from '../parts/library.ts';
import LenderChooser from './LenderChooser.vue';
import LostWords from './LostWords.vue';
import PageFields from './PageFields.vue';
import PassageChooser from './PassageChooser.vue';
import type { TopicSheet } from './useTopicSheet.ts';

const AreaEditor = defineAsyncComponent(
  () => import('../editor/AreaEditor.vue') as Promise<Component>,
);

/** A topic on its page, with what is laid beside the text and what is asked at the caret. */
const { sheet } = defineProps<{
  sheet: TopicSheet;
  /** The topic is shown in another way just now. */ isHidden?: boolean;
}>();
const { editor, asking, borrowing, live, selected, spelling, finding, failure, mount, editable } =
  sheet;
const pageView = usePageView();
const { view } = pageView;
const library = useLibrary();
const facetQuestion = ({
  place,
  varying,
  wider,
}: {
  readonly place: PopPlace;
  readonly varying: Varying;
  readonly wider: string | undefined;
}) => ({
  place,
  wider,
  label: varying.label,
  valuesOf: (facet: string) => valuesOfVarying(varying, facet),
});
const looking = useLens();
</script>

<template>
  <p v-if="failure" class="seal-text notice" role="alert">{{ failure }}</p>
  <p v-if="live.ended.value?.code === 'live.gone'" class="notice" role="alert">
    {{ live.ended.value.message }} Your page is still here.
    <n-button size="small" @click="sheet.putBack">Make it a topic again</n-button>
  </p>
  <p v-else-if="live.ended.value" class="notice" role="alert">{{ live.ended.value.message }}</p>
  <LostWords v-model:words="live.lost.value" />
  <FindBar
    v-if="finding && live.isOpen.value"
    :view="editor.view.value"
    :changes="editor.drawn.value"
    :editable="editable"
    @close="finding = false"
  />
  <div
    v-show="live.isOpen.value && !failure && !isHidden"
    class="page"
    :class="[`view-${view}`, looking.lens ? (looking.hides ? 'lens-hides' : 'lens-greys') : '']"
  >
    <PageLadder
      v-if="view !== 'plain'"
      :view="editor.view.value"
      :open="editor.open.value"
      :drawn="editor.drawn.value"
      @select="editor.select"
      @move="(from, to) => editor.apply((state) => moveElementTo(state, from, to) ?? state.tr)"
    />
    <GapButton v-if="editable" :view="editor.view.value" @open="asking.openPalette" />
    <PageFields
      v-if="view !== 'plain'"
      :view="editor.view.value"
      :drawn="editor.drawn.value"
      :editable="editable"
      @change="editor.changeRoot"
    />
    <div ref="mount" />
  </div>
  <SelectionBar
    v-if="selected.bar.value && !asking.question.value"
    v-bind="selected.bar.value"
    @choose="asking.choose"
    @more="asking.openPalette"
  />
  <template v-if="asking.question.value">
    <InsertPalette
      v-if="asking.question.value.asks === 'choice'"
      v-bind="asking.question.value"
      @choose="asking.choose"
      @close="asking.close('choice')"
    />
    <WordsField
      v-else-if="asking.question.value.asks === 'words'"
      v-bind="asking.question.value"
      @choose="asking.answer"
      @close="asking.close('words')"
    />
    <LinkChooser
      v-else-if="asking.question.value.asks === 'target'"
      :place="asking.question.value.place"
      @choose="asking.answer"
      @close="asking.close('target')"
    />
    <VariableChooser
      v-else-if="asking.question.value.asks === 'variable'"
      :place="asking.question.value.place"
      @choose="asking.answer"
      @close="asking.close('variable')"
    />
    <TableForm
      v-else-if="asking.question.value.asks === 'table'"
      v-bind="asking.question.value"
      @choose="asking.answer"
      @close="asking.close('table')"
    />
    <MediaForm
      v-else-if="asking.question.value.asks === 'media'"
      v-bind="asking.question.value"
      :upload="sheet.upload"
      @choose="asking.answer"
      @close="asking.close('media')"
    />
    <AreaEditor
      v-else-if="asking.question.value.asks === 'areas'"
      :imagemap="asking.question.value.imagemap"
      @keep="asking.keepAreas"
      @close="asking.close('areas')"
    />
    <FacetChooser
      v-else-if="asking.question.value.asks === 'facets'"
      v-bind="facetQuestion(asking.question.value)"
      :facets="library.facets"
      @toggle="asking.toggleFacet"
      @wider="asking.widenFacets"
      @close="asking.close('facets')"
    />
    <PassageChooser
      v-else-if="asking.question.value.asks === 'passage'"
      :offers="borrowing.offers"
      @choose="
        (lender, paths, key) => (asking.close('passage'), void borrowing.borrow(lender, paths, key))
      "
      @close="asking.close('passage')"
    />
    <LenderChooser
      v-else-if="asking.question.value.asks === 'lender'"
      v-bind="asking.question.value"
      :self="sheet.id()"
      @choose="(lender, title) => (asking.close('lender'), void borrowing.share(lender, title))"
      @close="asking.close('lender')"
    />
    <SpellingChooser
      v-else-if="asking.question.value.asks === 'spelling'"
      v-bind="asking.question.value"
      @choose="asking.answer"
      @allow="(void spelling.allow(asking.question.value.word), asking.close('spelling'))"
      @close="asking.close('spelling')"
    />
    <CharacterChooser
      v-else-if="asking.question.value.asks === 'character'"
      :place="asking.question.value.place"
      @choose="asking.answer"
      @close="asking.close('character')"
    />
    <ImageChooser
      v-else
      :place="asking.question.value.place"
      :upload="sheet.upload"
      @choose="asking.answer"
      @file="asking.chooseFile"
      @close="asking.close('image')"
    />
  </template>
</template>

<style scoped>
.notice {
  max-width: 760px;
  margin: 0 auto 12px;
  padding: 10px 14px;
  background: var(--sheet);
  border: 1px solid var(--hair);
  border-radius: 4px;
}
</style>
