import type {
  Appearances,
  CopyGroup,
  CopyReport,
  Edition,
  Item,
  ReaderCheck,
} from '@ukiyo/contracts';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { startTestServer, type TestServer } from '../testing.ts';

/** An id that nothing has. */
const nowhere = '00000000-0000-4000-8000-000000000000';
let server: TestServer;
beforeAll(async () => void (server = await startTestServer()));
afterAll(() => server.close());

describe('questions about the whole library', () => {
  it('tell how each topic appears in each edition, and by which rule not', async () => {
    const { editions } = (await server.ask('reader', 'GET', '~/appearances')).json<Appearances>();
    const cellsOf = (name: string) => editions.find((edition) => edition.name === name)!.cells;
    const manual = cellsOf('Tern Q Installation Manual');
    expect(manual['raise-the-mast']).toMatchObject({
      how: 'shown',
      number: expect.stringMatching(/^3\.\d$/u) as string,
      detail: 'Raise the mast',
      places: 1,
    });
    expect(
      Object.values(manual).some(
        ({ how, detail }) => how === 'dropped' && /which “.+” drops/u.test(detail),
      ),
    ).toBe(true);
  });
  it('tell what would be unfit for some reader, and see what has just been written', async () => {
    const edition = (await server.ask('reader', 'GET', '~/editions'))
      .json<Edition[]>()
      .find(({ name }) => name === 'Tern Q Installation Manual')!;
    const check = async () =>
      (await server.ask('reader', 'GET', `~/editions/${edition.id}/readers`)).json<ReaderCheck>();
    const before = await check();
    const item = (await server.ask('reader', 'GET', '~/items/raise-the-mast')).json<Item>();
    await server.ask('writer', 'PUT', '~/items/raise-the-mast', {
      text: item.text.replace(/<step>/gu, '<step platform="mains">'),
      version: item.version,
    });
    const now = await check();
    expect(
      now.problems.filter(
        ({ code, where }) => code === 'readers.empty-list' && where.item === 'raise-the-mast',
      ),
    ).toHaveLength(1);
    const changed = (await server.ask('reader', 'GET', '~/items/raise-the-mast')).json<Item>();
    await server.ask('writer', 'PUT', '~/items/raise-the-mast', {
      text: item.text,
      version: changed.version,
    });
    expect((await check()).problems).toEqual(before.problems);
    expect((await server.ask('reader', 'GET', `~/editions/${nowhere}/readers`)).statusCode).toBe(
      404,
    );
  });
});

describe('copies', () => {
  it('are found, become one shared passage at once, and are found no more', async () => {
    const sentence =
      'Hang the spare swivel on the second hook from the door and write the day into the ' +
      'book of the store';
    const make = async (title: string, body: string): Promise<string> => {
      const { id } = (
        await server.ask('writer', 'POST', '~/items', { type: 'concept', title })
      ).json<Item>();
      await server.ask('writer', 'PUT', `~/items/${id}`, {
        text: `<concept id="${id}"><title>${title}</title><conbody>${body}</conbody></concept>`,
        version: 1,
      });
      return id;
    };
    const other = (name: string): string =>
      Array.from({ length: 40 }, (_, at) => `${name}${at}`).join(' ');
    const first = await make(
      'Store one',
      `<p platform="mains">${sentence}.</p><p>${other('a')}</p>`,
    );
    const second = await make(
      'Store two',
      `<p>${other('b')}</p><section><title>S</title>` +
        `<p id="keep" product="tern-d">${sentence.replace('store', 'shed')}.</p>` +
        `<p>${sentence}!</p></section>`,
    );
    const groupsOf = async (): Promise<CopyGroup[]> =>
      (await server.ask('reader', 'GET', '~/copies'))
        .json<CopyReport>()
        .groups.filter(({ copies }) => copies.some(({ item }) => item === first));
    const [group, ...others] = await groupsOf();
    expect(others).toEqual([]);
    expect(group).toMatchObject({ name: 'p', same: false });
    expect(group!.copies.map(({ item }) => item)).toEqual([first, second, second]);
    const share = (copies: CopyGroup['copies'], kept: number) =>
      server.ask('writer', 'POST', '~/copies/share', { title: 'The spare swivel', copies, kept });
    expect(
      (
        await share(
          group!.copies.map((copy) => ({ ...copy, words: 'else' })),
          0,
        )
      ).json(),
    ).toMatchObject({ code: 'copies.changed' });
    expect((await share(group!.copies, 0)).json()).toEqual({
      lender: 'the-spare-swivel',
      shared: 3,
    });
    const text = async (id: string): Promise<string> =>
      (await server.ask('reader', 'GET', `~/items/${id}`)).json<Item>().text;
    expect(await text('the-spare-swivel')).toContain(`${sentence}.`);
    const conref = /conref="(topic:the-spare-swivel\/[^"]+)"/u.exec(await text(first))![1]!;
    expect(await text(second)).toContain(`<p id="keep" conref="${conref}" product="tern-d"/>`);
    // For whom the kept one was goes on holding for its own place, and for no other.
    expect(await text(first)).toContain(`<p conref="${conref}" platform="mains"/>`);
    expect(await text('the-spare-swivel')).not.toContain('mains');
    expect((await text(second)).match(/conref/gu)).toHaveLength(2);
    expect(await groupsOf()).toEqual([]);
    for (const id of [first, second, 'the-spare-swivel'])
      expect((await server.ask('writer', 'DELETE', `~/items/${id}`)).statusCode).toBe(204);
  });
});
