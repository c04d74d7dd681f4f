import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { facetValuesOf, judge, readDitaval, writeDitaval, type Facet, type Lens, type LensRule } from './index.ts';

const lens = (...rules: [string | undefined, string | undefined, LensRule['action']][]): Lens => ({
  name: 'l',
  rules: rules.map(([facet, value, action]) => ({ ...(facet === undefined ? {} : { facet }), ...(value === undefined ? {} : { value }), action })),
});
const kept = (attributes: Record<string, string>, by: Lens, facets: readonly Facet[] = []): boolean => judge(attributes, by, facets).kept;

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
    const facets: Facet[] = [{ name: 'platform', label: 'Power', values: [{ name: 'solar', label: 'Solar', values: [{ name: 'solar-40', label: '40 W' }] }] }];
    expect(kept({ platform: 'solar-40' }, lens(['platform', 'solar', 'drop']), facets)).toBe(false);
    expect(kept({ platform: 'solar-40' }, lens(['platform', 'solar', 'drop'], ['platform', 'solar-40', 'keep']), facets)).toBe(true);
    expect(kept({ platform: 'solar' }, lens(['platform', 'solar-40', 'drop']), facets)).toBe(true);
  });
  it('does not depend on the order of rules', () => {
    const rule = fc.record({ facet: fc.constantFrom('audience', 'product'), value: fc.constantFrom('a', 'b', 'c'), action: fc.constantFrom('keep' as const, 'drop' as const) });
    const rules = fc.uniqueArray(rule, { selector: ({ facet, value }) => facet + value });
    fc.assert(
      fc.property(
        rules,
        fc.subarray(['a', 'b', 'c', 'd'], { minLength: 1 }),
        (list, values) => kept({ audience: values.join(' ') }, { name: '', rules: list }) === kept({ audience: values.toReversed().join(' ') }, { name: '', rules: list.toReversed() }),
      ),
    );
  });
});

describe('DITAVAL', () => {
  it('is read and written without loss', () => {
    const original = lens(['audience', 'installer', 'keep'], ['audience', undefined, 'drop'], ['product', 'tern-q', 'mark'], [undefined, undefined, 'drop']);
    expect(readDitaval('l', writeDitaval(original)).lens).toEqual(original);
  });
  it('reports what it cannot use', () => {
    expect(readDitaval('x', '<val><prop att="a" val="b" action="explode"/><prop action="include"/></val>')).toMatchObject({
      lens: { rules: [{ action: 'keep' }] },
      problems: [{ code: 'ditaval.unknown-action' }],
    });
    expect(readDitaval('x', '<map/>').problems[0]?.code).toBe('ditaval.unreadable');
    expect(readDitaval('x', '<val>').lens).toBeUndefined();
  });
});
