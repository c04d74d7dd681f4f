import { CopiesShared, CopyReport, type CopySharing } from '@ukiyo/contracts';
import { useMessage } from 'naive-ui';
import { ref, shallowRef } from 'vue';
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
  async function share(title: string, copies: CopySharing['copies'], kept: number): Promise<boolean> {
    try {
      const { lender, shared } = await ask(`${session.base}/copies/share`, CopiesShared, { method: 'POST', body: { title, copies, kept } });
      message.success(`${shared} of ${copies.length} borrow it from “${title}” (${lender}) now.`, { duration: 8000 });
      await Promise.all([library.load(), look()]);
      return true;
    } catch (error) {
      message.error(messageOf(error), { duration: 8000, closable: true });
      return false;
    }
  }
  return { report, failure, isLooking, look, share };
}
