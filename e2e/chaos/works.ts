import { strToU8, zipSync } from 'fflate';
import { Robot } from '../robot.ts';
import { rest, type Person } from './person.ts';

/** One kind of work, repeated, and what must be there of it in the end. */
export interface Work {
  /** In the plural, of what is counted. */
  readonly name: string;
  /** Does one more; nothing is expected of a request that was not answered. */
  once(): Promise<void>;
  /** So many were acknowledged. */
  readonly acknowledged: number;
  /** In sentences, what is not as it must be; waits for what is still under way. */
  faults(): Promise<string[]>;
}

const concept = (id: string, body: string): string =>
  `<concept id="${id}"><title>Storm</title><conbody>${body}</conbody></concept>`;

/** Makes a topic before anything is killed. */
export async function newTopic(person: Person, body: string): Promise<string> {
  const made = await person.ask('POST', '/items', { type: 'concept', title: 'Storm' });
  const { id, version } = made!.json() as { id: string; version: number };
  await person.ask('PUT', `/items/${id}`, { text: concept(id, body), version });
  return id;
}

/** People who type in one topic, each in a paragraph of their own. */
export async function typing(person: Person, address: string, count: number): Promise<Work> {
  const body = Array.from({ length: count }, (_, index) => `<p>${index}:</p>`).join('');
  const id = await newTopic(person, body);
  const line = `${address}${person.project}/live/${id}`;
  const robots = Array.from(
    { length: count },
    (_, index) => new Robot(line, person.cookie, `robot-${index}`, index),
  );
  await Promise.all(robots.map((robot) => robot.open()));
  let words = 0;
  return {
    name: 'typed words',
    async once() {
      for (const robot of robots) robot.type(`${words} `);
      words += 1;
      await rest(60);
    },
    get acknowledged() {
      return words * count;
    },
    async faults() {
      while (!robots.every(({ isSafe }) => isSafe)) await rest(100);
      for (const robot of robots) robot.close();
      // The text follows the log: it is written when the last line has closed.
      const wanted = robots.map(({ typed }, index) => `<p>${index}:${typed.trimEnd()}</p>`);
      for (let tries = 0; tries < 300; tries += 1) {
        const { text } = (await person.learn(`/items/${id}`)).json() as { text: string };
        if (wanted.every((paragraph) => text.includes(paragraph))) return [];
        await rest(100);
      }
      return [`what was typed in “${id}” is not in it as it was typed`];
    },
  };
}

/** Somebody who saves one topic over and over, as the XML view does. */
export async function saving(person: Person): Promise<Work> {
  const id = await newTopic(person, '<p>0</p>');
  /** What may stand there: the last one that was acknowledged, and those that were sent since. */
  let possible = new Set([0]);
  let version = 0;
  let sent = 0;
  let acknowledged = 0;
  const wrong: string[] = [];
  const look = async (): Promise<void> => {
    const found = (await person.learn(`/items/${id}`)).json() as { text: string; version: number };
    const number = Number(/<p>(\d+)<\/p>/u.exec(found.text)?.[1]);
    if (!possible.has(number)) wrong.push(`“${id}” says ${number}, not ${[...possible].join()}`);
    possible = new Set([number]);
    version = found.version;
  };
  await look();
  return {
    name: 'saved texts',
    get acknowledged() {
      return acknowledged;
    },
    async once() {
      const number = (sent += 1);
      possible.add(number);
      const text = concept(id, `<p>${number}</p>`);
      const answer = await person.ask('PUT', `/items/${id}`, { text, version });
      if (answer?.status !== 200) return look();
      acknowledged += 1;
      possible = new Set([number]);
      ({ version } = answer.json() as { version: number });
    },
    async faults() {
      await look();
      return wrong;
    },
  };
}

/** The smallest picture there is, of one colour. CompuServe, GIF89a specification, 1990. */
function dot(colour: number): Buffer {
  const bytes = Buffer.from(
    'R0lGODlhAQABAIAAAAAAAP///yH5BAAAAAAALAAAAAABAAEAAAICRAEAOw==',
    'base64',
  );
  bytes.writeUIntBE(colour, 13, 3);
  return bytes;
}

interface Picture {
  readonly id: string;
  readonly folder: string;
}
/** Every picture of the library, asked for page by page. */
async function allPictures(person: Person): Promise<Picture[]> {
  const all: Picture[] = [];
  for (;;) {
    const answer = await person.learn(`/assets?limit=500&offset=${all.length}`);
    const { total, assets } = answer.json() as { total: number; assets: Picture[] };
    all.push(...assets);
    if (assets.length === 0 || all.length >= total) return all;
  }
}

/** Somebody who brings one picture after the other. */
export function illustrating(person: Person): Work {
  const kept = new Map<string, Buffer>();
  let sent = 0;
  return {
    name: 'pictures',
    get acknowledged() {
      return kept.size;
    },
    async once() {
      sent += 1;
      const bytes = dot(sent);
      const answer = await person.upload('/assets?folder=storm', `dot-${sent}.gif`, bytes);
      if (answer?.status === 201) kept.set((answer.json() as { id: string }).id, bytes);
      await rest(100);
    },
    async faults() {
      const assets = await allPictures(person);
      const there = new Set(assets.map(({ id }) => id));
      const lost = [...kept.keys()].filter((id) => !there.has(id));
      const other: string[] = [];
      for (const { id, folder } of assets) {
        if (folder !== 'storm') continue;
        const { bytes } = await person.learn(`/assets/${id}/file`);
        if (!bytes.equals(kept.get(id) ?? dot(Number(/\d+/u.exec(id)?.[0])))) other.push(id);
      }
      return [
        ...lost.map((id) => `the picture “${id}” is gone`),
        ...other.map((id) => `the picture “${id}” is another one`),
      ];
    },
  };
}

const topicsInPackage = 20;

/** Somebody who imports one package after the other. */
export function importing(person: Person): Work {
  const kept = new Set<string>();
  let sent = 0;
  return {
    name: 'packages',
    get acknowledged() {
      return kept.size;
    },
    async once() {
      sent += 1;
      const folder = `storm-${sent}`;
      const files = Array.from({ length: topicsInPackage }, (_, index) => [
        `${folder}/gust-${sent}-${index}.dita`,
        strToU8(concept(`gust-${sent}-${index}`, '<p>It blew.</p>')),
      ]);
      const bytes = zipSync(Object.fromEntries(files) as Record<string, Uint8Array>);
      const answer = await person.upload('/package', 'storm.zip', bytes);
      if (answer?.status === 200) kept.add(folder);
      await rest(300);
    },
    async faults() {
      const folders = (await person.learn('/folders')).json() as {
        folder: string;
        count: number;
      }[];
      const storms = folders.filter(({ folder }) => folder.startsWith('storm-'));
      const counts = new Map(storms.map(({ folder, count }) => [folder, count]));
      const lost = [...kept].filter((folder) => !counts.has(folder));
      const halves = [...counts].filter(([, count]) => count !== topicsInPackage);
      return [
        ...lost.map((folder) => `the package of “${folder}” is gone`),
        ...halves.map(([folder, count]) => `of the package of “${folder}” ${count} topics came`),
      ];
    },
  };
}

type Impression = { readonly id: string; readonly state: string; readonly seal: unknown };
const isUnderWay = ({ state }: Impression): boolean => state === 'queued' || state === 'running';
const mostUnderWay = 3;

/** An edition of one topic. */
async function newEdition(person: Person): Promise<string> {
  const topic = await newTopic(person, '<p>Close the hatches.</p>');
  const made = await person.ask('POST', '/items', { type: 'map', title: 'Storms' });
  const { id, version } = made!.json() as { id: string; version: number };
  const text = `<map id="${id}"><title>Storms</title><topicref href="topic:${topic}"/></map>`;
  await person.ask('PUT', `/items/${id}`, { text, version });
  const fields = { name: 'Storms', output: 'print', map: id, lens: null, keeps: 500 };
  return ((await person.ask('POST', '/editions', fields))!.json() as { id: string }).id;
}

/** Somebody who has a small manual printed again and again, and signs off what was built. */
export async function building(person: Person): Promise<Work> {
  const edition = await newEdition(person);
  const begun: string[] = [];
  const sealed = new Set<string>();
  let underWay: string[] = [];
  const read = async (id: string): Promise<Impression> =>
    (await person.learn(`/impressions/${id}`)).json() as Impression;
  const hasFile = async (id: string): Promise<boolean> =>
    (await person.ask('GET', `/impressions/${id}/files/manual.pdf`))?.status === 200;
  return {
    name: 'builds and sign-offs',
    get acknowledged() {
      return begun.length + sealed.size;
    },
    async once() {
      await rest(300);
      const impressions = await Promise.all(underWay.map(read));
      underWay = impressions.filter(isUnderWay).map(({ id }) => id);
      for (const { id, state } of impressions) {
        if (state !== 'done') continue;
        const answer = await person.ask('PUT', `/impressions/${id}/seal`, { waived: [] });
        if (answer?.status === 200) sealed.add(id);
      }
      if (underWay.length >= mostUnderWay) return;
      const answer = await person.ask('POST', `/editions/${edition}/impressions`, {});
      if (answer?.status !== 202) return;
      const { id } = answer.json() as Impression;
      begun.push(id);
      underWay.push(id);
    },
    async faults() {
      // Those that were made and not acknowledged are among the latest, too.
      while (((await person.learn('/impressions')).json() as Impression[]).some(isUnderWay))
        await rest(300);
      const wrong: string[] = [];
      for (const id of begun) {
        const { state, seal } = await read(id);
        if (sealed.has(id) && !seal) wrong.push(`the impression ${id} is not signed off`);
        if ((state === 'done') !== (await hasFile(id)))
          wrong.push(`the impression ${id} is ${state}, and its file says otherwise`);
      }
      return wrong;
    },
  };
}

/** Somebody who looks at what others write: in proofs, and by questions about the whole library. */
export async function looking(person: Person): Promise<Work> {
  const editions = (await person.learn('/editions')).json() as { id: string; name: string }[];
  const edition = editions.find(({ name }) => name === 'Tern Help')!.id;
  let answered = 0;
  return {
    name: 'proofs and answers',
    get acknowledged() {
      return answered;
    },
    async once() {
      const answers = await Promise.all([
        person.ask('POST', `/editions/${edition}/proof/site`, { item: 'alarms' }),
        person.ask('GET', `/editions/${edition}/contents`),
      ]);
      answered += answers.filter((answer) => answer?.status === 200).length;
      await rest(200);
    },
    faults: () => Promise.resolve([]),
  };
}
