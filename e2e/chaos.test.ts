import { join } from 'node:path';
import { expect, test } from '@playwright/test';
import { chaos } from './chaos/chaos.ts';
import { Ground } from './chaos/ground.ts';

const { CHAOS_ROUNDS: rounds = '3', POSTGRES: postgres, TEST_DATA: data } = process.env;

test('what was acknowledged is there after server, database and workers were killed', async () => {
  // A round takes some seconds, on a busy machine ten times as long.
  test.setTimeout(300_000 + Number(rounds) * 60_000);
  const ground = await Ground.start(postgres!, join(data!, 'chaos'), 4798);
  try {
    const outcome = await chaos(ground, Number(rounds), (line) => console.log(line));
    console.log(outcome);
    expect(outcome.faults).toEqual([]);
    for (const [name, count] of Object.entries(outcome.acknowledged))
      expect(count, name).toBeGreaterThan(0);
  } finally {
    await ground.stop();
  }
});
