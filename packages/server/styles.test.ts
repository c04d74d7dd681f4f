import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import type {
  Designs,
  Edition,
  Impression,
  KeptPlan,
  KeptSheet,
  Proof,
  WholeProof,
} from '@ukiyo/contracts';
import { allPlaces, type ResolvedElement } from '@ukiyo/core/compose';
import { findAll } from '@ukiyo/core/markup';
import { shippedPlans, shippedSheets, withValue } from '@ukiyo/core/styles';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { composeEdition, newBuildCache } from './jobs/composing.ts';
import { createApp, equip } from './index.ts';
import { OutOfMemory, warmChild } from './jobs/warm.ts';
import { startTestServer, type TestServer } from './testing.ts';

let server: TestServer;
beforeAll(async () => {
  server = await startTestServer();
  await server.queue.work();
});
afterAll(() => server.close());

const designs = async (): Promise<Designs> =>
  (await server.ask('reader', 'GET', '~/designs')).json<Designs>();
const workshop = shippedSheets['workshop']!;
const edition = async (name: string): Promise<Edition> =>
  (await server.ask('reader', 'GET', '~/editions'))
    .json<Edition[]>()
    .find((one) => one.name === name)!;

describe('style sheets and page plans', () => {
  it('ship with the server, are changed in versions by publishers, and can be reset', async () => {
    const before = await designs();
    expect([
      before.sheets.map(({ id, version, ships }) => [id, version, ships]),
      before.plans.map(({ id }) => id),
    ]).toEqual([Object.keys(shippedSheets).map((id) => [id, 0, true]), Object.keys(shippedPlans)]);
    const content = withValue(workshop, 'paragraph', {
      name: 'slant',
      medium: 'print',
      value: 'italic',
    });
    for (const role of ['writer', 'reviewer', 'translator', 'reader'] as const)
      expect(
        (await server.ask(role, 'PUT', '~/designs/sheets/workshop', { version: 0, content }))
          .statusCode,
        role,
      ).toBe(403);
    const saved = (
      await server.ask('publisher', 'PUT', '~/designs/sheets/workshop', { version: 0, content })
    ).json<KeptSheet>();
    expect([saved.version, saved.ships, saved.content.styles['paragraph']!.print!.slant]).toEqual([
      1,
      true,
      'italic',
    ]);
    expect(
      (
        await server.ask('publisher', 'PUT', '~/designs/sheets/workshop', {
          version: 0,
          content: workshop,
        })
      ).statusCode,
    ).toBe(409);
    expect((await designs()).sheets.find(({ id }) => id === 'workshop')!.content).toEqual(content);
    expect((await server.ask('publisher', 'DELETE', '~/designs/sheets/workshop')).statusCode).toBe(
      204,
    );
    expect((await designs()).sheets.find(({ id }) => id === 'workshop')).toMatchObject({
      version: 0,
      content: workshop,
    });
  });
});

describe('style sheets and page plans', () => {
  it('can be deleted once no edition uses them; unreadable ones are refused', async () => {
    const plan = { ...shippedPlans['a5-pocket']!, name: 'Pocket of the yard' };
    expect(
      (
        await server.ask('publisher', 'PUT', '~/designs/plans/yard', { version: 0, content: plan })
      ).json<KeptPlan>().ships,
    ).toBe(false);
    const made = (
      await server.ask('publisher', 'POST', '~/editions', {
        name: 'Yard',
        output: 'print',
        map: 'handbook',
        lens: null,
        sheet: 'handbook',
        plan: 'yard',
      })
    ).json<Edition>();
    expect([made.sheet, made.plan]).toEqual(['handbook', 'yard']);
    const refused = await server.ask('publisher', 'DELETE', '~/designs/plans/yard');
    expect([refused.statusCode, refused.json<{ message: string }>().message]).toEqual([
      409,
      '“Yard” is made with it. Choose another one there first.',
    ]);
    await server.ask('publisher', 'DELETE', `~/editions/${made.id}`);
    expect((await server.ask('publisher', 'DELETE', '~/designs/plans/yard')).statusCode).toBe(204);
    const wrong = [
      { ...plan, paper: 'A17' },
      { ...plan, margins: { ...plan.margins, top: '3 parsecs' } },
      {
        ...plan,
        head: {
          right: { start: [{ field: 'secret' }], middle: [], end: [] },
          left: plan.head.left,
        },
      },
    ];
    for (const content of wrong)
      expect(
        (await server.ask('publisher', 'PUT', '~/designs/plans/x', { version: 0, content }))
          .statusCode,
      ).toBe(400);
    for (const content of [
      { ...workshop, fonts: { ...workshop.fonts, code: 'Comic' } },
      { ...workshop, colours: { ink: 'red' } },
      { ...workshop, styles: { 'Not an id': {} } },
    ])
      expect(
        (await server.ask('publisher', 'PUT', '~/designs/sheets/x', { version: 0, content }))
          .statusCode,
      ).toBe(400);
    expect(
      (
        await server.ask('publisher', 'PUT', '~/designs/sheets/Not%20an%20id', {
          version: 0,
          content: workshop,
        })
      ).statusCode,
    ).toBe(400);
  });
});

describe('style sheets and page plans', () => {
  it('make what an edition is built with: paper of the manual, rules of the site', async () => {
    const build = async (name: string): Promise<Impression> => {
      const { id } = (
        await server.ask('publisher', 'POST', `~/editions/${(await edition(name)).id}/impressions`)
      ).json<Impression>();
      for (;;) {
        const impression = (
          await server.ask('reader', 'GET', `~/impressions/${id}`)
        ).json<Impression>();
        if (!['queued', 'running'].includes(impression.state)) return impression;
        await new Promise((resolve) => setTimeout(resolve, 100));
      }
    };
    const handbook = await build('Tern Operator’s Handbook');
    const pdf = await readFile(
      join(server.services.impressionFolder(handbook.id), 'manual.pdf'),
      'latin1',
    );
    // A5 (ISO 216) in points.
    expect(pdf).toMatch(/\/MediaBox ?\[0 0 419\.5\d* 595\.2\d*\]/u);
    const site = await build('Tern Help');
    const rules = await readFile(
      join(server.services.impressionFolder(site.id), 'site', 'sheet.css'),
      'utf8',
    );
    expect(rules).toContain(
      'article .lead { font-size: 1.1667rem; font-style: italic; color: #5f6575;',
    );
  });
});

describe('bars beside what changed', () => {
  it('since an impression: what was not in it, or otherwise, and nothing else', async () => {
    const { id: _id, ...kept } = await edition('Tern Operator’s Handbook');
    const { id } = (
      await server.ask('publisher', 'POST', '~/editions', { ...kept, name: 'Barred handbook' })
    ).json<Edition>();
    const since = (
      await server.ask('publisher', 'POST', `~/editions/${id}/impressions`)
    ).json<Impression>().id;
    await expect
      .poll(
        async () =>
          (await server.ask('reader', 'GET', `~/impressions/${since}`)).json<Impression>().state,
        { timeout: 60_000 },
      )
      .toBe('done');
    const before = (await server.ask('writer', 'GET', '~/items/morning-round')).json<{
      text: string;
      version: number;
    }>();
    const save = async (text: string, version: number): Promise<number> =>
      (await server.ask('writer', 'PUT', '~/items/morning-round', { text, version })).json<{
        version: number;
      }>().version;
    const version = await save(
      before.text.replace('</shortdesc>', ' Then look at the gulls.</shortdesc>'),
      before.version,
    );
    const changed = (
      await server.ask('publisher', 'PUT', `~/editions/${id}`, {
        ...kept,
        name: 'Barred handbook',
        since,
      })
    ).json<Edition>();
    expect(changed.since).toBe(since);
    const cache = newBuildCache();
    const barredIn = async (one: Edition): Promise<string[]> => {
      const { publication } = await composeEdition(
        { services: server.services, project: server.project, cache },
        one,
      );
      return allPlaces(publication.places).flatMap(({ content }) =>
        content
          ? findAll(content, (element) => (element as ResolvedElement).marked?.bar === true).map(
              ({ name }) => `${content.origin.item} ${name}`,
            )
          : [],
      );
    };
    expect(await barredIn(changed)).toEqual(['morning-round shortdesc']);
    expect(await barredIn({ ...changed, since: null })).toEqual([]);
    await save(before.text, version);
    expect(await barredIn(changed)).toEqual([]);
    // An impression that is gone is told, and nothing has bars.
    const { publication } = await composeEdition(
      { services: server.services, project: server.project, cache },
      { ...changed, since: '00000000-0000-4000-8000-000000000000' },
    );
    expect(publication.problems.map(({ code }) => code)).toContain('edition.since');
    await server.ask('publisher', 'DELETE', `~/editions/${id}`);
  });
});

describe('what an edition says of itself', () => {
  it('overrides its map on the cover, in file and links; bad dates are refused', async () => {
    const { id: _id, ...kept } = await edition('Tern Operator’s Handbook');
    const ask = (facts: object) =>
      server.ask('publisher', 'POST', '~/editions', { ...kept, name: 'Harbour handbook', facts });
    expect([
      (await ask({ date: 'spring' })).statusCode,
      (await ask({ title: ' ' })).statusCode,
    ]).toEqual([400, 400]);
    const made = (
      await ask({ title: 'Handbook of the Harbour', bookNumber: 'BM-1051', date: '2031-05-02' })
    ).json<Edition>();
    const { publication } = await composeEdition(
      { services: server.services, project: server.project, cache: newBuildCache() },
      made,
    );
    const before = await composeEdition(
      { services: server.services, project: server.project, cache: newBuildCache() },
      { ...made, facts: {} },
    );
    expect(publication.facts).toEqual({
      ...before.publication.facts,
      title: 'Handbook of the Harbour',
      bookNumber: 'BM-1051',
      date: '2031-05-02',
    });
    await server.ask('publisher', 'DELETE', `~/editions/${made.id}`);
  });
});

describe('a warm child process', () => {
  it('is started again after it has ended, whether it was asked for something or not', async () => {
    const child = warmChild<object>('prooferChild', 1e12);
    const order = {
      settings: server.settings,
      project: server.project,
      question: { kind: 'topic', edition: '00000000-0000-4000-8000-000000000000', item: 'x' },
    };
    expect(await child.ask(order)).toBeUndefined();
    child.close();
    expect(await child.ask(order)).toBeUndefined();
    const dying = child.ask(order);
    await new Promise((resolve) => setImmediate(resolve));
    child.close();
    await expect(dying).rejects.toThrow('ended (SIGKILL)');
    expect(await child.ask(order)).toBeUndefined();
    child.close();
  });
});

describe('an order that needs more memory than its process has', () => {
  it('is given up, and said to be too large', async () => {
    const child = warmChild<object>('textChild', 1e12, 32);
    const paragraphs = '<p>tide</p>'.repeat(90_000);
    const source = `<concept id="x"><title>T</title><conbody>${paragraphs}</conbody></concept>`;
    const order = { kind: 'text', submitted: { id: 'x', kind: 'topic', source, agreed: {} } };
    const error: unknown = await child.ask(order).catch((reason: unknown) => reason);
    child.close();
    expect(error).toBeInstanceOf(OutOfMemory);

    const nothing = (): undefined => undefined;
    const clerk = {
      start: nothing,
      do: () => Promise.reject(new OutOfMemory()),
      close: nothing,
    };
    const app = await createApp(equip(server.services, clerk), server.queue);
    const { statusCode, body } = await app.inject({
      url: `/api/projects/${server.project}/package`,
      headers: { cookie: await server.cookieOf('reader') },
    });
    await app.close();
    expect([statusCode, JSON.parse(body)]).toMatchObject([413, { code: 'out-of-memory' }]);
  });
});

describe('proofs', () => {
  it('show the specimen with styles that are not saved', async () => {
    const order = {
      sheet: workshop,
      plan: { ...shippedPlans['a4-margin']!, cover: 'none' as const },
      locale: 'en',
    };
    const proof = (await server.ask('reader', 'POST', '~/designs/specimen', order)).json<Proof>();
    expect([proof.pages[0], proof.problems]).toEqual([
      { width: 210, height: 297, pieces: expect.any(Array) },
      [],
    ]);
    const larger = (
      await server.ask('reader', 'POST', '~/designs/specimen', {
        ...order,
        sheet: withValue(workshop, 'text', { name: 'size', medium: 'print', value: '24pt' }),
      })
    ).json<Proof>();
    expect(larger.pages.length).toBeGreaterThan(proof.pages.length);
  });
  it('show a topic while it is written, and its place once the whole is set', async () => {
    const { id } = await edition('Tern Q Installation Manual');
    const ask = async (more: object): Promise<Proof> =>
      (
        await server.ask('reader', 'POST', `~/editions/${id}/proof`, {
          item: 'fit-the-bracket',
          ...more,
        })
      ).json<Proof>();
    const first = await ask({});
    expect([
      first.placed,
      first.problems,
      first.pages.flatMap(({ pieces }) => pieces).every(({ shape }) => shape in first.shapes),
    ]).toEqual([false, [], true]);
    const text =
      '<task id="fit-the-bracket"><title>Fit the bracket</title><taskbody><steps><step>' +
      '<cmd>Only this.</cmd></step></steps></taskbody></task>';
    const written = await ask({ text });
    expect(written.pages.flatMap(({ pieces }) => pieces).length).toBeLessThan(
      first.pages.flatMap(({ pieces }) => pieces).length,
    );
    // Of what the asker has nothing is sent again.
    const again = await ask({ text, has: Object.keys(first.shapes) });
    expect(again.pages).toEqual(written.pages);
    expect(Object.keys(again.shapes)).toEqual(
      Object.keys(written.shapes).filter((shape) => !(shape in first.shapes)),
    );
    expect(
      (await server.ask('reader', 'GET', '~/items/fit-the-bracket')).json<{ text: string }>().text,
    ).not.toContain('Only this.');
    for (;;) {
      const proof = await ask({});
      if (proof.placed) break;
      await new Promise((resolve) => setTimeout(resolve, 2000));
    }
    expect(
      (await ask({ text: '<task id="fit-the-bracket"><title>Broken' })).pages.length,
    ).toBeGreaterThanOrEqual(0);
    expect((await ask({ item: 'alarm-codes-of-nowhere' })).pages).toEqual([]);
    expect(
      (
        await server.ask(
          'reader',
          'POST',
          '~/editions/00000000-0000-4000-8000-000000000000/proof',
          { item: 'x' },
        )
      ).statusCode,
    ).toBe(404);
    expect(
      (await server.ask(undefined, 'POST', `~/editions/${id}/proof`, { item: 'x' })).statusCode,
    ).toBe(401);
  });
});

describe('proofs', () => {
  it('show the whole stored manual and lead to the topic; readers get its file', async () => {
    const { id } = await edition('Tern Q Installation Manual');
    const whole = (
      await server.ask('reader', 'POST', `~/editions/${id}/proof/whole`, {
        item: 'fit-the-bracket',
      })
    ).json<WholeProof>();
    expect(whole.problems).toEqual([]);
    expect(whole.sheets.length).toBeGreaterThan(whole.last);
    expect(whole.first).toBeGreaterThan(1);
    expect(whole.places.every(({ page }) => page >= whole.first && page <= whole.last)).toBe(true);
    expect(whole.places.some(({ says }) => says.includes('bracket'))).toBe(true);
    expect(whole.shown[whole.first - 1]).toMatch(/^\d+$/u);
    const file = await server.ask('reader', 'GET', `~/editions/${id}/proof/whole.pdf`);
    expect([file.statusCode, file.headers['content-type'], file.body.slice(0, 5)]).toEqual([
      200,
      'application/pdf',
      '%PDF-',
    ]);
    expect(
      (await server.ask(undefined, 'GET', `~/editions/${id}/proof/whole.pdf`)).statusCode,
    ).toBe(401);
    expect(
      (
        await server.ask(
          'reader',
          'POST',
          '~/editions/00000000-0000-4000-8000-000000000000/proof/whole',
          {},
        )
      ).statusCode,
    ).toBe(404);
  });
});
