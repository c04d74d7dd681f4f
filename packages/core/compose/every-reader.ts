import {
  both,
  everyReader,
  facetValuesOf,
  isNobody,
  nameReaders,
  partition,
  readersOf,
  readerSpace,
  uncovered,
  type Facet,
  type Lens,
  type Readers,
  type ReaderSpace,
} from '../facets/index.ts';
import { isA, isInline, labelOf } from '../grammar/index.ts';
import { elementById, type Library, type Reference } from '../library/index.ts';
import {
  childNamed,
  isElement,
  lineOf,
  type Attributes,
  type Element,
  type Node,
} from '../markup/index.ts';
import { problem, type Problem } from '../problems/index.ts';
import { gridOf } from '../tables/index.ts';
import { choosing } from './alternates.ts';
import { expandMap } from './expand/map.ts';
import { allNodes, type MapNode } from './expand/node.ts';
import { gatherPushes } from './pushing.ts';
import { resolveTopic } from './resolve/topic.ts';
import type { ResolvedTopic } from './resolve/resolved.ts';
import type { Origin, ResolvedElement } from './publication.ts';

export interface EveryReaderInput {
  readonly library: Library;
  readonly map: string;
  readonly facets: readonly Facet[];
  /** Readers whose content it drops are not among those that are asked for. */
  readonly lens?: Lens;
  /** Texts that an edition sets for keys. */
  readonly variables?: Readonly<Record<string, string>>;
}

/** A topic at its place in the map, and who gets it there. */
interface TopicUse {
  readonly node: MapNode;
  readonly topic: ResolvedTopic;
  readonly readers: Readers;
}
interface AskedLink {
  readonly reference: Reference & { readonly kind: 'item' };
  readonly readers: Readers;
  readonly origin: Origin;
}

const listNames = ['ul', 'ol', 'sl', 'dl', 'steps', 'steps-unordered', 'substeps'];
const heldUp = [
  'title',
  'titlealts',
  'prolog',
  'shortdesc',
  'abstract',
  'indexterm',
  'desc',
  'related-links',
  'colspec',
  'thead',
  'sthead',
];
const blank = (node: Node): boolean => typeof node === 'string' && node.trim() === '';
const isList = ({ name }: Element): boolean => listNames.some((list) => isA(name, list));
const isContent = (node: Node): node is ResolvedElement =>
  isElement(node) && !heldUp.includes(node.name);

function noteValues(attributes: Attributes, used: Map<string, Set<string>>): void {
  for (const [facet, values] of facetValuesOf(attributes))
    used.set(facet, new Set([...(used.get(facet) ?? []), ...values]));
}
function noteAll(element: Element, used: Map<string, Set<string>>): void {
  noteValues(element.attributes, used);
  for (const child of element.children) if (isElement(child)) noteAll(child, used);
}

/**
 * Looks through every lens at once: for every combination of facet values that content really uses,
 * what would be left unfit to read. Who gets what is reckoned with sets of readers, so the number
 * of combinations does not matter.
 * @returns warnings `readers.no-steps`, `readers.empty-list`, `readers.empty-part`,
 * `readers.missing-cell`, `readers.joined-cell`, `readers.missing-words` and
 * `readers.dropped-target`, each with an example of the readers it concerns, and `readers.too-many`
 * where a question was too wide to be answered
 */
export function checkEveryReader({
  library,
  map,
  facets,
  lens,
  variables = {},
}: EveryReaderInput): Problem[] {
  const item = library.item(map);
  if (!item?.root) return [];
  // What stands in for others is chosen as the edition chooses; what varies inside is left open.
  const choose = choosing(library, lens, facets);
  const expanded = expandMap(item, {
    library,
    lens: undefined,
    facets,
    chooseThrough: () => choose,
  });
  const { nodes, peers } = expanded;
  const { pushes } = gatherPushes(expanded, { library, facets });
  const prepared = new Map<MapNode, ResolvedTopic>();
  const used = new Map<string, Set<string>>();
  for (const node of allNodes(nodes)) {
    node.conditions.forEach((attributes) => noteValues(attributes, used));
    const root = node.item === undefined ? undefined : library.item(node.item)?.root;
    const found = root && elementById(root, node.element);
    if (!found || node.item === undefined) continue;
    const { item: id } = node;
    const topic = resolveTopic(
      { item: id, topic: found, anchor: id },
      {
        library,
        lens: node.lens,
        facets,
        open: [],
        rules: [],
        scope: node.scope,
        variables,
        choose,
        peers,
        pushes,
      },
    );
    prepared.set(node, topic);
    noteAll(topic.content, used);
  }
  const space = readerSpace(facets, used, lens);
  const problems = new Map<string, Problem>();
  const ask: Ask = ({ code, origin, readers, covers }, say) => {
    const left = uncovered(readers, covers, space);
    const key = `${code} ${origin.item} ${origin.path.join('.')}`;
    if (left === 'too-many')
      problems.set(
        `too-many ${key}`,
        problem(
          'info',
          'readers.too-many',
          'This varies in too many ways to be checked for every reader.',
          origin,
        ),
      );
    else if (left[0] && !problems.has(key))
      problems.set(key, problem('warning', code, say(nameReaders(left[0], space)), origin));
  };
  const uses = topicUses(nodes, prepared, space);
  const links: AskedLink[] = [];
  const checking: Checking = { library, space, ask, links };
  for (const { topic, readers } of uses) checkTopic(topic, readers, checking);
  checkHeads(nodes, prepared, space, ask);
  checkLinks(uses, checking);
  return [...problems.values()];
}

function topicUses(
  nodes: readonly MapNode[],
  prepared: ReadonlyMap<MapNode, ResolvedTopic>,
  space: ReaderSpace,
): TopicUse[] {
  return allNodes(nodes).flatMap((node) => {
    const topic = prepared.get(node);
    return topic
      ? [
          {
            node,
            topic,
            readers: both(
              readersThrough(node.conditions, space),
              readersOf(topic.content.attributes, space),
            ),
          },
        ]
      : [];
  });
}
const readersThrough = (conditions: readonly Attributes[], space: ReaderSpace): Readers =>
  conditions.reduce<Readers>(
    (readers, attributes) => both(readers, readersOf(attributes, space)),
    everyReader,
  );

/** Whether all who get something have what covers it. */
interface Question {
  readonly code: string;
  readonly origin: Origin;
  readonly readers: Readers;
  readonly covers: readonly Readers[];
}
/** Reports those who have not. @param say the sentence, with their name */
type Ask = (question: Question, say: (who: string) => string) => void;
interface Checking {
  readonly library: Library;
  readonly space: ReaderSpace;
  readonly ask: Ask;
  readonly links: AskedLink[];
}

function checkTopic(topic: ResolvedTopic, placed: Readers, checking: Checking): void {
  const { space, ask, links } = checking;
  const targets = new Map(topic.links.map(({ key, reference }) => [key, reference]));
  const visit = (element: ResolvedElement, outer: Readers): void => {
    const readers = both(outer, readersOf(element.attributes, space));
    if (isNobody(readers, space)) return;
    const target = element.link === undefined ? undefined : targets.get(element.link);
    if (target?.kind === 'item') links.push({ reference: target, readers, origin: element.origin });
    const children = element.children.filter(isElement) as ResolvedElement[];
    const covers = (of: readonly ResolvedElement[]): Readers[] =>
      of.map((child) => readersOf(child.attributes, space));
    const content = element.children.filter(isContent);
    const isVaried = content.some(({ attributes }) => facetValuesOf(attributes).size > 0);
    if (isA(element.name, 'taskbody')) checkSteps(element, readers, covers, ask);
    if (isList(element) && isVaried)
      ask(
        { code: 'readers.empty-list', origin: element.origin, readers, covers: covers(content) },
        (who) =>
          `${isA(element.name, 'steps') ? 'The steps have nothing' : 'The list has no entry'} ` +
          `for ${who}.`,
      );
    else if (
      isVaried &&
      !isInline(element.name) &&
      !element.children.some((node) => typeof node === 'string' && !blank(node))
    )
      checkHolder(element, readers, covers(content), ask);
    if (isA(element.name, 'tgroup') || isA(element.name, 'simpletable'))
      checkCells(element, readers, space, ask);
    checkWords(element, readers, space, ask);
    for (const child of children) visit(child, readers);
  };
  visit(topic.content, placed);
  for (const inner of topic.nested)
    checkTopic(inner, both(placed, readersOf(inner.content.attributes, space)), checking);
}

/** A task needs steps for every reader who gets the task. */
function checkSteps(
  body: ResolvedElement,
  readers: Readers,
  covers: (of: readonly ResolvedElement[]) => Readers[],
  ask: Ask,
): void {
  const steps = (body.children.filter(isElement) as ResolvedElement[]).filter(({ name }) =>
    ['steps', 'steps-unordered', 'steps-informal'].some((kind) => isA(name, kind)),
  );
  if (steps.length > 0)
    ask(
      { code: 'readers.no-steps', origin: body.origin, readers, covers: covers(steps) },
      (who) => `The task has no steps for ${who}.`,
    );
}

/** What has a heading of its own, or is nothing without its content. */
function checkHolder(
  element: ResolvedElement,
  readers: Readers,
  covers: readonly Readers[],
  ask: Ask,
): void {
  const title = childNamed(element, 'title');
  const isPart =
    isA(element.name, 'section') ||
    isA(element.name, 'example') ||
    isA(element.name, 'fig') ||
    isA(element.name, 'note') ||
    isA(element.name, 'li') ||
    isA(element.name, 'p');
  if (!isPart && !title) return;
  // Several wordings of one line are asked for as such.
  if (
    !title &&
    element.children.filter(isElement).length > 1 &&
    element.children.every((node) => !isElement(node) || isInline(node.name))
  )
    return;
  const what = title
    ? `Under “${lineOf(title)}” there`
    : `In this ${labelOf(element.name).toLowerCase()} there`;
  ask(
    { code: 'readers.empty-part', origin: element.origin, readers, covers },
    (who) => `${what} is nothing for ${who}.`,
  );
}

/** Tables in which more readers than these get different cells are not looked at one by one. */
const mostTables = 300;

/**
 * For everybody who gets the table its rows have a cell in each column in which some row has one,
 * and joined cells reach no further than they should. The table is laid out as each of them gets
 * it; what is wrong for all of them varies by nothing, and is told of the table itself.
 */
function checkCells(table: ResolvedElement, outer: Readers, space: ReaderSpace, ask: Ask): void {
  const sets = new Map<string, Readers>();
  const gather = (holder: Element): void => {
    for (const child of holder.children.filter(isElement)) {
      if (facetValuesOf(child.attributes).size > 0)
        sets.set(JSON.stringify(facetsIn(child)), readersOf(child.attributes, space));
      if (!isCell(child)) gather(child);
    }
  };
  gather(table);
  if (sets.size === 0) return;
  const parts = partition(outer, [...sets.values()], space, mostTables);
  if (parts === 'too-many')
    return ask(
      { code: 'readers.too-many', origin: table.origin, readers: outer, covers: [] },
      () => 'This table varies in too many ways to be checked for every reader.',
    );
  const faults = parts.flatMap((readers) =>
    cellFaults(asFor(table, readers, space)).map((fault) => ({ ...fault, readers })),
  );
  const forAll = ({ at }: CellFault): boolean =>
    parts.length > 1 && faults.filter((other) => other.at === at).length === parts.length;
  for (const fault of faults)
    if (!forAll(fault))
      ask(
        { code: fault.code, origin: fault.origin, readers: fault.readers, covers: [] },
        fault.say,
      );
}

const facetsIn = ({ attributes }: Element): unknown =>
  [...facetValuesOf(attributes)].map(([facet, values]) => [facet, values]);

/** A table with the rows and cells that some readers get. */
const asFor = (holder: ResolvedElement, readers: Readers, space: ReaderSpace): ResolvedElement => ({
  ...holder,
  children: holder.children
    .filter(
      (child) =>
        !isElement(child) || !isNobody(both(readers, readersOf(child.attributes, space)), space),
    )
    .map((child) =>
      !isElement(child) || isCell(child) ? child : asFor(child as ResolvedElement, readers, space),
    ),
});
const isCell = ({ name }: Element): boolean => isA(name, 'entry') || isA(name, 'stentry');

interface CellFault {
  readonly code: 'readers.missing-cell' | 'readers.joined-cell';
  readonly origin: Origin;
  /** The same for the same fault of another reader’s table. */
  readonly at: string;
  readonly say: (who: string) => string;
}

/** What is wrong with the cells of a table as one group of readers gets it. */
function cellFaults(table: ResolvedElement): CellFault[] {
  const { head, body, problems } = gridOf(table);
  const covered = [head, body].map((rows) =>
    rows.map(
      (_, at) =>
        new Set(
          rows
            .slice(0, at + 1)
            .flatMap(({ cells }, from) =>
              cells
                .filter(({ rowSpan }) => from + rowSpan > at)
                .flatMap(({ column, columnSpan }) =>
                  Array.from({ length: columnSpan }, (_one, offset) => column + offset),
                ),
            ),
        ),
    ),
  );
  const live = [...new Set(covered.flat().flatMap((columns) => [...columns]))].sort(
    (a, b) => a - b,
  );
  const missing = [head, body].flatMap((rows, part) =>
    rows.flatMap(({ element }, at) =>
      live
        .filter((column) => !covered[part]![at]!.has(column))
        .slice(0, 1)
        .map((): CellFault => {
          const { origin } = element as ResolvedElement;
          return {
            code: 'readers.missing-cell',
            origin,
            at: `cell ${origin.item} ${origin.path.join('.')}`,
            say: (who) => `This row lacks a cell for ${who}.`,
          };
        }),
    ),
  );
  const [joined] = problems.filter(
    ({ code }) => code === 'table.span' || code === 'table.too-many-cells',
  );
  return joined
    ? [
        {
          code: 'readers.joined-cell',
          origin: table.origin,
          at: 'joined',
          say: (who) => `Cells of this table reach into each other for ${who}.`,
        },
      ]
    : missing;
}

/**
 * Words that stand for each other, side by side, say something for everybody who reads the
 * sentence.
 */
function checkWords(
  element: ResolvedElement,
  readers: Readers,
  space: ReaderSpace,
  ask: Ask,
): void {
  let run: ResolvedElement[] = [];
  const facetsOf = ({ attributes }: Element): string =>
    [...facetValuesOf(attributes).keys()].sort().join(' ');
  const end = (): void => {
    const [first] = run;
    if (first && run.length > 1)
      ask(
        {
          code: 'readers.missing-words',
          origin: first.origin,
          readers,
          covers: run.map(({ attributes }) => readersOf(attributes, space)),
        },
        (who) => `Of “${run.map(lineOf).join('” and “')}” none is for ${who}.`,
      );
    run = [];
  };
  for (const node of element.children) {
    if (isElement(node) && isInline(node.name) && facetsOf(node) !== '') {
      // What varies by something else says something else.
      if (run[0] && facetsOf(run[0]) !== facetsOf(node)) end();
      run.push(node as ResolvedElement);
    } else if (!blank(node)) end();
  }
  end();
}

/** A heading without a topic of its own holds something for everybody who gets it. */
function checkHeads(
  nodes: readonly MapNode[],
  prepared: ReadonlyMap<MapNode, ResolvedTopic>,
  space: ReaderSpace,
  ask: Ask,
): void {
  for (const node of allNodes(nodes)) {
    if (node.item !== undefined || !node.title || node.children.length === 0) continue;
    const covers = node.children.map((child) =>
      both(
        readersThrough(child.conditions, space),
        readersOf(prepared.get(child)?.content.attributes ?? {}, space),
      ),
    );
    ask(
      {
        code: 'readers.empty-part',
        origin: node.origin,
        readers: readersThrough(node.conditions, space),
        covers,
      },
      (who) =>
        `Under “${lineOf({ name: 'title', attributes: {}, children: node.title! })}” there ` +
        `is nothing for ${who}.`,
    );
  }
}

/**
 * Checks that readers who see a link also see its target. Targets that are nowhere in the
 * publication are reported by the build.
 */
function checkLinks(uses: readonly TopicUse[], { library, space, ask, links }: Checking): void {
  const byItem = new Map<string, TopicUse[]>();
  for (const use of uses)
    for (const id of new Set([use.node.item, use.node.base]))
      if (id !== undefined) byItem.set(id, [...(byItem.get(id) ?? []), use]);
  for (const { reference, readers, origin } of links) {
    const targets = byItem.get(reference.id) ?? [];
    const covers = targets.flatMap(({ topic, readers: placed }) =>
      readersOfPart(topic.content, reference.element, placed, space),
    );
    if (covers.length === 0) continue;
    const title = library.item(reference.id)?.root;
    const name = title ? lineOf(childNamed(title, 'title', 'glossterm') ?? title) : reference.id;
    ask(
      { code: 'readers.dropped-target', origin, readers, covers },
      (who) => `The link leads to “${name}”, which is not there for ${who}.`,
    );
  }
}

/** Who gets an element inside a topic; no reader where there is none of that ID. */
function readersOfPart(
  content: ResolvedElement,
  id: string | undefined,
  placed: Readers,
  space: ReaderSpace,
): Readers[] {
  if (id === undefined || content.attributes['id'] === id) return [placed];
  const search = (element: Element, outer: Readers): Readers[] =>
    element.children.filter(isElement).flatMap((child) => {
      const readers = both(outer, readersOf(child.attributes, space));
      return child.attributes['id'] === id ? [readers] : search(child, readers);
    });
  return search(content, placed);
}
