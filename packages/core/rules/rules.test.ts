import { describe, expect, it } from 'vitest';
import { validate, writeCanonical } from '../grammar/index.ts';
import { checkItem } from '../library/index.ts';
import { readXml, type Element } from '../markup/index.ts';
import {
  applyEdit,
  applyFixes,
  checkCompleteness,
  checkHouseRules,
  mostHouseProblems,
  ruleSentence,
  type HouseRule,
} from './index.ts';

const tree = (xml: string): Element => readXml(xml).document!.root;
const short = (root: Element | undefined): string | undefined =>
  root && writeCanonical(root).replace(/\s*\n\s*/gu, '');
type Part<Rule> = Rule extends unknown ? Omit<Rule, 'id' | 'severity' | 'reason'> : never;
const rule = (part: Part<HouseRule>): HouseRule => ({
  id: 'r',
  severity: 'warning',
  reason: '',
  ...part,
});
const found = (xml: string, ...rules: HouseRule[]): string[] =>
  checkHouseRules(tree(xml), rules).map(
    ({ message, where }) => `${where.path!.join('.')} ${message}`,
  );

const task = (steps: number, more = ''): string =>
  '<task id="t"><title>A</title><taskbody>' +
  `<steps>${'<step><cmd>Go</cmd></step>'.repeat(steps)}</steps>${more}</taskbody></task>`;

describe('house rules', () => {
  it('forbid an element inside another, with everything it is the base of', () => {
    const noLists = rule({ kind: 'forbid', element: 'ul', within: 'entry' });
    const table =
      '<concept id="c"><title>A</title><conbody><ul><li>x</li></ul><table><tgroup cols="1">' +
      '<tbody><row><entry><ul><li>y</li></ul></entry></row></tbody></tgroup></table>' +
      '</conbody></concept>';
    expect(found(table, noLists)).toEqual(['1.1.0.0.0.0.0 No “Bullet list” in “Cell”.']);
    expect(found(task(1), rule({ kind: 'forbid', element: 'ol', within: '' }))).toEqual([
      '1.0 No “Numbered list”.',
    ]);
  });
  it('require a part, and offer it where it can stand', () => {
    const needsResult = rule({ kind: 'require', element: 'taskbody', part: 'result' });
    expect(found(task(1, '<result/>'), needsResult)).toEqual([]);
    const [problem] = checkHouseRules(tree(task(1)), [needsResult]);
    expect(problem).toMatchObject({
      code: 'house.r',
      severity: 'warning',
      where: { path: [1] },
      fix: { label: 'Add “Result”' },
    });
    const fixed = applyEdit(tree(task(1)), problem!.fix!.edit)!;
    expect(validate(fixed)).toEqual([]);
    expect(checkHouseRules(fixed, [needsResult])).toEqual([]);
  });
  it('say nothing of a part that belongs deeper than the element', () => {
    const [problem] = checkHouseRules(tree(task(1)), [
      rule({ kind: 'require', element: 'task', part: 'result' }),
    ]);
    expect(problem!.message).toBe('“Task” needs “Result”.');
    expect(problem!.fix).toBeUndefined();
  });
  it('limit how many there are, of elements and of words', () => {
    const nine = rule({ kind: 'limit', element: 'steps', part: 'step', most: 9 });
    expect(found(task(9), nine)).toEqual([]);
    expect(found(task(10), nine)).toEqual(['1.0 “Steps” has at most 9 of “Step”. Here are 10.']);
    const brief = rule({ kind: 'limit', element: 'cmd', part: 'words', most: 3 });
    expect(
      found(
        '<task id="t"><title>A</title><taskbody><steps><step><cmd>Open the <b>left</b> ' +
          'door</cmd></step></steps></taskbody></task>',
        brief,
      ),
    ).toHaveLength(1);
  });
  it('match the text against a pattern in linear time', () => {
    const verb = rule({ kind: 'pattern', element: 'title', pattern: '^[A-Z]' });
    expect(found('<concept id="c"><title>lower</title></concept>', verb)).toHaveLength(1);
    expect(found('<concept id="c"><title>Upper</title></concept>', verb)).toEqual([]);
    // In a backtracking engine this one would run until the end of days.
    const endless = rule({ kind: 'pattern', element: 'title', pattern: '^(a+)+$' });
    expect(
      found(`<concept id="c"><title>${'a'.repeat(40_000)}!</title></concept>`, endless),
    ).toHaveLength(1);
    expect(
      found(
        '<concept id="c"><title>x</title></concept>',
        rule({ kind: 'pattern', element: 'title', pattern: '(' }),
      ),
    ).toEqual([]);
  });
  it('find wordings as whole words in prose only, and put the right one there', () => {
    const wording = rule({ kind: 'phrase', phrase: 'log in', instead: 'sign in' });
    const xml =
      '<concept id="c"><title>Log  in</title><conbody><p>Catalog in hand, <b>log in</b>.</p>' +
      '<codeblock>log in</codeblock></conbody></concept>';
    expect(found(xml, wording)).toEqual([
      '0 Write “sign in”, not “log in”.',
      '1.0.1 Write “sign in”, not “log in”.',
    ]);
    const { root, count } = applyFixes(tree(xml), checkHouseRules(tree(xml), [wording]));
    expect(count).toBe(2);
    expect(short(root)).toContain('<title>Sign in</title>');
    expect(short(root)).toContain('Catalog in hand, <b>sign in</b>.');
  });
});

describe('house rules', () => {
  it('list at most 1,000 places, and report more with the highest severity of the rules', () => {
    const short = { ...rule({ kind: 'limit', element: 'cmd', part: 'words', most: 0 }) };
    const never = { ...short, id: 'never', severity: 'error', most: 9 } as const;
    const all = checkHouseRules(tree(task(mostHouseProblems)), [short, never]);
    expect(all).toHaveLength(mostHouseProblems);
    const listed = checkHouseRules(tree(task(mostHouseProblems + 500)), [short, never]);
    expect(listed.slice(0, -1)).toEqual(all);
    expect(listed.at(-1)).toMatchObject({ code: 'house-rules.more', severity: 'error' });
  });
  it('find wordings with a hyphen and with signs that mean something in a pattern', () => {
    const wordings = ['e-mail', 'and/or', 'C++', '(s)', 'a.b'];
    const text = '<p>Send an E-Mail and/or a letter in C++ with (s) and a.b, not axb.</p>';
    const all = wordings.map((phrase) => rule({ kind: 'phrase', phrase, instead: '' }));
    expect(found(text, ...all)).toHaveLength(wordings.length);
  });
  it('read as sentences', () => {
    expect(ruleSentence(rule({ kind: 'limit', element: 'title', part: 'words', most: 8 }))).toBe(
      '“Title” has at most 8 words.',
    );
    expect(ruleSentence(rule({ kind: 'phrase', phrase: 'please', instead: '' }))).toBe(
      'Do not write “please”.',
    );
  });
});

describe('completeness', () => {
  it('asks for alternative text unless an image says that it only decorates', () => {
    const codes = (image: string): string[] =>
      checkCompleteness(
        tree(`<concept id="c"><title>A</title><conbody>${image}</conbody></concept>`),
      ).map(({ code }) => code);
    expect(codes('<image href="asset:a"/>')).toEqual(['image.no-alternative']);
    expect(codes('<image href="asset:a"><alt> </alt></image>')).toEqual(['image.no-alternative']);
    expect(
      codes('<image href="asset:a"><alt>A well</alt></image><image href="asset:a" alt=""/>'),
    ).toEqual([]);
  });
  it('counts placeholders that are left', () => {
    const [one, two] = checkCompleteness(
      tree(
        '<concept id="c"><title>Fit the <?placeholder part name?></title><shortdesc>' +
          '<?placeholder why?></shortdesc></concept>',
      ),
    );
    expect(one).toMatchObject({
      code: 'placeholder.left',
      message: '“part name” in “Title” is still to be written.',
      where: { path: [0] },
    });
    expect(two!.where.path).toEqual([1]);
  });
});

describe('fixes', () => {
  const messy =
    '<concept id="c" audience=""><title>A</title><conbody><p outputclass="" id="x">a</p>' +
    '<p id="x">b</p><p nosuch="1"/><section><section><p>deep</p></section></section>' +
    '</conbody></concept>';
  it('put right everything of the grammar that has one, whatever else is wrong', () => {
    const before = checkItem(tree(messy)).filter(({ fix }) => fix);
    expect(before.map(({ code }) => code).sort()).toEqual([
      'grammar.duplicate-id',
      'grammar.empty-attribute',
      'grammar.empty-attribute',
      'grammar.not-allowed',
      'grammar.unknown-attribute',
    ]);
    const { root, count } = applyFixes(tree(messy), before);
    expect(count).toBe(5);
    expect(checkItem(root)).toEqual([]);
    expect(short(root)).toBe(
      '<concept id="c"><title>A</title><conbody><p id="x">a</p><p>b</p><p/><section>' +
        '<p>deep</p></section></conbody></concept>',
    );
  });
  it('maps values written another way to those that are meant, and removes others', () => {
    const facets = [
      { name: 'product', label: 'Model', values: [{ name: 'tern-q', label: 'Tern Q' }] },
    ];
    const messy =
      '<concept id="c"><title>A</title><conbody><p product="Tern_Q">a</p>' +
      '<p product="TERNQ tern-x">b</p><p props="product(gone)">c</p></conbody></concept>';
    const found = checkItem(tree(messy), { facets });
    expect(found.map(({ fix }) => fix?.label)).toEqual([
      'Make it “Tern Q”',
      'Make it “Tern Q”',
      'Take “tern-x” away',
      'Take “gone” away',
    ]);
    const { root, count } = applyFixes(tree(messy), found);
    expect(count).toBe(4);
    expect(short(root)).toContain('<p product="tern-q">a</p><p product="tern-q">b</p><p>c</p>');
    expect(checkItem(root, { facets })).toEqual([]);
  });
  it('change nothing where another element stands by now', () => {
    const root = tree(
      '<concept id="c"><title>A</title><conbody><ul><li>a</li></ul></conbody></concept>',
    );
    expect(
      applyEdit(root, { kind: 'attribute', path: [1, 0], element: 'p', name: 'id' }),
    ).toBeUndefined();
    expect(applyEdit(root, { kind: 'remove', path: [9, 9], element: 'p' })).toBeUndefined();
    expect(applyEdit(root, { kind: 'unwrap', path: [], element: 'concept' })).toBeUndefined();
    expect(short(applyEdit(root, { kind: 'unwrap', path: [1, 0], element: 'ul' }))).toContain(
      '<conbody><li>a</li></conbody>',
    );
  });
});
