import { Alternates, CopiesShared, CopyReport, type CopySharing } from '@ukiyo/contracts';
import { useMessage } from 'naive-ui';
import { ref, shallowRef } from 'vue';
import { z } from 'zod';
import { ask, messageOf } from '../../parts/api.ts';
import { useLibrary } from '../../parts/library.ts';
import { useSession } from '../../parts/session.ts';

/** What the library says several times, and the act that makes one of it. */
export function useCopies() {
  const session = useSession();
  const library = useLibrary();
  const message = useMessage();
  const report = shallowRef<CopyReport>();
  const failure = ref('');
  const isLooking = ref(false);

  async function look(): Promise<void> {
    isLooking.value = true;
    try {
      report.value = await ask(`${session.base}/copies`, CopyReport);
      failure.value = '';
    } catch (error) {
      failure.value = messageOf(error);
    } finally {
      isLooking.value = false;
    }
  }
  /** Does something to copies, and says what came of it. @param act gives the words for that */
  async function attempt(act: () => Promise<string>): Promise<void> {
    try {
      message.success(await act(), { duration: 8000 });
      await Promise.all([library.load(), look()]);
    } catch (error) {
      message.error(messageOf(error), { duration: 8000, closable: true });
    }
  }
  const address = (id: string): string => `${session.base}/items/${encodeURIComponent(id)}`;
  const nameOf = (id: string): string => `“${library.find(id)?.title || id}”`;
  const share = (title: string, copies: CopySharing['copies'], kept: number): Promise<void> =>
    attempt(async () => {
      const { lender, shared } = await ask(`${session.base}/copies/share`, CopiesShared, {
        method: 'POST',
        body: { title, copies, kept },
      });
      return `${shared} of ${copies.length} borrow it from “${title}” (${lender}) now.`;
    });
  const replace = (id: string, by: string): Promise<void> =>
    attempt(async () => {
      // Once it is gone, nothing knows its title.
      const done = `${nameOf(by)} takes the place of ${nameOf(id)} everywhere now.`;
      await ask(`${address(id)}?by=${encodeURIComponent(by)}`, z.null(), { method: 'DELETE' });
      return done;
    });
  const standIn = (
    id: string,
    of: string,
    conditions: Readonly<Record<string, string>>,
  ): Promise<void> =>
    attempt(async () => {
      await ask(`${address(id)}/stand-in`, Alternates, {
        method: 'POST',
        body: { of, conditions },
      });
      return `${nameOf(id)} stands in for ${nameOf(of)} now.`;
    });
  return { replace, standIn, report, failure, isLooking, look, share };
}
