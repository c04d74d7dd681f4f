import {
  answeredVariable,
  linkAttributes,
  linkTo,
  shareableAt,
  toggleValue,
  varyingsAt,
  wordsOfAnswer,
  type Answer,
  type Choice,
} from '@ukiyo/core/editing';
import type { EditorView } from 'prosemirror-view';
import { misspeltAt } from '../editor/spelling.ts';
import { useQuestions, type Answered, type AskingPage, type Questions } from './questions.ts';
import { useImageQuestions } from './useImageQuestions.ts';

/** Asks for whom what is around the caret is, and sets it value by value. */
function useFacetQuestion(view: AskingPage['view'], { question, ask }: Questions) {
  /** @param outward how many elements further around the caret */
  function askFacets(outward = 0): void {
    const varyings = view.value ? varyingsAt(view.value.state) : [];
    const varying = varyings[outward];
    if (!varying) return;
    const wider = varyings[(outward + 1) % varyings.length]?.label;
    // The list stays where it is while values are set.
    const at = question.value?.asks === 'facets' ? question.value.place : undefined;
    ask({ asks: 'facets', varying, outward, wider }, at);
  }
  function widenFacets(): void {
    const asked = question.value;
    if (asked?.asks === 'facets' && view.value)
      askFacets((asked.outward + 1) % varyingsAt(view.value.state).length);
  }
  /** Sets one value, or takes it away; more can follow. */
  function toggleFacet(facet: string, value: string): void {
    const asked = question.value;
    if (!view.value || asked?.asks !== 'facets') return;
    const varying = varyingsAt(view.value.state)[asked.outward];
    if (!varying) return;
    view.value.dispatch(toggleValue(view.value.state, varying, facet, value));
    askFacets(asked.outward);
  }
  return { askFacets: () => askFacets(), widenFacets, toggleFacet };
}

/** What a choice of the palette asks before it is made. */
function askForChoice(choice: Choice, { state }: EditorView, ask: Questions['ask']): void {
  const { asks, element, apply } = choice;
  if (asks === 'words') {
    // Words that are marked for the index are its entry.
    const { from, to } = state.selection;
    const words = element === 'indexterm' ? state.doc.textBetween(from, to) : '';
    ask({ asks, element, words, apply });
  } else if (asks === 'table')
    ask({ asks, kind: element === 'table' ? element : 'simpletable', apply });
  else if (asks === 'passage') ask({ asks });
  else if (asks === 'lender') ask({ asks, label: shareableAt(state)?.label ?? '' });
  else if (asks && asks !== 'facets' && asks !== 'copied' && asks !== 'copy') ask({ asks, apply });
}

/**
 * What the page asks at the caret, one thing at a time: what can go here, where a link leads, which
 * image, which words.
 */
export function useInsertDialogs(page: AskingPage) {
  const { view, choices, apply, borrowCopied, makeLocal } = page;
  const questions = useQuestions(view);
  const { question, ask, close } = questions;
  const images = useImageQuestions(page, questions);
  const facets = useFacetQuestion(view, questions);

  function answer(given: Answer): void {
    const asked = question.value;
    question.value = undefined;
    if (!asked || !('apply' in asked)) return;
    apply((state) => asked.apply(state, given));
    if (asked.asks === 'image') images.askForAlternative();
  }
  function choose(choice: Choice): void {
    question.value = undefined;
    if (choice.asks === undefined) apply((state) => choice.apply(state));
    else if (choice.asks === 'facets') facets.askFacets();
    else if (choice.asks === 'copied') borrowCopied();
    else if (choice.asks === 'copy') makeLocal();
    else if (view.value) askForChoice(choice, view.value, ask);
  }
  /** @param from where begins what was typed to ask for the link */
  const askForTarget = (from: number): void =>
    ask({
      asks: 'target',
      apply: (state, reference) =>
        linkTo(state, linkAttributes(wordsOfAnswer(reference)) ?? {}, from),
    });
  const askForVariable = (from: number): void =>
    ask({
      asks: 'variable',
      apply: (state, chosen) => answeredVariable(state, wordsOfAnswer(chosen), from),
    });
  /** What the misspelt word at the caret could be; false where there is none. */
  function askSpelling(suggest: (word: string) => Promise<string[]>): boolean {
    const found = view.value && misspeltAt(view.value.state);
    if (!found) return false;
    const { word } = found;
    const replace: Answered = (state, answered) => {
      const now = misspeltAt(state);
      return now?.word === word
        ? state.tr.insertText(wordsOfAnswer(answered), now.from, now.to)
        : state.tr;
    };
    void suggest(word).then((suggestions) =>
      ask({ asks: 'spelling', word, suggestions, apply: replace }),
    );
    return true;
  }
  return {
    question,
    openPalette: () => ask({ asks: 'choice', choices: choices() }),
    choose,
    answer,
    close,
    askForTarget,
    askForVariable,
    askSpelling,
    reword: images.reword,
    chooseFile: images.chooseFile,
    takeFiles: images.takeFiles,
    keepAreas: images.keepAreas,
    ...facets,
  };
}
