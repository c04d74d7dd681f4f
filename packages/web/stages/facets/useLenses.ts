import { Lens, TakenLens, type LensChange, type LensDecision } from '@ukiyo/contracts';
import { useMessage } from 'naive-ui';
import { computed } from 'vue';
import { z } from 'zod';
import { ask } from '../../parts/api.ts';
import { useAttempts } from '../../parts/attempts.ts';
import { useLens } from '../../parts/lens.ts';
import { useSession } from '../../parts/session.ts';

/** The lenses of the project and ways to change them; each decision is kept at once. */
export function useLenses() {
  const session = useSession();
  const message = useMessage();
  const { attempt } = useAttempts();
  const looking = useLens();
  const lenses = computed(() => looking.lenses);
  const address = (id: string): string => `${session.base}/lenses/${encodeURIComponent(id)}`;
  const keep = (lens: Lens): void => {
    const others = looking.lenses.filter(({ id }) => id !== lens.id);
    looking.lenses = [...others, lens].sort((a, b) => a.name.localeCompare(b.name));
  };
  async function make(name: string): Promise<Lens | undefined> {
    let made: Lens | undefined;
    await attempt(async () => {
      made = await ask(`${session.base}/lenses`, Lens, { method: 'POST', body: { name } });
      keep(made);
    });
    return made;
  }
  const change = (id: string, changed: LensChange): Promise<boolean> =>
    attempt(async () => keep(await ask(address(id), Lens, { method: 'PUT', body: changed })));
  /** One after the other: the last that was made is the last that is kept. */
  let decided: Promise<unknown> = Promise.resolve();
  function decide(id: string, decision: LensDecision): Promise<unknown> {
    const order = { method: 'POST', body: decision } as const;
    decided = decided.then(() =>
      attempt(async () => keep(await ask(`${address(id)}/decisions`, Lens, order))),
    );
    return decided;
  }
  const remove = (id: string): Promise<boolean> =>
    attempt(async () => {
      await ask(address(id), z.null(), { method: 'DELETE' });
      looking.lenses = looking.lenses.filter((lens) => lens.id !== id);
    });
  /** Takes a DITAVAL file as a lens; what of it cannot be used is told. */
  async function take(file: File): Promise<Lens | undefined> {
    const body = { name: file.name.replace(/\.ditaval$/iu, ''), text: await file.text() };
    let lens: Lens | undefined;
    await attempt(async () => {
      const order = { method: 'POST', body } as const;
      const taken = await ask(`${session.base}/lenses/ditaval`, TakenLens, order);
      ({ lens } = taken);
      keep(taken.lens);
      for (const { message: text } of taken.problems)
        message.warning(text, { duration: 8000, closable: true });
    });
    return lens;
  }
  const ditaval = (id: string): string => `/api${address(id)}/ditaval`;
  return { lenses, load: looking.load, make, change, decide, remove, take, ditaval };
}
