import type { ResolvedElement } from '@ukiyo/core/compose';
import { lineOf, readXml, textOf } from '@ukiyo/core/markup';
import { composeTexts, concept, mapText } from '@ukiyo/core/testing';
import { describe, expect, it } from 'vitest';
import { normalizeBlocks, topicBlocks, type Block, type BlockOf } from './index.ts';
import { flowOf } from './flow.ts';

/** The blocks of a concept with this body. */
function blocksOf(body: string, deepest = 40): Block[] {
  const { places, targets } = composeTexts([
    concept('a', body),
    mapText('<topicref href="topic:a"/>'),
  ]);
  const content = places[0]!.content!;
  return topicBlocks(content, {
    target: (anchor) => targets[anchor],
    fileText: () => undefined,
    deepest,
  });
}
const one = <Kind extends Block['kind']>(kind: Kind, body: string): BlockOf<Kind> => {
  const [block] = blocksOf(body);
  expect(block?.kind).toBe(kind);
  return block as BlockOf<Kind>;
};
const kinds = (blocks: readonly Block[]): string[] => blocks.map(({ kind }) => kind);

describe('mixed content', () => {
  const children = (xml: string) => readXml(`<li>${xml}</li>`).document!.root.children;

  it('parts into runs and blocks, without runs of white space', () => {
    const flow = flowOf(
      children(' a <b>b</b> <p>c</p> \n <ul/>d<image placement="break"/>e<image/>'),
    );
    expect(
      flow.map((part) => (part.kind === 'block' ? part.element.name : part.nodes.length)),
    ).toEqual([3, 'p', 'ul', 1, 'image', 2]);
  });

  it('gives paragraphs without an element to text beside blocks', () => {
    const list = one('list', '<ul><li>Wait<note>Mind the gap</note></li></ul>');
    expect(kinds(list.items[0]!.blocks)).toEqual(['paragraph', 'note']);
    const [text] = list.items[0]!.blocks;
    expect(text).not.toHaveProperty('element');
  });
});

describe('an element', () => {
  it.each([
    ['paragraph', '<p>Wait.</p>'],
    ['group', '<p>Take<ul><li>rope</li></ul></p>'],
    ['picture', '<p><image href="asset:a"/></p>'],
    ['paragraph', '<p>See <image href="asset:a"/></p>'],
    ['quote', '<lq>Wait.</lq>'],
    ['note', '<note>Wait.</note>'],
    ['lines', '<lines>a\nb</lines>'],
    ['code', '<codeblock>a</codeblock>'],
    ['code', '<screen>a</screen>'],
    ['list', '<sl><sli>a</sli></sl>'],
    ['definitions', '<parml><plentry><pt>a</pt><pd>b</pd></plentry></parml>'],
    ['figure', '<fig><p>drawn</p></fig>'],
    ['table', '<simpletable><strow><stentry>a</stentry></strow></simpletable>'],
    ['section', '<section><p>a</p></section>'],
  ] as const)('is a block of one kind: %s', (kind, body) => void one(kind, body));

  it('says in which language its code is', () => {
    expect(one('code', '<codeblock outputclass="language-json">{}</codeblock>').language).toBe(
      'json',
    );
    expect(one('code', '<codeblock>{}</codeblock>')).not.toHaveProperty('language');
  });

  it('keeps what it was made of, for its anchor and its marks', () => {
    const { element } = one('note', '<note id="n">Wait.</note>');
    expect(element.origin).toEqual({ item: 'a', path: [1, 0] });
  });
});

describe('captions', () => {
  it('have the number that the publication gives', () => {
    const figure = one('figure', '<fig id="f"><title>Tide</title><p>drawn</p></fig>');
    expect(figure.caption?.number).toMatch(/^\d/u);
    expect(lineOf(figure.caption!.title)).toBe('Tide');
    expect(kinds(figure.blocks)).toEqual(['paragraph']);
  });

  it('of sections have none, and label what has no title', () => {
    expect(
      one('section', '<section id="s"><title>Tide</title></section>').caption,
    ).not.toHaveProperty('number');
    const [block] = blocksOf('<example><p>a</p></example>');
    expect(block).toMatchObject({ kind: 'section', label: 'example' });
    expect(block).not.toHaveProperty('caption');
  });
});

describe('steps', () => {
  const steps = (inner: string): BlockOf<'steps'> => {
    const { places } = composeTexts([
      `<task id="a"><title>A</title><taskbody><steps>${inner}</steps></taskbody></task>`,
      mapText('<topicref href="topic:a"/>'),
    ]);
    const blocks = topicBlocks(places[0]!.content!, {
      target: () => undefined,
      fileText: () => undefined,
      deepest: 40,
    });
    return blocks[0] as BlockOf<'steps'>;
  };
  const step = (text: string): string => `<step><cmd>${text}</cmd><info>More.</info></step>`;

  it('continue their numbers after a section between them', () => {
    const { runs, isNumbered, isNested } = steps(
      `${step('One')}${step('Two')}<stepsection>Then</stepsection>${step('Three')}`,
    );
    expect(
      runs.map((run) => (run.kind === 'steps' ? [run.start, run.items.length] : 'between')),
    ).toEqual([[1, 2], 'between', [3, 1]]);
    expect({ isNumbered, isNested }).toEqual({ isNumbered: true, isNested: false });
  });

  it('have their command first, and steps of their own', () => {
    const inner =
      '<step><cmd>Climb</cmd><substeps><substep><cmd>Look</cmd></substep></substeps></step>';
    const [run] = steps(inner).runs;
    const [command, nested] = run!.kind === 'steps' ? run!.items[0]!.blocks : [];
    expect(command?.kind).toBe('command');
    expect(nested).toMatchObject({ kind: 'steps', isNested: true });
  });
});

describe('tables', () => {
  it('are grids whose cells contain blocks', () => {
    const table = one(
      'table',
      '<table><title>Tides</title><tgroup cols="2"><colspec colname="a"/><colspec colname="b"/>' +
        '<thead><row><entry namest="a" nameend="b">Noon</entry></row></thead>' +
        '<tbody><row><entry><p>1</p><p>2</p></entry><entry/></row></tbody></tgroup></table>',
    );
    const [grid, ...more] = table.grids;
    expect(more).toEqual([]);
    expect(grid!.head[0]!.cells.map(({ columnSpan }) => columnSpan)).toEqual([2]);
    expect(grid!.body[0]!.cells.map(({ blocks }) => kinds(blocks))).toEqual([
      ['paragraph', 'paragraph'],
      [],
    ]);
  });
});

describe('content that is nested too deeply', () => {
  const nested = (depth: number, inner: string): string =>
    depth === 0 ? inner : `<ul><li>${nested(depth - 1, inner)}</li></ul>`;

  it('is its text, with the place where it begins', () => {
    const find = (blocks: readonly Block[]): Block | undefined =>
      blocks.flatMap((block) =>
        block.kind === 'list' ? (find(block.items[0]!.blocks) ?? []) : block,
      )[0];
    const found = find(blocksOf(nested(5, 'the end'), 3));
    expect(found).toMatchObject({ kind: 'flattened', text: 'the end' });
    expect(find(blocksOf(nested(5, 'the end'), 5))?.kind).toBe('paragraph');
  });

  it('loses only structure in lines too', () => {
    const body = '<p>a <b>b <i>c <u>d</u></i></b></p>';
    const [cut] = blocksOf(body, 2) as BlockOf<'paragraph'>[];
    const names = (nodes: readonly unknown[]): string[] =>
      nodes.flatMap((node) =>
        typeof node === 'object'
          ? [(node as ResolvedElement).name, ...names((node as ResolvedElement).children)]
          : [],
      );
    expect(names(cut!.nodes)).toEqual(['b', 'i']);
    expect(cut!.nodes.map(textOf).join('')).toBe('a b c d');
    const [whole] = blocksOf(body) as BlockOf<'paragraph'>[];
    expect(names(whole!.nodes)).toEqual(['b', 'i', 'u']);
  });
});

it('images of which each reader gets one are one picture', () => {
  const image = (keyref: string, when?: string): ResolvedElement => ({
    name: 'image',
    attributes: { keyref },
    children: [],
    origin: { item: 'a', path: [] },
    ...(when === undefined ? {} : { when: [{}] }),
  });
  const made = (...images: ResolvedElement[]): string[] =>
    kinds(
      normalizeBlocks(images, {
        target: () => undefined,
        fileText: () => undefined,
        deepest: 9,
      }),
    );
  expect(made(image('plugs', 'a'), image('plugs', 'b'))).toEqual(['picture']);
  expect(made(image('plugs', 'a'), image('mast', 'b'))).toEqual(['paragraph']);
  expect(made(image('plugs'), image('plugs'))).toEqual(['paragraph']);
});
