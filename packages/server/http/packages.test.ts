import type { AssetPage, ImportReport, ItemPage } from '@ukiyo/contracts';
import { strToU8, unzipSync, zipSync } from 'fflate';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { startTestServer, type TestServer } from '../testing.ts';

let server: TestServer;
beforeAll(async () => void (server = await startTestServer()));
afterAll(() => server.close());

const upload = async (
  role: 'publisher' | 'writer',
  bytes: Buffer,
): Promise<{ statusCode: number; report: ImportReport }> => {
  const boundary = 'x-boundary';
  const payload = Buffer.concat([
    Buffer.from(
      `--${boundary}\r\nContent-Disposition: form-data; name="file"; ` +
        'filename="library.zip"\r\nContent-Type: application/zip\r\n' +
        '\r\n',
    ),
    bytes,
    Buffer.from(`\r\n--${boundary}--\r\n`),
  ]);
  const headers = {
    cookie: await server.cookieOf(role),
    'content-type': `multipart/form-data; boundary=${boundary}`,
  };
  const answer = await server.app.inject({
    method: 'POST',
    url: `/api/projects/${server.project}/package`,
    headers,
    payload,
  });
  return { statusCode: answer.statusCode, report: answer.json<ImportReport>() };
};

it('are exported as a zip of DITA; an import leaves and reports what exists', async () => {
  const answer = await server.ask('reader', 'GET', '~/package');
  expect(answer.headers['content-type']).toBe('application/zip');
  const before = (await server.ask('reader', 'GET', '~/items?limit=1')).json<ItemPage>().total;
  const { statusCode, report } = await upload('publisher', answer.rawPayload);
  expect(statusCode).toBe(200);
  expect(report).toMatchObject({ items: 0, assets: 0, lenses: 7 });
  const files = (await server.ask('reader', 'GET', '~/assets')).json<AssetPage>().total;
  const editions = (await server.ask('reader', 'GET', '~/editions')).json<unknown[]>().length;
  expect(report.problems.filter(({ code }) => code === 'package.exists').length).toBe(
    before + files + 5 + editions,
  );
  expect((await server.ask('reader', 'GET', '~/items?limit=1')).json<ItemPage>().total).toBe(
    before,
  );
});

it('bring in the documents and the code that their topics name, to be downloaded', async () => {
  const body =
    '<codeblock><coderef href="run.js"/></codeblock><p><xref href="plan.pdf" format="pdf"/></p>';
  const zip = Buffer.from(
    zipSync({
      'deck/gear.dita': strToU8(
        `<concept id="gear"><title>Gear</title><conbody>${body}</conbody></concept>`,
      ),
      'deck/run.js': strToU8('lower();\n'),
      'deck/plan.pdf': strToU8('%PDF-1.4\n'),
    }),
  );
  expect((await upload('publisher', zip)).report).toMatchObject({ assets: 2, problems: [] });
  const code = await server.ask('reader', 'GET', '~/assets/run/file');
  expect(code.body).toBe('lower();\n');
  expect(code.headers).toMatchObject({
    'content-type': 'application/octet-stream',
    'x-content-type-options': 'nosniff',
  });
  expect(code.headers['content-disposition']).toContain('attachment');
  const { rawPayload } = await server.ask('reader', 'GET', '~/package');
  const files = unzipSync(rawPayload);
  expect(Object.keys(files)).toEqual(expect.arrayContaining(['deck/run.js', 'deck/plan.pdf']));
  await server.ask('writer', 'DELETE', '~/items/gear');
  for (const id of ['run', 'plan'])
    expect((await server.ask('writer', 'DELETE', `~/assets/${id}`)).statusCode).toBe(204);
});

it('bring in nothing at all when the database fails on the way', async () => {
  const scheme =
    '<subjectScheme><subjectdef keys="s"><subjectdef keys="calm"/></subjectdef>' +
    '<enumerationdef><attributedef name="weather"/><subjectdef keyref="s"/>' +
    '</enumerationdef></subjectScheme>';
  const files = new Map([
    ['weather.ditamap', strToU8(scheme)],
    ['storm.dita', strToU8('<concept id="storm"><title>Storm</title></concept>')],
  ]);
  // Without an author the row of the topic is refused by the database.
  await expect(
    server.services.packages.take(server.project, files, null as unknown as string),
  ).rejects.toThrow();
  expect(
    (await server.services.facets.read(server.project)).facets.map(({ name }) => name),
  ).not.toContain('weather');
  expect((await server.ask('reader', 'GET', '~/items/storm')).statusCode).toBe(404);
});

it('bring in what is new, and are refused whole when they are no packages', async () => {
  const zip = Buffer.from(
    zipSync({
      'more/extra.dita': strToU8(
        '<concept id="extra"><title>Extra</title><conbody><p><xref href="other.dita"/></p>' +
          '</conbody></concept>',
      ),
      'more/other.dita': strToU8('<concept id="other"><title>Other</title></concept>'),
    }),
  );
  expect((await upload('publisher', zip)).report).toMatchObject({
    items: 2,
    assets: 0,
    problems: [],
  });
  expect((await server.ask('reader', 'GET', '~/uses?id=other')).json()).toMatchObject({
    uses: [{ item: { id: 'extra' } }],
  });
  for (const id of ['extra', 'other']) await server.ask('writer', 'DELETE', `~/items/${id}`);
  expect(await upload('publisher', Buffer.from('no zip'))).toMatchObject({
    statusCode: 422,
    report: { code: 'zip.unreadable' },
  });
  expect((await upload('writer', zip)).statusCode).toBe(403);
});
