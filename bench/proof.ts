/** Pages beside the text, over the running server and the demo library: `npm run bench -- proof`. */
import { demoPassword, makeServices, seedDemo, upgrade } from '@ukiyo/server';
import { shippedPlans, shippedSheets, withValue } from '@ukiyo/core/styles';
import { join } from 'node:path';
import { freshGround, serve } from '../e2e/serving.ts';
import { report } from './measure.ts';

const ground = await freshGround('proof');
const services = makeServices(ground);
await upgrade(services);
await seedDemo(services, join(process.cwd(), 'demo'));
const project = (await services.database.models.projects.findOne())!.get().id;
await services.database.sequelize.close();
const { stop } = await serve(ground, 4791);

const origin = 'http://127.0.0.1:4791/api';
const signIn = await fetch(`${origin}/session`, { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify({ email: 'teo@brinewell.example', password: demoPassword }) });
const headers = { cookie: signIn.headers.get('set-cookie')!.split(';')[0]!, 'content-type': 'application/json' };
const get = async <Answer>(path: string): Promise<Answer> => (await (await fetch(`${origin}/projects/${project}${path}`, { headers })).json()) as Answer;
interface Timed {
  readonly wall: number;
  readonly server: number;
  readonly placed: boolean;
}
async function proof(path: string, body: object): Promise<Timed> {
  const started = performance.now();
  const answer = await fetch(`${origin}/projects/${project}${path}`, { method: 'POST', headers, body: JSON.stringify(body) });
  const { milliseconds, placed } = (await answer.json()) as { milliseconds: number; placed: boolean };
  return { wall: performance.now() - started, server: milliseconds, placed };
}
const slowest = (values: readonly number[]): number => values.toSorted((a, b) => a - b)[Math.floor(values.length * 0.95)]!;

const editions = await get<{ id: string; name: string }[]>('/editions');
const manual = editions.find(({ name }) => name === 'Tern Q Installation Manual')!;
const { text } = await get<{ text: string }>('/items/fit-the-bracket');
const page = (turn: number): Promise<Timed> => proof(`/editions/${manual.id}/proof`, { item: 'fit-the-bracket', text: text.replace('</title>', ` ${turn}</title>`) });
const first = await page(0);
report('first proof of all: process, library, faces', first.wall, 'ms');
while (!(await page(0)).placed) await new Promise((resolve) => setTimeout(resolve, 2000));
const pages: Timed[] = [];
for (let turn = 1; turn <= 100; turn += 1) pages.push(await page(turn));
report('a topic changed → its pages, p95, at the server', slowest(pages.map(({ server }) => server)), 'ms', 120);
report('… until they have come over the wire', slowest(pages.map(({ wall }) => wall)), 'ms', 250);
const styles: Timed[] = [];
for (let turn = 1; turn <= 40; turn += 1)
  styles.push(await proof('/designs/specimen', { sheet: withValue(shippedSheets['workshop']!, 'paragraph', 'size', 'print', `${9 + turn / 20}pt`), plan: shippedPlans['a4-margin'], locale: 'en' }));
report('a style changed → the specimen, p95', slowest(styles.map(({ wall }) => wall)), 'ms', 300);
await stop();
