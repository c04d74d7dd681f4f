import {
  outputs,
  type Edition,
  type EditionFacts,
  type EditionInput,
  type Lens,
  type Output,
} from '@ukiyo/contracts';
import { kindLabel } from '@ukiyo/core/problems';

export const factLabels = {
  title: 'Title',
  subtitle: 'Subtitle',
  bookNumber: 'Number',
  edition: 'Edition',
  date: 'Date',
  rights: 'Rights',
} as const satisfies Record<keyof EditionFacts, string>;

export const namingLabels: Readonly<Record<EditionInput['naming'], string>> = {
  ids: 'after the ids of topics: addresses stay when titles change',
  titles: 'after titles',
  numbers: 'after numbers and titles',
};

export const foldersLabels: Readonly<Record<EditionInput['folders'], string>> = {
  one: 'all pages in one folder',
  chapters: 'a folder for each chapter',
};

/** The settings of an edition, as the form has them. */
export type SettingName = keyof EditionInput;
const siteOnly = ['site'] as const satisfies readonly Output[];
/** Of which outputs a setting says something; of all where none are named. */
const usedBy: Readonly<Partial<Record<SettingName, readonly Output[]>>> = {
  plan: ['print', 'dita'],
  since: ['print', 'site'],
  look: ['site', 'page', 'dita'],
  sheet: ['print', 'site', 'page', 'epub', 'dita'],
  choices: siteOnly,
  start: siteOnly,
  locales: siteOnly,
  naming: ['site', 'markdown'],
  folders: ['site', 'markdown'],
  holds: ['bundle'],
};
const ofEverything = new Set<SettingName>([
  'name',
  'output',
  'facts',
  'locale',
  'holds',
  'stops',
  'keeps',
  'nightly',
  'readsSources',
]);

/** Whether a setting does something for an output. */
export const isUsed = (setting: SettingName, output: Output): boolean =>
  usedBy[setting]?.includes(output) ?? (output !== 'bundle' || ofEverything.has(setting));

/** What a setting is called, and what it is set to, in words. */
export interface EditionSetting {
  readonly name: SettingName;
  readonly label: string;
  readonly value: string;
}

/** How things are called that editions name by id. */
export interface Names {
  readonly lenses: readonly Lens[];
  readonly editions: readonly Edition[];
  item(id: string): string;
  facet(name: string): string;
  design(kind: 'sheets' | 'plans' | 'looks', id: string): string;
}

/** All that is set in an edition and does something, in the order of the form. */
export function settingsOf(
  edition: Edition,
  { lenses, editions, item, facet, design }: Names,
): EditionSetting[] {
  const one = (name: SettingName, label: string, value: string): EditionSetting => ({
    name,
    label,
    value,
  });
  const { output, lens, variables, facts, since, choices, locales, holds, stops, start, nightly } =
    edition;
  const all = [
    one('name', 'Name', edition.name),
    one('output', 'Output', outputs[output].label),
    one(
      'holds',
      'Holds',
      holds.map((id) => editions.find((other) => other.id === id)?.name ?? id).join(', '),
    ),
    one('map', 'Map', item(edition.map)),
    one(
      'lens',
      'Lens',
      lens === null ? 'everything' : (lenses.find(({ id }) => id === lens)?.name ?? lens),
    ),
    one('sheet', 'Style sheet', design('sheets', edition.sheet)),
    one('plan', 'Page plan', design('plans', edition.plan)),
    one('look', 'Site look', design('looks', edition.look)),
    one(
      'since',
      output === 'site' ? 'New and changed' : 'Bars',
      since === null ? 'none' : 'beside what changed',
    ),
    one(
      'choices',
      'Readers set',
      choices.map((choice) => choice.label || facet(choice.facet)).join(', '),
    ),
    one('start', 'Home page', start === '' ? '' : item(start)),
    one('naming', 'Files are called', namingLabels[edition.naming]),
    one('folders', 'Folders', foldersLabels[edition.folders]),
    one('locale', 'Locale', edition.locale),
    one('locales', 'Further locales', locales.join(', ')),
    one('address', 'Address', edition.address),
    ...Object.entries(variables).map(([key, value]) => one('variables', `Variable ${key}`, value)),
    ...Object.entries(facts).map(([name, value]) =>
      one(
        'facts',
        `Says of itself: ${factLabels[name as keyof EditionFacts].toLowerCase()}`,
        value,
      ),
    ),
    one('stops', 'Sign-off waits for', stops.map(kindLabel).join(', ')),
    one('keeps', 'Impressions kept', String(edition.keeps)),
    one('nightly', 'Built every day at', nightly),
    one(
      'readsSources',
      'Linked sources',
      edition.readsSources ? 'read again before each build' : '',
    ),
  ];
  return all.filter(({ name, value }) => value !== '' && isUsed(name, output));
}

/** The settings of all editions in which something is written or called so. */
export function findSettings(
  editions: readonly Edition[],
  names: Names,
  query: string,
): (EditionSetting & { readonly edition: Edition })[] {
  const wanted = query.trim().toLocaleLowerCase().split(/\s+/u);
  if (query.trim() === '') return [];
  return editions.flatMap((edition) =>
    settingsOf(edition, names)
      .filter(({ label, value }) =>
        wanted.every((word) => `${label} ${value}`.toLocaleLowerCase().includes(word)),
      )
      .map((setting) => ({ ...setting, edition })),
  );
}
