import type { Agreements, FactField, HouseRule } from '@ukiyo/contracts';
import { computed } from 'vue';
import { useAttempts } from '../../parts/attempts.ts';
import { useLibrary } from '../../parts/library.ts';
import { useSession } from '../../parts/session.ts';

/**
 * What the team has agreed on, and ways to change it: each change is kept at once, and refused when
 * another person was first.
 */
export function useAgreements() {
  const library = useLibrary();
  const session = useSession();
  const agreed = computed(() => library.agreements);
  const editable = computed(() => session.may('administer'));

  const { attempt } = useAttempts();
  const change = (part: Partial<Omit<Agreements, 'version'>>): Promise<boolean> =>
    attempt(() => library.agree({ ...agreed.value, ...part }));
  const setRule = (rule: HouseRule, before?: HouseRule): Promise<boolean> =>
    change({
      rules: before
        ? agreed.value.rules.map((one) => (one.id === before.id ? rule : one))
        : [...agreed.value.rules, rule],
    });
  const removeRule = ({ id }: HouseRule): Promise<boolean> =>
    change({ rules: agreed.value.rules.filter((one) => one.id !== id) });
  const setFacts = (facts: FactField[]): Promise<boolean> => change({ facts });
  const setWords = (locale: string, words: string[]): Promise<boolean> =>
    change({ words: { ...agreed.value.words, [locale]: words } });
  const setSynonyms = (locale: string, lists: string[][]): Promise<boolean> =>
    change({ synonyms: { ...agreed.value.synonyms, [locale]: lists } });
  return { setSynonyms, agreed, editable, setRule, removeRule, setFacts, setWords };
}
