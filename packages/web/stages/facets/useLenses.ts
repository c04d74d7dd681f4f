import { Lens, TakenLens, type LensChange, type LensDecision } from '@ukiyo/contracts';
import { useMessage } from 'naive-ui';
import { computed } from 'vue';
import { z } from 'zod';
import { ask, messageOf } from '../../parts/api.ts';
import { useLens } from '../../parts/lens.ts';
import { useSession } from '../../parts/session.ts';

/** The lenses of the project and ways to change them; each decision is kept at once. */
export function useLenses() {
  const session = useSession();
  const message = useMessage();
  const looking = useLens();
  const lenses = computed(() => looking.lenses);
  const address = (id: string): string => `${session.base}/lenses/${encodeURIComponent(id)}`;
  const keep = (lens: Lens): void => {
    const others = looking.lenses.filter(({ id }) => id !== lens.id);
    looking.lenses = [...others, lens].sort((a, b) => a.name.localeCompare(b.name));
  };
  async function attempt<Made>(act: () => Promise<Made>): Promise<Made | undefined> {
    try {
      return await act();
    } catch (error) {
      message.error(messageOf(error), { duration: 8000, closable: true });
      return undefined;
    }
  }
  async function make(name: string): Promise<Lens | undefined> {
    const made = await attempt(() =>
      ask(`${session.base}/lenses`, Lens, { method: 'POST', body: { name } }),
    );
    if (made) keep(made);
    return made;
  }
  async function change(id: string, changed: LensChange): Promise<void> {
    const lens = await attempt(() => ask(address(id), Lens, { method: 'PUT', body: changed }));
    if (lens) keep(lens);
  }
  /** One after the other: the last that was made is the last that is kept. */
  let decided: Promise<void> = Promise.resolve();
  function decide(id: string, decision: LensDecision): Promise<void> {
    decided = decided.then(async () => {
      const lens = await attempt(() =>
        ask(`${address(id)}/decisions`, Lens, { method: 'POST', body: decision }),
      );
      if (lens) keep(lens);
    });
    return decided;
  }
  async function remove(id: string): Promise<void> {
    const done = await attempt(() =>
      ask(address(id), z.null(), { method: 'DELETE' }).then(() => true),
    );
    if (done) looking.lenses = looking.lenses.filter((lens) => lens.id !== id);
  }
  /** Takes a DITAVAL file as a lens; what of it cannot be used is told. */
  async function take(file: File): Promise<Lens | undefined> {
    const body = { name: file.name.replace(/\.ditaval$/iu, ''), text: await file.text() };
    const taken = await attempt(() =>
      ask(`${session.base}/lenses/ditaval`, TakenLens, { method: 'POST', body }),
    );
    if (!taken) return undefined;
    keep(taken.lens);
    for (const { message: text } of taken.problems)
      message.warning(text, { duration: 8000, closable: true });
    return taken.lens;
  }
  const ditaval = (id: string): string => `/api${address(id)}/ditaval`;
  return { lenses, load: looking.load, make, change, decide, remove, take, ditaval };
}
