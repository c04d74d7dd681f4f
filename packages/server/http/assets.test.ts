import { Readable } from 'node:stream';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { startTestServer, type TestServer } from '../testing.ts';

let server: TestServer;
beforeAll(async () => void (server = await startTestServer()));
afterAll(() => server.close());

describe('files that come in', () => {
  const boundary = 'x-boundary';
  async function send(
    name: string,
    parts: Iterable<Buffer>,
  ): Promise<{
    statusCode: number;
    body: { code?: string; message?: string; mediaType?: string };
  }> {
    function* payload(): Generator<Buffer> {
      yield Buffer.from(
        `--${boundary}\r\nContent-Disposition: form-data; name="file"; filename="${name}"\r\n` +
          'Content-Type: video/mp4\r\n\r\n',
      );
      yield* parts;
      yield Buffer.from(`\r\n--${boundary}--\r\n`);
    }
    const headers = {
      cookie: await server.cookieOf('writer'),
      'content-type': `multipart/form-data; boundary=${boundary}`,
    };
    const answer = await server.app.inject({
      method: 'POST',
      url: `/api/projects/${server.project}/assets`,
      headers,
      payload: Readable.from(payload()),
    });
    return { statusCode: answer.statusCode, body: answer.json() };
  }
  const start = Buffer.concat([
    Buffer.from([0, 0, 0, 24]),
    Buffer.from('ftypmp42'),
    Buffer.alloc(12),
  ]);

  it('have the type of their bytes; a video over the limit is refused plainly', async () => {
    expect(await send('low tide.mp4', [start])).toMatchObject({
      statusCode: 201,
      body: { id: 'low-tide', mediaType: 'video/mp4' },
    });
    expect(
      await send('tide.webm', [
        Buffer.concat([Buffer.from([0x1a, 0x45, 0xdf, 0xa3]), Buffer.from('\u0001webm')]),
      ]),
    ).toMatchObject({ statusCode: 201, body: { mediaType: 'video/webm' } });
    expect(await send('tide.mp4', [Buffer.from('MZ program')])).toMatchObject({
      statusCode: 422,
      body: { code: 'image.unreadable' },
    });
    const megabyte = Buffer.alloc(1024 * 1024);
    const large = (function* () {
      yield start;
      for (let count = 0; count < 200; count += 1) yield megabyte;
    })();
    expect(await send('long.mp4', large)).toMatchObject({
      statusCode: 413,
      body: { code: 'file-too-large', message: '“long.mp4” is larger than 200 MB.' },
    });
  });
});
