/**
 * The server with 10,000 topics: `npm run bench -- server`. Needs the database that the command
 * starts.
 */
import { readFileSync } from 'node:fs';
import { serve } from '../e2e/serving.ts';
import { libraryGround } from './ground.ts';
import { median, report } from './measure.ts';

console.log('10,000 topics');
const { ground, account, project, importing } = await libraryGround('bench', 10_000);
report('import the package', importing, 's');

const started = performance.now();
const { process: server, stop } = await serve(ground, 4790);
report('server process, start to ready', (performance.now() - started) / 1000, 's');

const origin = 'http://127.0.0.1:4790/api';
const signIn = await fetch(`${origin}/session`, {
  method: 'POST',
  headers: { 'content-type': 'application/json' },
  body: JSON.stringify(account),
});
const headers = { cookie: signIn.headers.get('set-cookie')!.split(';')[0]! };
const get = (path: string) =>
  fetch(`${origin}/projects/${project}${path}`, { headers }).then((answer) => answer.text());
await get('/items?limit=100');
const list = await median(9, () => get('/items?limit=100'));
report('library list, first page', list.wall * 1000, 'ms', 100);
const search = await median(9, () => get('/items?limit=100&search=harbour'));
report('library list, searched', search.wall * 1000, 'ms');
const open = await median(9, () => get('/items/t4711'));
report('read a topic', open.wall * 1000, 'ms');
const uses = await median(9, () => get('/uses?id=t4711'));
report('where a topic is used, and what a change of it touches', uses.wall * 1000, 'ms', 50);
const lent = await median(5, () => get('/uses?id=lender'));
report('… of a topic that 4,000 others borrow from', lent.wall * 1000, 'ms');
const item = JSON.parse(await get('/items/t4711')) as { text: string; version: number };
let { version } = item;
const save = await median(9, async () => {
  const answer = await fetch(`${origin}/projects/${project}/items/t4711`, {
    method: 'PUT',
    headers: { ...headers, 'content-type': 'application/json' },
    body: JSON.stringify({ text: item.text.replace('</title>', ` ${version}</title>`), version }),
  });
  ({ version } = (await answer.json()) as { version: number });
});
report('save a topic', save.wall * 1000, 'ms');
const resident =
  Number(/VmRSS:\s+(\d+)/u.exec(readFileSync(`/proc/${server.pid}/status`, 'utf8'))?.[1] ?? 0) /
  1024;
report('server memory, resident', resident, 'MB', 350);
await stop();
