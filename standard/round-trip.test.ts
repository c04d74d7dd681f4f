import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { generalise, normalise, writeCanonical } from '@ukiyo/core/grammar';
import { readXml, type XmlDocument } from '@ukiyo/core/markup';
import { anyElement } from '@ukiyo/core/testing';
import { readPackage } from '@ukiyo/intake';
import { ditaFiles } from '@ukiyo/press';

const encoder = new TextEncoder();
const decoder = new TextDecoder();

/** The files of a package after they have been taken in and given out. */
function given(files: Readonly<Record<string, string>>): ReadonlyMap<string, string> {
  const taken = readPackage(
    new Map(Object.entries(files).map(([path, text]) => [path, encoder.encode(text)])),
  );
  const out = ditaFiles(taken.items, taken.assets, taken.lenses, taken.facets);
  return new Map([...out].map(([path, bytes]) => [path, decoder.decode(bytes)]));
}

/** All that a file says, in one spelling; white space that means nothing is left out. */
function saidBy(text: string): Omit<XmlDocument, 'root'> & { readonly root: string } {
  const { document, problems } = readXml(text);
  if (!document) throw new Error(problems.map(({ message }) => message).join('; '));
  const { root, doctype = '', before, after } = document;
  return {
    doctype: doctype.replace(/\s+/gu, ' '),
    before,
    after,
    root: writeCanonical(generalise(root)),
  };
}

const strictTask = '<!DOCTYPE task PUBLIC "-//OASIS//DTD DITA Task//EN" "task.dtd">';
const plainTopic = '<!DOCTYPE topic PUBLIC "-//OASIS//DTD DITA Topic//EN" "topic.dtd">';
const task =
  '<task id="a"><title>Trim</title><taskbody><steps><step><cmd>Cut.</cmd></step></steps>' +
  '</taskbody></task>';

/** Files with what they have that is unusual. */
const sources: readonly (readonly [string, string])[] = [
  ['with the document type that it has', `${strictTask}${task}`],
  [
    'with comments before and after',
    `<!-- Licence --><!-- 2 -->${plainTopic}<topic id="a"><title>T</title></topic><!-- End -->`,
  ],
  [
    'with processing instructions outside',
    '<?xml-model href="a.rng" type="x"?><topic id="a"><title>T</title></topic>',
  ],
  [
    'with comments and instructions inside',
    `${plainTopic}<topic id="a"><title>T<!-- of the sea --></title><body><?break?><p>` +
      `A<?soft?></p></body></topic>`,
  ],
  [
    'without a document type where a schema is named',
    '<topic id="a" xmlns:xsi="http://www.w3.org/2001/XMLSchema-instance"' +
      ' xsi:noNamespaceSchemaLocation="topic.xsd"><title>T</title></topic>',
  ],
  [
    'with its specialised elements',
    '<!DOCTYPE bulletin SYSTEM "bulletin.dtd"><bulletin class="- topic/topic' +
      ' bulletin/bulletin " id="a"><title>T</title><bulbody class="- topic/body' +
      ' bulletin/bulbody "><alert class="- topic/p bulletin/alert ">A</alert></bulbody>' +
      '</bulletin>',
  ],
  [
    'with generalised elements',
    `${plainTopic}<topic id="a"><title>T</title><body><p class="- topic/p bulletin/alert` +
      ` ">A</p></body></topic>`,
  ],
  [
    'with learning content',
    '<!DOCTYPE learningContent SYSTEM "learningContent.dtd"><learningContent id="a">' +
      '<title>T</title><learningContentbody><lcIntro><p>A</p></lcIntro>' +
      '</learningContentbody></learningContent>',
  ],
  [
    'with specialised attributes',
    `${plainTopic}<topic domains="a(props crewrank)" id="a"><title>T</title><body><p` +
      ` crewrank="mate" props="x(y)">A</p></body></topic>`,
  ],
  [
    'with elements that nobody knows',
    `${plainTopic}<topic id="a"><title>T</title><body><blare loud="yes">A <b>b</b></blare>` +
      `</body></topic>`,
  ],
  [
    'with foreign content',
    `${plainTopic}<topic id="a"><title>T</title><body><p><foreign><m:math` +
      ` xmlns:m="http://www.w3.org/1998/Math/MathML"><m:mi>x</m:mi></m:math></foreign></p>` +
      `</body></topic>`,
  ],
];

describe('a file goes out as it came in (DITA 1.3, 2.5.4; XML 1.0, 2.5 to 2.8)', () => {
  it.each(sources)('%s', (_what, text) => {
    expect(saidBy(given({ 'a.dita': text }).get('a.dita')!)).toEqual(saidBy(text));
  });

  it('with any elements, comments and instructions', () => {
    const outside = fc.array(
      fc.oneof(
        fc.stringMatching(/^[a-z ]{1,12}$/u).map((words) => `<!--${words}-->`),
        fc.stringMatching(/^[a-z]{3,8}$/u).map((name) => `<?${name} told?>`),
      ),
      { maxLength: 3 },
    );
    const kind = fc.constantFrom('topic', 'concept', 'task', 'reference', 'troubleshooting');
    fc.assert(
      fc.property(fc.gen(), kind, outside, outside, (gen, name, before, after) => {
        const root = normalise(gen(anyElement, name, 4));
        const text =
          `${before.join('\n')}<!DOCTYPE ${name} SYSTEM "own.dtd">` +
          `${writeCanonical(root)}${after.join('\n')}`;
        const [out] = given({ 'a.dita': text }).values();
        expect(saidBy(out!)).toEqual(saidBy(text));
      }),
      { numRuns: 200 },
    );
  });
});

describe('entities of a document type (XML 1.0, 4)', () => {
  const withEntities = (declared: string, words: string): string =>
    `<!DOCTYPE topic SYSTEM "topic.dtd" [${declared}]><topic id="a"><title>${words}</title>` +
    `</topic>`;
  const titleOf = (text: string): unknown => readXml(text).document?.root.children[0];
  it('stand for their text, also within each other', () => {
    expect(
      titleOf(
        withEntities(
          '<!ENTITY sea "North &amp; Baltic"><!ENTITY both \'&sea; &#x2014; all\'>',
          '&both;',
        ),
      ),
    ).toMatchObject({ children: ['North & Baltic — all'] });
  });
  it.each([
    ['that are external', '<!ENTITY x SYSTEM "file:///etc/passwd">', '&x;'],
    ['that hold markup', '<!ENTITY x "<b>x</b>">', '&x;'],
    ['that use themselves', '<!ENTITY x "&y;"><!ENTITY y "&x;">', '&x;'],
    ['that are not declared', '', '&x;'],
    [
      'that grow beyond bounds',
      `<!ENTITY a "${'x'.repeat(1000)}">${Array.from({ length: 9 }, (_, at) => {
        const before = at === 0 ? '&a;' : `&e${at - 1};`;
        return `<!ENTITY e${at} "${before.repeat(10)}">`;
      }).join('')}`,
      '&e8;',
    ],
    ['that are used too often', `<!ENTITY a "${'x'.repeat(60_000)}">`, '&a;'.repeat(100)],
  ])('%s are refused', (_what, declared, words) => {
    const { document, problems } = readXml(withEntities(declared, words));
    expect(document).toBeUndefined();
    expect(problems.map(({ code }) => code)).toEqual(['xml.entities']);
  });
});

describe('a package with files beside its topics', () => {
  it('comes back with the files that it names, and the parts of them', () => {
    const code = '<coderef href="../src/run.py#line=1,3"/>';
    const topic =
      `<topic id="a"><title>T</title><body><codeblock>${code}</codeblock><p>` +
      '<xref format="pdf" href="../plan.pdf#page=2">Plan</xref></p></body></topic>';
    const out = given({
      'topics/a.dita': topic,
      'src/run.py': 'one\ntwo\nthree\n',
      'plan.pdf': '%PDF-1.4\n',
      'src/unused.py': 'x\n',
    });
    expect([...out.keys()].sort()).toEqual(['plan.pdf', 'src/run.py', 'topics/a.dita']);
    expect(saidBy(out.get('topics/a.dita')!).root).toBe(saidBy(topic).root);
    expect(out.get('src/run.py')).toBe('one\ntwo\nthree\n');
  });
  it('comes back with its subject schemes, and a list of those facets alone that they lack', () => {
    const scheme =
      '<subjectScheme><subjectdef keys="people"><subjectHead><subjectHeadMeta><navtitle>Aboard' +
      '</navtitle></subjectHeadMeta><subjectdef keys="crew"/></subjectHead></subjectdef>' +
      '<enumerationdef><elementdef name="note"/><attributedef name="type"/>' +
      '<subjectdef keyref="people"/><defaultSubject keyref="crew"/></enumerationdef>' +
      '<enumerationdef><attributedef name="audience"/><subjectdef keyref="people"/>' +
      '</enumerationdef></subjectScheme>';
    const map = '<map><mapref href="lists/values.ditamap" type="subjectScheme"/></map>';
    const out = given({ 'lists/values.ditamap': scheme, 'book.ditamap': map });
    expect([...out.keys()].sort()).toEqual(['book.ditamap', 'lists/values.ditamap']);
    expect(saidBy(out.get('lists/values.ditamap')!).root).toBe(saidBy(scheme).root);
    expect(saidBy(out.get('book.ditamap')!).root).toBe(saidBy(map).root);
  });
  it('comes back with the flags of its filters', () => {
    const filter =
      '<val><style-conflict background-conflict-color="#ffee00" ' +
      'foreground-conflict-color="#112233"/>' +
      '<revprop action="flag" changebar="solid" style="bold underline" val="2">' +
      '<startflag imageref="new.svg"><alt-text>New</alt-text></startflag></revprop></val>';
    const out = given({
      'new.svg': '<svg xmlns="http://www.w3.org/2000/svg" width="4" height="4"/>',
      'new.ditaval': filter,
      'a.dita': '<topic id="a"><title>T</title><body><p rev="2">Revised</p></body></topic>',
    });
    const [, written] = [...out].find(([path]) => path.endsWith('.ditaval'))!;
    const plain = saidBy(written).root.replace('../', '').replace(/>\s+</gu, '><');
    expect(plain).toBe(saidBy(filter).root);
    expect(out.get('a.dita')).toContain('rev="2"');
  });
});
