import { Edition, MadeToken, Notice, Outbox, Token, type NoticeInput } from '@ukiyo/contracts';
import { ref, shallowRef } from 'vue';
import { z } from 'zod';
import { ask, messageOf } from '../../parts/api.ts';
import { useSession } from '../../parts/session.ts';

/** Tokens of the person, who is told of builds, and what was sent. */
export function useOutside() {
  const session = useSession();
  const tokens = shallowRef<readonly Token[]>([]);
  const notices = shallowRef<readonly Notice[]>([]);
  const outbox = shallowRef<Outbox>({ isSimulated: true, messages: [] });
  const editions = shallowRef<readonly Edition[]>([]);
  /** The token that was just made: its secret is not told again. */
  const made = shallowRef<MadeToken>();
  const failure = ref('');

  async function guarded(work: () => Promise<void>): Promise<boolean> {
    failure.value = '';
    try {
      await work();
      return true;
    } catch (error) {
      failure.value = messageOf(error);
      return false;
    }
  }
  const load = (): Promise<boolean> =>
    guarded(async () => {
      [tokens.value, notices.value, outbox.value, editions.value] = await Promise.all([
        ask(`${session.base}/tokens`, z.array(Token)),
        ask(`${session.base}/notices`, z.array(Notice)),
        ask(`${session.base}/outbox`, Outbox),
        ask(`${session.base}/editions`, z.array(Edition)),
      ]);
    });
  const makeToken = (name: string, access: Token['access']): Promise<boolean> =>
    guarded(async () => {
      made.value = await ask(`${session.base}/tokens`, MadeToken, {
        method: 'POST',
        body: { name, access },
      });
      await load();
    });
  const removeToken = (id: string): Promise<boolean> =>
    guarded(async () => {
      await ask(`${session.base}/tokens/${id}`, z.null(), { method: 'DELETE' });
      tokens.value = tokens.value.filter((one) => one.id !== id);
      if (made.value?.id === id) made.value = undefined;
    });
  const addNotice = (input: NoticeInput): Promise<boolean> =>
    guarded(async () => {
      const notice = await ask(`${session.base}/notices`, Notice, { method: 'POST', body: input });
      notices.value = [...notices.value, notice];
    });
  const removeNotice = (id: string): Promise<boolean> =>
    guarded(async () => {
      await ask(`${session.base}/notices/${id}`, z.null(), { method: 'DELETE' });
      notices.value = notices.value.filter((one) => one.id !== id);
    });
  return {
    tokens,
    notices,
    outbox,
    editions,
    made,
    failure,
    load,
    makeToken,
    removeToken,
    addNotice,
    removeNotice,
  };
}
