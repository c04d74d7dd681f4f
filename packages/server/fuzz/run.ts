/**
 * Gives everything that takes what comes from outside changed inputs, for so many minutes: `npm run
 * fuzz -- [minutes] [seed]`.
 */
import { mutated, randomFrom } from './mutate.ts';
import { targets } from './targets.ts';

const [minutes = '1', seed = String(Date.now() % 1_000_000)] = process.argv.slice(2);
/** What takes longer, in milliseconds of the processor, hangs. */
const longest = 2000;
const megabytes = (): number => Math.round(process.memoryUsage().heapUsed / 1024 / 1024);
const collect = (): void => globalThis.gc?.();

const random = randomFrom(Number(seed));
const until = Date.now() + Number(minutes) * 60_000;
const counts = new Map(targets.map(({ name }) => [name, 0]));
let findings = 0;
let slowest = { name: '', milliseconds: 0 };
collect();
const before = megabytes();

console.log(`seed ${seed}, ${minutes} minutes`);
while (Date.now() < until) {
  const target = targets[random(targets.length)]!;
  const input = mutated(target.seeds, random);
  counts.set(target.name, counts.get(target.name)! + 1);
  const began = process.cpuUsage();
  let fault: unknown;
  try {
    await target.take(input);
  } catch (error) {
    fault = error;
  }
  const { user, system } = process.cpuUsage(began);
  const milliseconds = (user + system) / 1000;
  if (milliseconds > slowest.milliseconds) slowest = { name: target.name, milliseconds };
  if (fault === undefined && milliseconds <= longest) continue;
  findings += 1;
  const why = fault instanceof Error ? (fault.stack ?? fault.message) : `${milliseconds} ms`;
  console.log(
    `\n${target.name}: ${why}\n${JSON.stringify(input.toString('latin1').slice(0, 2000))}`,
  );
  if (findings === 20) break;
}
collect();
for (const [name, count] of counts) console.log(`${name.padEnd(34)} ${count}`);
const total = [...counts.values()].reduce((sum, count) => sum + count, 0);
console.log(
  `${total} inputs, ${findings} findings; the slowest ${Math.round(slowest.milliseconds)} ms ` +
    `(${slowest.name}); heap ${before} MB before, ${megabytes()} MB after`,
);
process.exit(findings > 0 ? 1 : 0);
