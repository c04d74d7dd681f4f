#!/usr/bin/env node
/** `npm run library -- out FILE.zip` and `-- in FILE.zip`, against a running server: `UKIYO_URL` (http://127.0.0.1:4600), `UKIYO_EMAIL`, `UKIYO_PASSWORD`. */
import { openAsBlob } from 'node:fs';
import { writeFile } from 'node:fs/promises';
import { basename } from 'node:path';

const [direction, file] = process.argv.slice(2);
const { UKIYO_URL: url = 'http://127.0.0.1:4600', UKIYO_EMAIL: email, UKIYO_PASSWORD: password } = process.env;
if (!['in', 'out'].includes(direction) || !file || !email || !password) {
  console.error('Usage: UKIYO_EMAIL=… UKIYO_PASSWORD=… npm run library -- out|in FILE.zip');
  process.exit(2);
}

async function ask(path, options) {
  const answer = await fetch(`${url}/api${path}`, options);
  if (answer.ok) return answer;
  const { message } = await answer.json();
  throw new Error(message);
}

try {
  const session = await ask('/session', { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify({ email, password }) });
  const cookie = session.headers.get('set-cookie').split(';')[0];
  const { projects } = await session.json();
  const path = `/projects/${projects[0].id}/package`;
  if (direction === 'out') {
    const answer = await ask(path, { headers: { cookie } });
    await writeFile(file, Buffer.from(await answer.arrayBuffer()));
    console.log(`${projects[0].name} is in ${file}`);
  } else {
    const form = new FormData();
    form.append('file', await openAsBlob(file), basename(file));
    const report = await (await ask(path, { method: 'POST', headers: { cookie }, body: form })).json();
    for (const { severity, message } of report.problems) console.log(`${severity}: ${message}`);
    console.log(`${report.items} topics and maps, ${report.assets} images, ${report.lenses} lenses taken in`);
  }
} catch (error) {
  console.error(error instanceof Error ? error.message : error);
  process.exit(1);
}
