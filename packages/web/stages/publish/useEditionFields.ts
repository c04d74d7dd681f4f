import { EditionInput, type Edition, type EditionFacts, type ReaderChoice } from '@ukiyo/contracts';
import { usualStops, type ProblemKind } from '@ukiyo/core/problems';
import { reactive, ref, watch } from 'vue';
import { factLabels, isUsed } from './settings.ts';

/** The settings of an edition while they are changed. */
export interface EditionDraft {
  name: string;
  output: EditionInput['output'];
  map: string;
  lens: string;
  locale: string;
  locales: string[];
  sheet: string;
  plan: string;
  look: string;
  address: string;
  since: string;
  naming: EditionInput['naming'];
  folders: EditionInput['folders'];
  holds: string[];
  start: string;
  nightly: string;
  readsSources: boolean;
  choices: ReaderChoice[];
  stops: ProblemKind[];
  keeps: number;
  variables: { key: string; value: string }[];
  facts: Record<keyof EditionFacts, string>;
}

const factsOf = (given: EditionFacts = {}): EditionDraft['facts'] =>
  Object.fromEntries(
    Object.keys(factLabels).map((name) => [name, given[name as keyof EditionFacts] ?? '']),
  ) as EditionDraft['facts'];

/** What a new edition begins with. */
const fresh = (): EditionDraft => ({
  name: '',
  output: 'print',
  map: '',
  lens: '',
  locale: 'en',
  locales: [],
  sheet: 'workshop',
  plan: 'a4-margin',
  look: 'harbour',
  address: '',
  since: '',
  naming: 'ids',
  folders: 'one',
  holds: [],
  start: '',
  nightly: '',
  readsSources: false,
  choices: [],
  stops: [...usualStops],
  keeps: 20,
  variables: [],
  facts: factsOf(),
});

function fieldsOf({ id: _id, variables, facts, lens, since, ...same }: Edition): EditionDraft {
  return {
    ...same,
    lens: lens ?? '',
    since: since ?? '',
    variables: Object.entries(variables).map(([key, value]) => ({ key, value })),
    facts: factsOf(facts),
  };
}

/**
 * The fields of a form for an edition, filled again whenever another one is shown, and what is
 * wrong with them by field.
 */
export function useEditionFields(edition: () => Edition | undefined) {
  const fields = reactive<EditionDraft>(fresh());
  const faults = ref<Readonly<Record<string, string>>>({});
  watch(
    edition,
    (current) => Object.assign(fields, current ? fieldsOf(structuredClone(current)) : fresh()),
    { immediate: true },
  );

  /**
   * What they say, where nothing is wrong; settings that do nothing for the output are put back.
   */
  function checked(): EditionInput | undefined {
    const { variables, facts, lens, since, ...same } = fields;
    const unused = Object.fromEntries(
      Object.entries(fresh()).filter(
        ([name]) =>
          !isUsed(name as keyof EditionInput, fields.output) &&
          !['sheet', 'plan', 'look', 'facts', 'variables', 'lens'].includes(name),
      ),
    );
    const found = EditionInput.safeParse({
      ...same,
      lens: lens === '' ? null : lens,
      since,
      ...unused,
      ...(since === '' || !isUsed('since', fields.output) ? { since: null } : {}),
      variables: Object.fromEntries(
        variables
          .filter(({ key }) => key.trim() !== '')
          .map(({ key, value }) => [key.trim(), value]),
      ),
      facts: Object.fromEntries(Object.entries(facts).filter(([, value]) => value.trim() !== '')),
    });
    faults.value = found.success
      ? {}
      : Object.fromEntries(
          found.error.issues.map(({ path, message }) => [String(path[0]), message]),
        );
    return found.data;
  }
  return { fields, faults, checked };
}
