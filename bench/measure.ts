import { readFileSync } from 'node:fs';
import { cpuUsage, memoryUsage } from 'node:process';

export interface Measured {
  /** Seconds of processor time, of all threads. */
  readonly cpu: number;
  /** Seconds on the clock. */
  readonly wall: number;
}

/** Does something once and says what it took. */
export async function measure(work: () => unknown): Promise<Measured> {
  const before = cpuUsage();
  const started = performance.now();
  await work();
  const wall = (performance.now() - started) / 1000;
  const { user, system } = cpuUsage(before);
  return { cpu: (user + system) / 1_000_000, wall };
}

/** The middle of several: the machines are shared and noisy. */
export function middleOf(results: readonly Measured[]): Measured {
  const middle = (values: number[]): number =>
    values.sort((a, b) => a - b)[Math.floor(values.length / 2)]!;
  return {
    cpu: middle(results.map(({ cpu }) => cpu)),
    wall: middle(results.map(({ wall }) => wall)),
  };
}

export async function median(runs: number, work: () => unknown): Promise<Measured> {
  const results: Measured[] = [];
  for (let run = 0; run < runs; run += 1) results.push(await measure(work));
  return middleOf(results);
}

/**
 * Time that other machines on the same host have taken from this one, in hundredths of a second of
 * one processor (proc(5), `steal`); 0 where it is not told.
 */
function stolen(): number {
  try {
    return Number(/^cpu +(?:\d+ +){7}(\d+)/u.exec(readFileSync('/proc/stat', 'utf8'))?.[1] ?? 0);
  } catch {
    return 0;
  }
}

/**
 * Does something until it has been done so often without a processor being taken away meanwhile, or
 * ten times as often in all; says how many those were. What waits on the clock cannot be measured
 * otherwise on a machine that is shared.
 */
export async function undisturbed<Result>(
  count: number,
  act: (turn: number) => Promise<Result>,
): Promise<readonly Result[]> {
  const kept: Result[] = [];
  let turn = 0;
  for (; kept.length < count && turn < count * 10; turn += 1) {
    const before = stolen();
    const result = await act(turn);
    if (stolen() - before <= 1) kept.push(result);
  }
  if (turn > kept.length) console.log(`  (undisturbed: ${kept.length} of ${turn})`);
  return kept;
}

export const megabytes = (bytes: number): number => Math.round(bytes / 1024 / 1024);
export const residentMegabytes = (): number => megabytes(memoryUsage.rss());

/** One line of the report: what, the figure, the bound it has to keep, and whether it does. */
export function report(what: string, value: number, unit: string, bound?: number): void {
  const shown =
    unit === '' || unit === '×'
      ? `${value.toFixed(2)}${unit}`
      : `${value < 10 ? value.toFixed(2) : Math.round(value)} ${unit}`;
  const verdict =
    bound === undefined
      ? ''
      : value <= bound
        ? `within ${bound}${unit === '' ? '' : ` ${unit}`}`
        : `OVER ${bound}${unit === '' ? '' : ` ${unit}`}`;
  console.log(`${what.padEnd(62)} ${shown.padStart(12)}   ${verdict}`);
}
