import { describe, expect, it } from 'vitest';
import { noSlots, plainPlan, shippedPlans, shippedSheets } from '@ukiyo/core/styles';
import {
  EditionInput,
  Folder,
  ItemId,
  ItemQuery,
  LiveEvent,
  NewItem,
  PagePlan,
  readPagePlan,
  readStyleSheet,
  SaveItem,
  SignIn,
  StyleSheet,
} from './index.ts';

const takes = (
  schema: { safeParse: (value: unknown) => { success: boolean } },
  value: unknown,
): boolean => schema.safeParse(value).success;

describe('what is taken from outside', () => {
  it.each(['', 'topics', 'topics/care plan', 'тема/日本'])('the folder “%s”', (folder) =>
    expect(takes(Folder, folder)).toBe(true),
  );
  it.each(['/x', 'x/', '..', 'a/..', 'a/../b', './a', 'a//b', 'a\\b', 'a\0b', 'x'.repeat(401)])(
    'not the folder “%s”',
    (folder) => expect(takes(Folder, folder)).toBe(false),
  );
  it.each(['fit-the-bracket', '_x', 'Ärger.2', '日本'])('the id “%s”', (id) =>
    expect(takes(ItemId, id)).toBe(true),
  );
  it.each(['', '1a', 'a b', 'a/b', '../a', '<a>', 'x'.repeat(201)])('not the id “%s”', (id) =>
    expect(takes(ItemId, id)).toBe(false),
  );

  it('numbers of a query come as text and stay within bounds', () => {
    expect(ItemQuery.parse({ limit: '5', offset: '10' })).toMatchObject({
      limit: 5,
      offset: 10,
      search: '',
    });
    for (const limit of ['0', '501', 'x', '-1', '1.5'])
      expect(takes(ItemQuery, { limit })).toBe(false);
  });
  it('addresses are put in one form and lengths are bounded', () => {
    expect(SignIn.parse({ email: '  Ada@Brinewell.Example ', password: 'x' }).email).toBe(
      'ada@brinewell.example',
    );
    expect(takes(SignIn, { email: 'a', password: '' })).toBe(false);
    expect(takes(SaveItem, { text: 'x'.repeat(20 * 1024 * 1024 + 1), version: 1 })).toBe(false);
    expect(takes(NewItem, { type: 'bookmap', title: 'x' })).toBe(false);
    expect(NewItem.parse({ type: 'task', title: '  Wind the clock ' })).toEqual({
      type: 'task',
      title: 'Wind the clock',
      folder: '',
    });
  });
  it('editions need a name, a map and a language', () => {
    const edition = { name: 'Q', output: 'print', map: 'm', lens: null };
    expect(EditionInput.parse(edition)).toMatchObject({ locale: 'en', variables: {} });
    for (const wrong of [
      { name: ' ' },
      { map: '' },
      { output: 'scroll' },
      { locale: 'no such' },
      { variables: { k: 5 } },
    ])
      expect(takes(EditionInput, { ...edition, ...wrong })).toBe(false);
  });
  it('events of another kind are not', () => {
    expect(takes(LiveEvent, { kind: 'item', id: 'a', version: 1, isMap: false })).toBe(true);
    expect(takes(LiveEvent, { kind: 'gossip' })).toBe(false);
  });
});

describe('designs that were kept by an earlier version', () => {
  it('plans are as they were then: no bleed, no covers of their own, the accessible file', () => {
    const {
      back: _back,
      coverParts: _parts,
      titlePage: _title,
      trim: _trim,
      file: _file,
      baseline: _baseline,
      ...before
    } = shippedPlans['a5-pocket']!;
    expect(PagePlan.parse(before)).toEqual({ ...before, ...plainPlan });
  });
  it('reads plans made before chapters could have heads of their own', () => {
    const { head, ...rest } = shippedPlans['a5-pocket']!;
    const { opening: _opening, ...sides } = head;
    const opening = (headOnOpenings: boolean) =>
      readPagePlan({ ...rest, head: sides, headOnOpenings }).data?.head.opening;
    expect([opening(false), opening(true)]).toEqual([noSlots, null]);
    expect(
      readPagePlan({ ...rest, head: { ...sides, opening: null }, headOnOpenings: false }).data?.head
        .opening,
    ).toBeNull();
  });
  it('sheets count no examples and number every language alike', () => {
    const sheet = shippedSheets['workshop']!;
    const { examples: _examples, byLanguage: _byLanguage, ...numbering } = sheet.numbering;
    expect(StyleSheet.parse({ ...sheet, numbering })).toEqual(sheet);
  });
  it('sheets that earlier versions saved keep what their styles apply to', () => {
    const sheet = shippedSheets['workshop']!;
    const target = { element: 'p', outputclass: 'wide' };
    const withStyle = (wide: object): unknown => ({ ...sheet, styles: { ...sheet.styles, wide } });
    const read = readStyleSheet(withStyle({ label: 'Wide', wornBy: target })).data;
    expect(read?.styles['wide']).toEqual({ label: 'Wide', appliesTo: target });
    expect(readStyleSheet(read).data).toEqual(read);
    expect(readStyleSheet(withStyle({ wornBy: { element: '' } })).success).toBe(false);
    expect(readStyleSheet({ styles: 'none' }).success).toBe(false);
  });
  it('what is on a cover lies on its grid and shows something that can be shown', () => {
    const plan = shippedPlans['a4-margin']!;
    const part = {
      shows: { field: 'title' },
      column: 1,
      row: 1,
      columns: 4,
      rows: 2,
      style: 'cover-title',
      stands: 'start',
      colour: '',
    };
    const takesPart = (change: object): boolean =>
      PagePlan.safeParse({ ...plan, coverParts: { front: [{ ...part, ...change }], back: [] } })
        .success;
    expect(takesPart({})).toBe(true);
    expect(takesPart({ shows: { field: 'image', image: 'asset:logo', height: '8mm' } })).toBe(true);
    for (const wrong of [
      { column: 13 },
      { rows: -1 },
      { row: 1.5 },
      { shows: { field: 'secret' } },
      { shows: { field: 'image', image: 'asset:logo', height: 'high' } },
      { style: 'No style' },
      { stands: 'up' },
    ])
      expect(takesPart(wrong), JSON.stringify(wrong)).toBe(false);
  });
  it('numbers of one language are forms that there are', () => {
    const sheet = shippedSheets['workshop']!;
    const takesNumbers = (byLanguage: object): boolean =>
      StyleSheet.safeParse({ ...sheet, numbering: { ...sheet.numbering, byLanguage } }).success;
    expect(
      takesNumbers({ ja: { chapters: '一' }, 'ar-EG': { captionForm: '١', examples: true } }),
    ).toBe(true);
    for (const wrong of [{ ja: { chapters: 'kanji' } }, { 'no such': {} }, { ja: { depth: 9 } }])
      expect(takesNumbers(wrong), JSON.stringify(wrong)).toBe(false);
  });
});
