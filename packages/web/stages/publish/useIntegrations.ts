import {
  CreatedNotice,
  CreatedToken,
  Edition,
  Notice,
  Outbox,
  Token,
  type NewToken,
  type NoticeInput,
} from '@ukiyo/contracts';
import { shallowRef } from 'vue';
import { z } from 'zod';
import { ask } from '../../parts/api.ts';
import { useFailure } from '../../parts/attempts.ts';
import { useSession } from '../../parts/session.ts';

/** Tokens of the person, notifications of builds, and sent messages. */
export function useIntegrations() {
  const session = useSession();
  const tokens = shallowRef<readonly Token[]>([]);
  const notices = shallowRef<readonly Notice[]>([]);
  const outbox = shallowRef<Outbox>({ isSimulated: true, messages: [] });
  const editions = shallowRef<readonly Edition[]>([]);
  /** What was just created with a secret, which is not shown again. */
  const created = shallowRef<{
    readonly id: string;
    readonly name: string;
    readonly secret: string;
  }>();
  const { failure, attempt } = useFailure();

  const load = (): Promise<boolean> =>
    attempt(async () => {
      [tokens.value, notices.value, outbox.value, editions.value] = await Promise.all([
        ask(`${session.base}/tokens`, z.array(Token)),
        ask(`${session.base}/notices`, z.array(Notice)),
        ask(`${session.base}/outbox`, Outbox),
        ask(`${session.base}/editions`, z.array(Edition)),
      ]);
    });
  const createToken = (input: NewToken): Promise<boolean> =>
    attempt(async () => {
      created.value = await ask(`${session.base}/tokens`, CreatedToken, {
        method: 'POST',
        body: input,
      });
      await load();
    });
  const revokeToken = (id: string): Promise<boolean> =>
    attempt(async () => {
      await ask(`${session.base}/tokens/${id}`, z.null(), { method: 'DELETE' });
      tokens.value = tokens.value.filter((one) => one.id !== id);
      if (created.value?.id === id) created.value = undefined;
    });
  const addNotice = (input: NoticeInput): Promise<boolean> =>
    attempt(async () => {
      const { notice, secret } = await ask(`${session.base}/notices`, CreatedNotice, {
        method: 'POST',
        body: input,
      });
      if (secret !== '') created.value = { id: notice.id, name: notice.to, secret };
      notices.value = [...notices.value, notice];
    });
  const removeNotice = (id: string): Promise<boolean> =>
    attempt(async () => {
      await ask(`${session.base}/notices/${id}`, z.null(), { method: 'DELETE' });
      notices.value = notices.value.filter((one) => one.id !== id);
    });
  return {
    tokens,
    notices,
    outbox,
    editions,
    created,
    failure,
    load,
    createToken,
    revokeToken,
    addNotice,
    removeNotice,
  };
}
