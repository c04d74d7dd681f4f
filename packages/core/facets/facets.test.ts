import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { readXml } from '../markup/index.ts';
import {
  actionOn,
  checkFacetValues,
  combineLenses,
  facetValuesOf,
  evaluateProfile,
  lensOf,
  moveInList,
  pigments,
  readDitaval,
  readSubjectScheme,
  replaceInLens,
  replaceInList,
  replaceValue,
  tagsOf,
  writeDitaval,
  valuesOn,
  valuesUsed,
  withDecision,
  withValues,
  writeSubjectScheme,
  type Facet,
  type FacetValue,
  type Lens,
  type MarkLook,
  type LensRule,
} from './index.ts';

const lens = (...rules: [string | undefined, string | undefined, LensRule['action']][]): Lens => ({
  name: 'l',
  rules: rules.map(([facet, value, action]) => ({
    ...(facet === undefined ? {} : { facet }),
    ...(value === undefined ? {} : { value }),
    action,
  })),
});
const kept = (
  attributes: Record<string, string>,
  by: Lens,
  facets: readonly Facet[] = [],
): boolean => evaluateProfile(attributes, by, facets).kept;

/** From memory of OASIS DITA 1.3, 2.4.3 “Conditional processing”. */
describe('filtering', () => {
  it('drops an element only when all its values on one attribute are dropped', () => {
    const dropInstaller = lens(['audience', 'installer', 'drop']);
    expect(kept({ audience: 'installer' }, dropInstaller)).toBe(false);
    expect(kept({ audience: 'installer operator' }, dropInstaller)).toBe(true);
    expect(kept({}, dropInstaller)).toBe(true);
  });
  it('drops it when that is so for any one attribute', () => {
    const both = lens(['audience', 'installer', 'drop'], ['product', 'tern-d', 'drop']);
    expect(kept({ audience: 'operator', product: 'tern-d' }, both)).toBe(false);
    expect(kept({ audience: 'operator', product: 'tern-q' }, both)).toBe(true);
  });
  it('asks the value first, then the facet, then the default', () => {
    const only = lens(['product', 'tern-q', 'keep'], ['product', undefined, 'drop']);
    expect(kept({ product: 'tern-q' }, only)).toBe(true);
    expect(kept({ product: 'tern-d' }, only)).toBe(false);
    expect(kept({ audience: 'x' }, only)).toBe(true);
    expect(kept({ audience: 'x' }, lens([undefined, undefined, 'drop']))).toBe(false);
  });
  it('takes groups in an attribute as facets of their own', () => {
    const attributes = { props: 'country(velmark kisara) release(4.1) loose' };
    expect([...facetValuesOf(attributes)]).toEqual([
      ['props', ['loose']],
      ['country', ['velmark', 'kisara']],
      ['release', ['4.1']],
    ]);
    expect(kept(attributes, lens(['release', '4.1', 'drop']))).toBe(false);
    expect(kept(attributes, lens(['country', 'kisara', 'drop']))).toBe(true);
  });
  it('lets a nested value inherit from the one it is nested in', () => {
    const facets: Facet[] = [
      {
        name: 'platform',
        label: 'Power',
        values: [{ name: 'solar', label: 'Solar', values: [{ name: 'solar-40', label: '40 W' }] }],
      },
    ];
    expect(kept({ platform: 'solar-40' }, lens(['platform', 'solar', 'drop']), facets)).toBe(false);
    expect(
      kept(
        { platform: 'solar-40' },
        lens(['platform', 'solar', 'drop'], ['platform', 'solar-40', 'keep']),
        facets,
      ),
    ).toBe(true);
    expect(kept({ platform: 'solar' }, lens(['platform', 'solar-40', 'drop']), facets)).toBe(true);
  });
  it('does not depend on the order of rules', () => {
    const rule = fc.record({
      facet: fc.constantFrom('audience', 'product'),
      value: fc.constantFrom('a', 'b', 'c'),
      action: fc.constantFrom('keep' as const, 'drop' as const),
    });
    const rules = fc.uniqueArray(rule, { selector: ({ facet, value }) => facet + value });
    fc.assert(
      fc.property(
        rules,
        fc.subarray(['a', 'b', 'c', 'd'], { minLength: 1 }),
        (list, values) =>
          kept({ audience: values.join(' ') }, { name: '', rules: list }) ===
          kept({ audience: values.toReversed().join(' ') }, { name: '', rules: list.toReversed() }),
      ),
    );
  });
});

describe('DITAVAL', () => {
  it('is read and written without loss', () => {
    const original = lens(
      ['audience', 'installer', 'keep'],
      ['audience', undefined, 'drop'],
      ['product', 'tern-q', 'mark'],
      [undefined, undefined, 'drop'],
    );
    expect(readDitaval('l', writeDitaval(original)).lens).toEqual(original);
  });
  it('carries how marked content looks: colours, a line, letters, flags around it', () => {
    const look: MarkLook = {
      color: '#12305f',
      background: '#f6e7c3',
      bar: true,
      letters: ['bold', 'line-through'],
      start: 'Tern D:',
      end: '(end)',
      endImage: 'asset:end',
    };
    const original: Lens = {
      name: 'l',
      rules: [{ facet: 'product', value: 'tern-d', action: 'mark', look }],
    };
    const written = writeDitaval(original);
    expect(written).toContain('<alt-text>Tern D:</alt-text>');
    expect(readDitaval('l', written).lens).toEqual(original);
    const revisions: Lens = {
      name: 'l',
      rules: [{ facet: 'rev', value: '2', action: 'mark', look }],
    };
    expect(writeDitaval(revisions)).toContain('<revprop action="flag"');
    expect(readDitaval('l', writeDitaval(revisions)).lens).toEqual(revisions);
    const { lens: read, problems } = readDitaval(
      'l',
      '<val><prop att="a" val="b" action="flag" color="salmon" backcolor="#FFEEAA"/>' +
        '<prop att="a" val="b" action="exclude"/></val>',
    );
    expect(read?.rules).toEqual([
      { facet: 'a', value: 'b', action: 'mark', look: { background: '#ffeeaa' } },
    ]);
    expect(problems.map(({ code }) => code)).toEqual(['ditaval.unknown-look', 'ditaval.conflict']);
  });
  it('reports what it cannot use', () => {
    expect(
      readDitaval(
        'x',
        '<val><prop att="a" val="b" action="explode"/><prop action="include"/></val>',
      ),
    ).toMatchObject({
      lens: { rules: [{ action: 'keep' }] },
      problems: [{ code: 'ditaval.unknown-action' }],
    });
    expect(readDitaval('x', '<map/>').problems[0]?.code).toBe('ditaval.unreadable');
    expect(readDitaval('x', '<val>').lens).toBeUndefined();
  });
});

describe('several lenses held behind each other', () => {
  const facets: Facet[] = [
    {
      name: 'product',
      label: 'Model',
      values: [
        {
          name: 'a',
          label: 'A',
          values: [{ name: 'b', label: 'B', values: [{ name: 'c', label: 'C' }] }],
        },
      ],
    },
    { name: 'audience', label: 'For', values: [{ name: 'd', label: 'D' }] },
  ];
  const strength = { keep: 0, mark: 1, drop: 2 };
  it('do with each value the strongest that any of them does', () => {
    const rule = fc.record({
      facet: fc.constantFrom(undefined, 'product', 'audience'),
      value: fc.constantFrom(undefined, 'a', 'b', 'c', 'd'),
      action: fc.constantFrom('keep', 'drop', 'mark'),
    });
    const anyLens = fc
      .uniqueArray(
        rule.filter(({ facet, value }) => facet !== undefined || value === undefined),
        { selector: ({ facet, value }) => `${facet} ${value}`, maxLength: 6 },
      )
      .map((rules) =>
        lens(
          ...rules.map(
            ({
              facet,
              value,
              action,
            }): [string | undefined, string | undefined, LensRule['action']] => [
              facet,
              value,
              action,
            ],
          ),
        ),
      );
    fc.assert(
      fc.property(
        fc.array(anyLens, { minLength: 1, maxLength: 3 }),
        fc.constantFrom('product', 'audience', 'release'),
        fc.constantFrom('a', 'b', 'c', 'd', 'x'),
        (lenses, facet, value) => {
          const strongest = Math.max(
            ...lenses.map((one) => strength[actionOn(one, facet, value, facets)]),
          );
          expect(
            strength[actionOn(combineLenses('all', lenses, facets), facet, value, facets)],
          ).toBe(strongest);
        },
      ),
      { numRuns: 400 },
    );
  });
  it('are reached once each, also where they lead back or are no more', () => {
    const kept = [
      { id: 'x', ...lens(['product', 'a', 'drop']), through: ['y', 'gone'] },
      { id: 'y', ...lens(['audience', 'd', 'drop']), through: ['x'] },
    ];
    expect(evaluateProfile({ audience: 'd' }, lensOf('x', kept)).kept).toBe(false);
    expect(evaluateProfile({ product: 'a' }, lensOf('y', kept)).kept).toBe(false);
    expect(lensOf('gone', kept)).toBeUndefined();
  });
});

describe('subject-scheme maps', () => {
  it('are read and written without loss', () => {
    const name = fc.stringMatching(/^[a-z][a-z0-9-]{0,8}$/u);
    const label = fc
      .string({ minLength: 1 })
      .filter(
        (text) => text.trim() === text && !/\s\s|[^\u0020-\uD7FF]/u.test(text) && text !== '',
      );
    const manner = {
      letters: fc.constantFrom('Q', 'TQ', '40'),
      pigment: fc.constantFrom(...pigments),
      description: label,
      retired: fc.constant(true),
    };
    const values: fc.Arbitrary<FacetValue[]> = fc.array(
      fc
        .record({ name, label, ...manner }, { requiredKeys: ['name', 'label'] })
        .map((value) => value as FacetValue),
      { maxLength: 4 },
    );
    const nested = fc
      .tuple(values, values)
      .map(([outer, inner]) =>
        outer.map((value, at) =>
          at === 0 && inner.length > 0 ? { ...value, values: inner } : value,
        ),
      );
    const facets = fc.uniqueArray(fc.record({ name, label, values: nested }), {
      selector: (facet) => facet.name,
      maxLength: 4,
    });
    fc.assert(
      fc.property(facets, (list) => {
        expect(readSubjectScheme(writeSubjectScheme(list))).toEqual({ facets: list, problems: [] });
      }),
    );
  });
  /**
   * The shape of the enumeration example of OASIS DITA 1.3, 3.5 “Subject scheme elements”; from
   * memory.
   */
  it('bind subjects to attributes, by title or by navigation title', () => {
    const scheme = `<subjectScheme>
      <subjectdef keys="os"><topicmeta><navtitle>Power</navtitle></topicmeta>
      <subjectdef keys="solar" navtitle="Solar"><subjectdef keys="solar-40"/></subjectdef>
      </subjectdef>
      <enumerationdef><attributedef name="platform"/><subjectdef keyref="os"/>
      </enumerationdef></subjectScheme>`;
    expect(readSubjectScheme(scheme).facets).toEqual([
      {
        name: 'platform',
        label: 'Power',
        values: [
          { name: 'solar', label: 'Solar', values: [{ name: 'solar-40', label: 'solar-40' }] },
        ],
      },
    ]);
  });
  it('report what they bind to nothing', () => {
    const scheme =
      '<subjectScheme><enumerationdef><attributedef name="platform"/>' +
      '<subjectdef keyref="gone"/></enumerationdef></subjectScheme>';
    expect(readSubjectScheme(scheme)).toMatchObject({
      facets: [],
      problems: [{ code: 'scheme.unbound' }],
    });
    expect(readSubjectScheme('<subjectScheme>').problems).not.toEqual([]);
  });
});

describe('closed lists', () => {
  const facets: Facet[] = [
    {
      name: 'product',
      label: 'Model',
      values: [{ name: 'q', label: 'Q', values: [{ name: 'q2', label: 'Q2' }] }],
    },
  ];
  const check = (body: string): unknown[] =>
    checkFacetValues(
      readXml(`<topic id="t"><title>T</title><body>${body}</body></topic>`).document!.root,
      facets,
    ).map(({ code, where }) => [code, where.path, where.attribute]);
  it('name the element of each value that they do not have', () => {
    expect(check('<p product="q q2"/><p product="Q"/>')).toEqual([
      ['facet.unknown-value', [1, 1], 'product'],
    ]);
  });
  it('name what varies by something that is no facet, also in groups', () => {
    expect(
      check('<p audience="x" deliveryTarget="print"/><p props="product(q3) country(x)"/>'),
    ).toEqual([
      ['facet.unknown', [1, 0], 'audience'],
      ['facet.unknown-value', [1, 1], 'props'],
      ['facet.unknown', [1, 1], 'props'],
    ]);
  });
  it('are not missed where a project has none', () => {
    expect(checkFacetValues(readXml('<p product="x"/>').document!.root, [])).toEqual([]);
  });
});

describe('setting values', () => {
  it.each([
    [
      'in the attribute of the facet',
      { id: 'a' },
      'product',
      ['q', 'd'],
      { id: 'a', product: 'q d' },
    ],
    [
      'in a group where there is no attribute',
      { props: 'loose' },
      'weather',
      ['calm'],
      { props: 'loose weather(calm)' },
    ],
    [
      'in the group where they stand',
      { props: 'country(x) release(4.1)' },
      'country',
      ['y'],
      { props: 'release(4.1) country(y)' },
    ],
    ['without leaving an empty attribute', { product: 'q', id: 'a' }, 'product', [], { id: 'a' }],
    ['without leaving an empty group', { props: 'country(x)' }, 'country', [], {}],
    ['beside groups', { props: 'old country(x)' }, 'props', ['new'], { props: 'new country(x)' }],
    [
      'once, when they stood in two places',
      { country: 'x', props: 'country(y)' },
      'country',
      ['z'],
      { props: 'country(z)' },
    ],
  ])('%s', (...[, before, facet, values, after]) => {
    expect(withValues(before, facet, values)).toEqual(after);
  });
  it('is what is read back, and changes no other facet', () => {
    const value = fc.constantFrom('a', 'b', 'c');
    const set = fc.uniqueArray(value, { maxLength: 3 });
    const facet = fc.constantFrom('product', 'audience', 'country', 'weather');
    fc.assert(
      fc.property(
        fc.array(fc.tuple(facet, set), { maxLength: 4 }),
        facet,
        set,
        (before, name, values) => {
          const attributes = before.reduce<Record<string, string>>(
            (at, [one, list]) => withValues(at, one, list),
            {},
          );
          const after = withValues(attributes, name, values);
          expect(valuesOn(after, name)).toEqual(values);
          for (const other of ['product', 'audience', 'country', 'weather'])
            if (other !== name) expect(valuesOn(after, other)).toEqual(valuesOn(attributes, other));
          expect(Object.values(after)).not.toContain('');
        },
      ),
    );
  });
});

describe('how values are shown beside the text', () => {
  const facets: Facet[] = [
    {
      name: 'product',
      label: 'Model',
      values: [
        { name: 'q', label: 'Tern Q', letters: 'Q', pigment: 'plum' },
        { name: 'd', label: 'Tern D' },
      ],
    },
    {
      name: 'platform',
      label: 'Power',
      values: [{ name: 'solar', label: 'Solar', values: [{ name: 'solar-40', label: '40 W' }] }],
    },
  ];
  it('is by letters and a pigment, their own or by their label and place', () => {
    expect(tagsOf({ product: 'd q' }, facets)).toEqual([
      { facet: 'product', value: 'q', label: 'Model: Tern Q', letters: 'Q', pigment: 'plum' },
      { facet: 'product', value: 'd', label: 'Model: Tern D', letters: 'TD', pigment: pigments[1] },
    ]);
    expect(tagsOf({ platform: 'solar-40' }, facets)).toMatchObject([
      { label: 'Power: 40 W', letters: '4W' },
    ]);
  });
  it('says also what is in no list, last', () => {
    expect(tagsOf({ product: 'x q', props: 'weather(calm)' }, facets)).toMatchObject([
      { value: 'q' },
      { value: 'x', label: 'product: x', letters: 'X' },
      { facet: 'weather', letters: 'C' },
    ]);
    expect(tagsOf({}, facets)).toEqual([]);
  });
});

describe('a value under another name', () => {
  const tree = (body: string) =>
    readXml(`<topic id="t"><title>T</title><body>${body}</body></topic>`).document!.root;
  it('has it in every place, and nothing else is touched', () => {
    const root = tree(
      '<p product="q d"/><p product="d"/><p platform="q"/><p props="product(q) country(x)"/>',
    );
    const renamed = replaceValue(root, 'product', 'q', 'quay');
    expect(renamed).toEqual(
      tree(
        '<p product="quay d"/><p product="d"/><p platform="q"/>' +
          '<p props="country(x) product(quay)"/>',
      ),
    );
    expect(renamed.children[0]).toBe(root.children[0]);
    expect(replaceValue(root, 'product', 'none', 'some')).toBe(root);
  });
  it('is set once where both were set, and is gone where there is no other', () => {
    expect(replaceValue(tree('<p product="q d"/>'), 'product', 'q', 'd')).toEqual(
      tree('<p product="d"/>'),
    );
    expect(replaceValue(tree('<p product="q"/>'), 'product', 'q', undefined)).toEqual(tree('<p/>'));
  });
  it('is decided on in lenses as before', () => {
    const before = lens(
      ['product', 'q', 'drop'],
      ['product', 'd', 'keep'],
      ['audience', 'q', 'keep'],
    );
    expect(replaceInLens(before, 'product', 'q', 'quay')).toEqual(
      lens(['product', 'quay', 'drop'], ['product', 'd', 'keep'], ['audience', 'q', 'keep']),
    );
    expect(replaceInLens(before, 'product', 'q', 'd')).toEqual(
      lens(['product', 'd', 'drop'], ['audience', 'q', 'keep']),
    );
  });
  /** What any lens keeps is the same before and after, when list, lens and text change together. */
  it('changes nothing that any lens yields', () => {
    const value = fc.constantFrom('a', 'b', 'c');
    const rules = fc.uniqueArray(
      fc.record({
        facet: fc.constant('product'),
        value,
        action: fc.constantFrom('keep' as const, 'drop' as const, 'mark' as const),
      }),
      { selector: (rule) => rule.value },
    );
    fc.assert(
      fc.property(
        fc.array(fc.uniqueArray(value, { minLength: 1 }), { maxLength: 6 }),
        rules,
        (sets, list) => {
          const root = tree(sets.map((values) => `<p product="${values.join(' ')}"/>`).join(''));
          const [before, after] = [
            { name: '', rules: list },
            replaceInLens({ name: '', rules: list }, 'product', 'a', 'z'),
          ];
          const verdicts = (of: typeof root, through: Lens) =>
            (of.children[1] as typeof root).children.map((p) =>
              evaluateProfile((p as typeof root).attributes, through),
            );
          const plain = (all: ReturnType<typeof verdicts>) =>
            all.map(({ kept: isKept, marked }) => [isKept, marked]);
          expect(plain(verdicts(replaceValue(root, 'product', 'a', 'z'), after))).toEqual(
            plain(verdicts(root, before)),
          );
        },
      ),
    );
  });
  it('is counted by element, in groups too', () => {
    expect(valuesUsed(tree('<p product="q q d"/><p product="q"/><p props="country(x)"/>'))).toEqual(
      [
        { facet: 'product', value: 'q', count: 2 },
        { facet: 'product', value: 'd', count: 1 },
        { facet: 'country', value: 'x', count: 1 },
      ],
    );
  });
});

describe('a list of values', () => {
  const list: FacetValue[] = [
    {
      name: 'a',
      label: 'A',
      values: [
        { name: 'b', label: 'B' },
        { name: 'c', label: 'C' },
      ],
    },
    { name: 'd', label: 'D' },
  ];
  it('is changed where a value stands, however deep', () => {
    expect(replaceInList(list, 'b', (value) => [{ ...value, label: 'Bee' }])).toMatchObject([
      { values: [{ label: 'Bee' }, { name: 'c' }] },
      { name: 'd' },
    ]);
    expect(
      replaceInList(
        replaceInList(list, 'b', () => []),
        'c',
        () => [],
      ),
    ).toEqual([
      { name: 'a', label: 'A' },
      { name: 'd', label: 'D' },
    ]);
  });
  it('is put in another order among neighbours', () => {
    expect(moveInList(list, 'a', 1).map(({ name }) => name)).toEqual(['d', 'a']);
    expect(moveInList(list, 'c', -1)[0]?.values?.map(({ name }) => name)).toEqual(['c', 'b']);
    expect(moveInList(list, 'd', 1)).toEqual(list);
  });
});

describe('decisions of a lens', () => {
  it('are made anew, taken back, and leave the others alone', () => {
    const made = withDecision(
      withDecision(lens(['product', 'q', 'drop']), {
        facet: 'product',
        value: 'd',
        action: 'mark',
      }),
      { action: 'drop' },
    );
    expect(made.rules).toEqual(
      lens(['product', 'q', 'drop'], ['product', 'd', 'mark'], [undefined, undefined, 'drop'])
        .rules,
    );
    expect(withDecision(made, { facet: 'product', value: 'q' }).rules).toHaveLength(2);
    expect(actionOn(made, 'product', 'q', [])).toBe('drop');
    expect(
      actionOn(withDecision(made, { facet: 'product', action: 'keep' }), 'product', undefined, []),
    ).toBe('keep');
    expect(actionOn(made, 'audience', undefined, [])).toBe('drop');
  });
});
