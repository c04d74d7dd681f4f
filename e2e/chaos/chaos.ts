import { existsSync, readdirSync, utimesSync } from 'node:fs';
import { join } from 'node:path';
import { victims, type Ground, type Victim } from './ground.ts';
import { Person, rest } from './person.ts';
import { building, illustrating, importing, looking, saving, typing, type Work } from './works.ts';

/** What a run has done, and what was wrong after it. */
export interface Outcome {
  readonly killed: Readonly<Record<Victim, number>>;
  /** How many of each kind of work were acknowledged. */
  readonly acknowledged: Readonly<Record<string, number>>;
  /** In sentences; none when all that was acknowledged is there, and nothing else is left. */
  readonly faults: readonly string[];
}

const typists = 4;
/** Between two rounds, in milliseconds. */
const shortestCalm = 200;
const longestCalm = 5000;

async function worksOf(origin: string): Promise<Work[]> {
  const [teo, noor, ines] = await Promise.all([
    Person.signIn(origin, 'teo'),
    Person.signIn(origin, 'noor'),
    Person.signIn(origin, 'ines'),
  ]);
  return [
    await typing(noor, origin.replace('http', 'ws'), typists),
    await saving(noor),
    illustrating(noor),
    importing(teo),
    await building(teo),
    await looking(ines),
  ];
}

/** All victims in a new order, over and over. */
function* lots(): Generator<Victim, never> {
  for (;;) yield* [...victims].sort(() => Math.random() - 0.5);
}

/** Kills that one as soon as there is one. */
async function killWhenThere(ground: Ground, victim: Victim): Promise<void> {
  while (!(await ground.kill(victim))) await rest(20);
}

/** Files that should have been removed. @param ada an administrator */
async function leftBehind({ dataFolder }: Ground, ada: Person): Promise<string[]> {
  const found: string[] = [];
  // On a busy machine no build may have come so far.
  const impressions = join(dataFolder, 'impressions');
  for (const id of existsSync(impressions) ? readdirSync(impressions) : []) {
    const answer = await ada.ask('GET', `/impressions/${id}`);
    const state = answer?.status === 200 ? (answer.json() as { state: string }).state : 'not there';
    if (state !== 'done') found.push(`there are files of the impression ${id}, which is ${state}`);
  }
  // What a killed server left is cleared hours later, with the next file: make it that old.
  const temporary = join(dataFolder, 'temporary');
  for (const name of readdirSync(temporary)) utimesSync(join(temporary, name), 0, 0);
  await ada.ask('GET', '/package');
  // The folder of this request itself goes when it has been answered.
  for (let tries = 0; readdirSync(temporary).length > 0 && tries < 300; tries += 1) await rest(100);
  for (const name of readdirSync(temporary)) found.push(`the temporary file ${name} stays`);
  return found;
}

/**
 * People write, save, bring pictures and packages, build and look, while what serves them is killed
 * at random moments; then looks whether all that was acknowledged is there.
 * @param rounds kills
 * @param tell takes a line for each
 */
export async function chaos(
  ground: Ground,
  rounds: number,
  tell: (line: string) => void,
): Promise<Outcome> {
  const works = await worksOf(ground.origin);
  const ada = await Person.signIn(ground.origin, 'ada');
  const faults: string[] = [];
  let isOver = false;
  const working = works.map(async (work) => {
    // Of each something must have been done, however slow the machine is.
    while (!isOver || work.acknowledged === 0) await work.once();
  });
  const killed = Object.fromEntries(victims.map((name) => [name, 0])) as Record<Victim, number>;
  const next = lots();
  for (let round = 1; round <= rounds; round += 1) {
    const victim = next.next().value;
    await rest(shortestCalm + Math.random() * (longestCalm - shortestCalm));
    await killWhenThere(ground, victim);
    killed[victim] += 1;
    const began = Date.now();
    while ((await ada.ask('GET', '/items/alarms'))?.status !== 200) {
      if (!ground.isServed) {
        faults.push(`in round ${round} the server ended because the ${victim} did`);
        await ground.serveAgain();
      }
      await rest(20);
    }
    tell(`${round}: ${victim}, an answer again after ${Date.now() - began} ms`);
  }
  isOver = true;
  await Promise.all(working);
  await ground.stopServer();
  await ground.serveAgain();
  for (const work of works) faults.push(...(await work.faults()));
  faults.push(...(await leftBehind(ground, ada)));
  const acknowledged = Object.fromEntries(works.map((work) => [work.name, work.acknowledged]));
  return { killed, acknowledged, faults };
}
