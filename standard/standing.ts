import {
  attributesOf,
  elementDefinitions,
  isForeign,
  isMap,
  isA,
  type ElementDefinition,
} from '@ukiyo/core/grammar';
import { editableNames } from '@ukiyo/core/editing';

/** What becomes of the words of an element in what is published. */
export type Standing =
  /** They are shown where they stand. */
  | 'shown'
  /** In contents, navigation, index, search or tooltips, or as alternative text. */
  | 'elsewhere'
  /** In the heads of pages; keywords in the search as well. */
  | 'head'
  /** They say something of the text and are not for readers. */
  | 'metadata'
  /** They say how something is shown, linked or played. */
  | 'control'
  /** For the team alone. */
  | 'internal'
  /** They cannot be shown, which is reported. */
  | 'reported';

const names = (list: string): readonly string[] => list.split(/\s+/u).filter((one) => one !== '');

const byStanding: Readonly<Record<Exclude<Standing, 'shown'>, readonly string[]>> = {
  elsewhere: names(
    'titlealts navtitle searchtitle indexterm index-see index-see-also index-sort-as alt ' +
      'longdescref booktitle booklibrary mainbooktitle booktitlealt',
  ),
  head: names(
    'author publisher copyright copyryear copyrholder critdates created revised audience category ' +
      'keywords authorinformation publisherinformation',
  ),
  metadata: names(
    'prolog source permissions metadata prodinfo prodname vrmlist vrm brand component ' +
      'featnum platform prognum series othermeta resourceid ux-window data data-about sort-as ' +
      'glossPartOfSpeech glossStatus glossProperty',
  ),
  control: names(
    'area shape coords object param colspec spanspec boolean indextermref synnoteref ' +
      'glossAlternateFor',
  ),
  internal: names('draft-comment required-cleanup'),
  reported: [],
};
const standings = new Map(
  Object.entries(byStanding).flatMap(([standing, list]) =>
    list.map((name) => [name, standing as Standing] as const),
  ),
);

export function standingOf({ name, base }: ElementDefinition): Standing {
  if (['mathml', 'mathmlref', 'svg-container', 'svgref', 'coderef'].includes(name)) return 'shown';
  if (isForeign(name)) return 'reported';
  const own = standings.get(name);
  if (own) return own;
  return base === 'data' || isA(name, 'data') ? 'metadata' : 'shown';
}

/** Elements of maps are arranged, not written. */
const isOfMaps = ({ name }: ElementDefinition): boolean =>
  isMap(name) || isA(name, 'topicref') || mapParts.has(name);
const mapParts: ReadonlySet<string> = new Set(
  names(
    'topicmeta reltable relheader relcolspec relrow relcell anchor navref ditavalmeta ' +
      'dvrResourcePrefix dvrResourceSuffix dvrKeyscopePrefix dvrKeyscopeSuffix bookmeta ' +
      'subjectHeadMeta elementdef attributedef',
  ),
);

const said: Readonly<Record<Standing, string>> = {
  shown: 'shown',
  elsewhere: 'in contents, index, search or as alternative text',
  head: 'in the head of pages, keywords also in the search',
  metadata: 'metadata, not shown',
  control: 'says how something is shown or linked',
  internal: 'for the team, not shown',
  reported: 'not shown; a problem says so',
};

/** How attributes count in what is published. */
const attributeEffects: Readonly<Record<string, string>> = {
  'decides who gets the element':
    'audience platform product otherprops props deliveryTarget country',
  'names or links': 'id href keyref keys keyscope format scope type longdescref',
  'borrows content, or puts it elsewhere': 'conref conrefend conkeyref conaction',
  'says how the element is shown':
    'outputclass xml:lang dir translate xml:space importance height width scale scalefit align ' +
    'placement alt frame colsep rowsep rowheader pgwide orient cols colname colnum colwidth ' +
    'namest nameend spanname morerows valign char charoff rotate headers relcolwidth keycol ' +
    'spectitle othertype reftitle callout tmtype shape state name value data valuetype',
  'places the entry of a map':
    'navtitle locktitle lockmeta collection-type processing-role print search toc chunk linking title ' +
    'copy-to anchorref',
  'marks content for the index': 'start end',
  'is marked where a lens says so': 'rev',
  'names the page for applications': 'appid appname ux-context-string ux-source-priority',
  'is metadata, not shown':
    'author time disposition remap trademark tmowner tmclass experiencelevel job otherjob date ' +
    'modified golive expiry year content translate-content version release modification view ' +
    'datatype base status class xtrf xtrc query',
  'is kept, without effect':
    'compact expanse archive classid codebase codetype declare standby usemap ' +
    'tabindex refcols specentry cascade xml:base',
};
const effects = new Map(
  Object.entries(attributeEffects).flatMap(([effect, list]) =>
    names(list).map((name) => [name, effect] as const),
  ),
);

/** Every attribute of the content model with what it does; undefined where nobody has said. */
export const attributeRows = (): readonly (readonly [string, string | undefined])[] =>
  [...new Set(elementDefinitions.flatMap(({ name }) => attributesOf(name).map((one) => one.name)))]
    .sort()
    .map((name) => [name, effects.get(name)]);

/** The table of the standard, as a document. */
export function standardTable(): string {
  const open = editableNames();
  const editing = (definition: ElementDefinition): string =>
    isOfMaps(definition)
      ? 'in Arrange'
      : open.has(definition.name)
        ? 'written on the page'
        : 'kept, in the XML view';
  const elements = [...elementDefinitions]
    .sort((a, b) => (a.name < b.name ? -1 : 1))
    .map((one) => {
      const shown = isOfMaps(one) ? 'arranges topics' : said[standingOf(one)];
      return `| \`${one.name}\` | ${one.base ? `\`${one.base}\`` : ''} | ${editing(one)} | ${shown} |`;
    });
  const attributes = attributeRows().map(([name, effect]) => `| \`${name}\` | ${effect ?? ''} |`);
  return [
    '# The standard',
    '',
    'How each element and attribute of DITA 1.3 (OASIS, part 3: technical content) stands. The',
    'table is made from the content model, and tests hold it to what is published. Every element',
    'and attribute goes out of the library as it came in.',
    '',
    'Elements of other vocabularies are generalised by their `class`; those of learning and',
    'training content are known without one. An element that nothing is known of is kept, is not',
    'shown, and is reported as an error. Not done: vocabularies other than MathML and SVG without',
    'an image for them. Such content is reported.',
    '',
    '## Elements',
    '',
    '| element | specialises | editing | paper and screens |',
    '| --- | --- | --- | --- |',
    ...elements,
    '',
    '## Attributes',
    '',
    '| attribute | effect |',
    '| --- | --- |',
    ...attributes,
    '',
  ].join('\n');
}
