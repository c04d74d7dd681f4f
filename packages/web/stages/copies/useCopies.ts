import { Alternates, CopiesShared, CopyReport, type CopySharing } from '@ukiyo/contracts';
import { useMessage } from 'naive-ui';
import { shallowRef } from 'vue';
import { z } from 'zod';
import { ask } from '../../parts/api.ts';
import { useAttempts, useFailure } from '../../parts/attempts.ts';
import { useItems } from '../../parts/items.ts';
import { useSession } from '../../parts/session.ts';

/** What the library says several times, and the act that makes one of it. */
export function useCopies() {
  const session = useSession();
  const items = useItems();
  const message = useMessage();
  const { attempt } = useAttempts();
  const report = shallowRef<CopyReport>();
  const { failure, attempt: attemptLook, isBusy: isLooking } = useFailure();

  const look = (): Promise<boolean> =>
    attemptLook(async () => {
      report.value = await ask(`${session.base}/copies`, CopyReport);
    });
  /** Changes copies and announces the result. @param act returns the message */
  async function announce(act: () => Promise<string>): Promise<void> {
    await attempt(async () => {
      message.success(await act(), { duration: 8000 });
      await look();
    });
  }
  const address = (id: string): string => `${session.base}/items/${encodeURIComponent(id)}`;
  const nameOf = (id: string): string => `“${items.find(id)?.title || id}”`;
  const share = (title: string, copies: CopySharing['copies'], kept: number): Promise<void> =>
    announce(async () => {
      const { lender, shared } = await ask(`${session.base}/copies/share`, CopiesShared, {
        method: 'POST',
        body: { title, copies, kept },
      });
      return `${shared} of ${copies.length} borrow it from “${title}” (${lender}) now.`;
    });
  const replace = (id: string, by: string): Promise<void> =>
    announce(async () => {
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
    announce(async () => {
      await ask(`${address(id)}/stand-in`, Alternates, {
        method: 'POST',
        body: { of, conditions },
      });
      return `${nameOf(id)} stands in for ${nameOf(of)} now.`;
    });
  return { replace, standIn, report, failure, isLooking, look, share };
}
