import fc from 'fast-check';
import { EditorState, NodeSelection, TextSelection } from 'prosemirror-state';
import { describe, expect, it } from 'vitest';
import { normalise, topicKinds, validate, writeCanonical } from '../grammar/index.ts';
import { readXml } from '../markup/index.ts';
import { readMedia, writeMedia } from '../media/index.ts';
import { anyElement } from '../testing/index.ts';
import {
  addImage,
  alternativeAt,
  canAddImage,
  canLink,
  choicesAt,
  fromEditor,
  imageFrom,
  linkAttributes,
  linkTo,
  mediaAt,
  noteAt,
  rewordNote,
  toEditor,
  withAlternative,
  withMedia,
  withWidth,
  usualTable,
  type Answer,
} from './index.ts';

/** The caret behind the first letter of the text, or the text selected. */
function state(inside: string, text: string, isSelected = false): EditorState {
  const doc = toEditor(
    normalise(
      readXml(`<concept id="c"><title>T</title><conbody>${inside}</conbody></concept>`).document!
        .root,
    ),
  );
  let from = 0;
  doc.descendants(
    (node, position) =>
      void (
        node.isText &&
        node.text!.includes(text) &&
        (from = position + node.text!.indexOf(text))
      ),
  );
  const start = EditorState.create({ doc });
  return start.apply(
    start.tr.setSelection(
      TextSelection.create(
        doc,
        isSelected ? from : from + 1,
        from + (isSelected ? text.length : 1),
      ),
    ),
  );
}
const body = ({ doc }: EditorState): string =>
  /<conbody>\s*([^]*?)\s*<\/conbody>/u
    .exec(writeCanonical(fromEditor(doc)))![1]!
    .replace(/\n\s*/gu, '');
const done = (at: EditorState, element: string, answer: string): EditorState =>
  at.apply(
    choicesAt(at)
      .find((choice) => choice.element === element && choice.asks !== undefined)!
      .apply(at, answer),
  );

function notesIn(at: EditorState): number[] {
  const found: number[] = [];
  at.doc.descendants((_node, position) => void (noteAt(at, position) && found.push(position)));
  return found;
}

describe('video and sound', () => {
  const video = writeMedia(
    { source: 'asset:v', description: 'Turn the key', poster: 'asset:i', kind: 'video' },
    'video/mp4',
  );
  const written =
    '<object data="asset:v" type="video/mp4"><desc>Turn the key</desc>' +
    '<param name="poster" value="asset:i" valuetype="ref"/></object>';
  const put = (at: EditorState): EditorState =>
    at.apply(
      choicesAt(at)
        .find(({ element }) => element === 'object')!
        .apply(at, video),
    );
  it('stand behind the block at the caret, where they may', () => {
    expect(body(put(state('<p>ab</p><p>c</p>', 'ab')))).toBe(`<p>ab</p>${written}<p>c</p>`);
    expect(body(put(state('<ul><li>ab</li></ul>', 'ab')))).toContain(written);
    expect(
      choicesAt(
        state(
          '<table><tgroup cols="1"><tbody><row><entry>ab</entry></row></tbody></tgroup></table>',
          'ab',
        ),
      ).map(({ element }) => element),
    ).toContain('object');
  });
  it('are said anew at their place, with what they are beside that', () => {
    const at = put(state('<p>ab</p>', 'ab'));
    const position = at.selection.from;
    expect(mediaAt(at, position)).toEqual(video);
    const changed = writeMedia({ ...readMedia(video)!, description: 'Slowly' }, 'video/mp4', {
      ...video,
      attributes: { ...video.attributes, id: 'k' },
    });
    expect(body(at.apply(withMedia(at, position, changed)))).toContain(
      '<object id="k" data="asset:v" type="video/mp4"><desc>Slowly</desc>',
    );
    expect(readMedia(readXml('<object data="x.mp3"/>').document!.root)).toEqual({
      source: 'x.mp3',
      description: '',
      poster: '',
      kind: 'audio',
    });
    expect(
      readMedia(readXml('<object data="x" type="application/pdf"/>').document!.root),
    ).toBeUndefined();
  });
});

describe('what the reader opens', () => {
  const turned = (at: EditorState, element: string): EditorState =>
    at.apply(
      choicesAt(at)
        .find((choice) => choice.element === element)!
        .apply(at),
    );
  it('is a part under a heading, there and back', () => {
    const at = turned(
      state('<section outputclass="wide"><title>More</title><p>ab</p></section>', 'ab'),
      'expandable',
    );
    expect(body(at)).toContain('<section outputclass="wide expandable">');
    expect(body(turned(at, 'expandable'))).toContain('<section outputclass="wide">');
    expect(
      choicesAt(state('<section><p>ab</p></section>', 'ab')).map(({ element }) => element),
    ).not.toContain('expandable');
  });
  it('is the selected words', () => {
    expect(body(turned(state('<p>see the tide now</p>', 'tide', true), 'expandable-words'))).toBe(
      '<p>see the <ph outputclass="expandable">tide</ph> now</p>',
    );
  });
});

describe('links', () => {
  it('take the words of their target, or keep those that were selected', () => {
    const bare = state('<p>ab</p>', 'ab');
    expect(body(bare.apply(linkTo(bare, linkAttributes('topic:x')!)))).toBe(
      '<p>a<xref href="topic:x"/>b</p>',
    );
    expect(body(done(state('<p>see the tide now</p>', 'tide', true), 'xref', 'topic:x/y'))).toBe(
      '<p>see the <xref href="topic:x/y">tide</xref> now</p>',
    );
  });
  it('name their target in a form set before or within them, and keep other styles', () => {
    const bare = state('<p>ab</p>', 'ab');
    const linked = bare.apply(linkTo(bare, linkAttributes('topic:x')!));
    const offered = (at: EditorState): string[] =>
      choicesAt(at).flatMap(({ element }) => (element.startsWith('words-') ? [element] : []));
    expect(offered(linked)).toEqual(['words-title', 'words-number', 'words-page']);
    const numbered = linked.apply(
      choicesAt(linked)
        .find(({ element }) => element === 'words-number')!
        .apply(linked),
    );
    expect(body(numbered)).toBe('<p>a<xref href="topic:x" outputclass="words-number"/>b</p>');
    const worded = state(
      '<p><xref href="topic:x" outputclass="quiet words-page">the tide</xref></p>',
      'tide',
    );
    expect(offered(worded)).toEqual(['words-usual', 'words-title', 'words-number']);
    const usual = worded.apply(
      choicesAt(worded)
        .find(({ element }) => element === 'words-usual')!
        .apply(worded),
    );
    expect(body(usual)).toBe('<p><xref href="topic:x" outputclass="quiet">the tide</xref></p>');
    expect(offered(state('<p>no link</p>', 'no link'))).toEqual([]);
  });
  it('replace what was typed to ask for them', () => {
    const asked = state('<p>a[[</p>', 'a[[', true);
    const at = asked.apply(
      asked.tr.setSelection(TextSelection.create(asked.doc, asked.selection.to)),
    );
    expect(
      body(at.apply(linkTo(at, linkAttributes('https://tides.example/')!, at.selection.from - 2))),
    ).toBe('<p>a<xref format="html" href="https://tides.example/" scope="external"/></p>');
  });
  it('begin nowhere that may hold none, and lead nowhere that acts', () => {
    expect(canLink(state('<p>a<xref href="topic:x">in it</xref></p>', 'in it'))).toBe(false);
    const title = state('<p/>', 'T');
    expect(canLink(title)).toBe(false);
    for (const reference of [
      'javascript:alert(1)',
      'data:text/html,x',
      'file:///etc/passwd',
      '',
      'asset:x',
    ])
      expect(linkAttributes(reference)).toBeUndefined();
  });
});

describe('notes in a line', () => {
  it.each([
    ['fn', 'Twice a day.', '<fn>Twice a day.</fn>'],
    ['draft-comment', 'Ask Teo', '<draft-comment>Ask Teo</draft-comment>'],
    [
      'indexterm',
      'tide > low › spring',
      '<indexterm>tide<indexterm>low<indexterm>spring</indexterm></indexterm></indexterm>',
    ],
  ])('%s is put behind the selection and said anew', (element, words, expected) => {
    const after = done(state('<p>tide</p>', 'tide', true), element, words);
    expect(body(after)).toBe(`<p>tide${expected}</p>`);
    const [found] = notesIn(after) as [number];
    expect(noteAt(after, found)).toEqual({ element, words: words.replace(' > ', ' › ') });
    expect(body(after.apply(rewordNote(after, found, 'new')))).toBe(
      `<p>tide<${element}>new</${element}></p>`,
    );
  });
  it.each([
    [
      'tide › low\nsee also ebb\nsee also neap',
      '<indexterm>tide<indexterm>low<index-see-also>ebb</index-see-also>' +
        '<index-see-also>neap</index-see-also></indexterm></indexterm>',
    ],
    ['ebb\nsee tide', '<indexterm>ebb<index-see>tide</index-see></indexterm>'],
    ['tide › low\nfrom lows', '<indexterm>tide<indexterm start="lows">low</indexterm></indexterm>'],
    ['to lows', '<indexterm end="lows"/>'],
  ])('an index entry leads elsewhere or over a range: %s', (words, expected) => {
    const after = done(state('<p>tide</p>', 'tide', true), 'indexterm', words);
    expect(body(after)).toBe(`<p>tide${expected}</p>`);
    const [found] = notesIn(after) as [number];
    expect(noteAt(after, found)!.words.trim()).toBe(words);
  });
  it('that hold more than words are left alone', () => {
    const rich = state(
      '<p>tide<fn>a <b>b</b></fn><indexterm>x<index-see>y<indexterm>z</indexterm></index-see>' +
        '</indexterm></p>',
      'tide',
    );
    expect(notesIn(rich)).toEqual([]);
  });
});

describe('images', () => {
  it('stand in a line, by themselves or in a figure that waits for its title', () => {
    expect(body(done(state('<p>tide</p>', 'tide'), 'fig', 'asset:well'))).toBe(
      '<p>tide</p><fig><title/><image href="asset:well"/></fig>',
    );
    expect(body(done(state('<p>tide</p>', 'tide'), 'image', 'asset:well'))).toBe(
      '<p>tide</p><image href="asset:well" placement="break"/>',
    );
    const line = state('<p>ab</p>', 'ab');
    expect(canAddImage(line)).toBe(true);
    expect(body(line.apply(addImage(line, 'asset:well')))).toBe(
      '<p>a<image href="asset:well"/>b</p>',
    );
  });
  it('are described and sized, and keep what else they carry', () => {
    const start = state(
      '<p>tide</p><image href="asset:w" height="40mm" alt="old" id="i">' +
        '<longdescref href="topic:x"/></image>',
      'tide',
    );
    const position = imageFrom(start.doc, 0, start.doc.content.size)!;
    expect(alternativeAt(start, position)).toBe('old');
    const described = start.apply(withAlternative(start, position, 'A tube'));
    expect(described.selection).toBeInstanceOf(NodeSelection);
    expect(body(described.apply(withWidth(described, position, 50.4)))).toBe(
      '<p>tide</p><image id="i" href="asset:w" width="50mm"><alt>A tube</alt>' +
        '<longdescref href="topic:x"/></image>',
    );
    expect(alternativeAt(start, 1)).toBeUndefined();
  });
});

it('whatever is asked for and answered anywhere leaves a topic as valid as it was', () => {
  const answers = {
    target: ['topic:x', 'https://tides.example/', ''],
    image: ['asset:w'],
    words: ['a', 'a > b', ''],
    character: ['—'],
    variable: ['text k', 'image k', 'link k', ''],
    table: [
      { ...usualTable, rows: 1 },
      { ...usualTable, hasHead: false, title: 'T' },
    ],
    facets: [''],
    passage: [''],
    copied: [''],
    lender: [''],
    copy: [''],
    media: [
      writeMedia(
        { source: 'asset:v', description: 'D', poster: 'asset:i', kind: 'video' },
        'video/mp4',
      ),
    ],
  };
  let answered = 0;
  fc.assert(
    fc.property(
      fc.gen(),
      fc.constantFrom(...topicKinds),
      fc.record({ at: fc.nat(10_000), to: fc.nat(10_000), pick: fc.nat(10) }),
      (gen, kind, { at, to, pick }) => {
        const root = normalise(gen(anyElement, kind, 4));
        const start = EditorState.create({ doc: toEditor(root) });
        const $at = start.doc.resolve(at % (start.doc.content.size + 1));
        const near = TextSelection.near($at);
        const end = Math.min(near.$from.end(), near.from + (to % 5));
        const placed = start.apply(
          start.tr.setSelection(
            TextSelection.create(start.doc, near.from, Math.max(near.from, end)),
          ),
        );
        const wrong = (tree: typeof root): number =>
          validate(tree).filter(
            ({ severity, code }) => severity === 'error' && code !== 'grammar.missing-attribute',
          ).length;
        for (const choice of choicesAt(placed)) {
          if (!choice.asks) continue;
          answered += 1;
          const given: readonly Answer[] = answers[choice.asks];
          const answer = given[pick % given.length]!;
          const { doc } = placed.apply(choice.apply(placed, answer));
          doc.check();
          expect(
            wrong(fromEditor(doc)),
            `${choice.element} ${JSON.stringify(answer)}`,
          ).toBeLessThanOrEqual(wrong(root));
        }
      },
    ),
    { numRuns: 150 },
  );
  expect(answered).toBeGreaterThan(150);
});
