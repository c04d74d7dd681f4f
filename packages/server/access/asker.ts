import { AsyncLocalStorage } from 'node:async_hooks';

/** For whom what is going on is done, so that those who ask for much do not keep others waiting. */
const asking = new AsyncLocalStorage<{ person: string }>();

/** Begins something whose asker is not known yet. */
export const withAsker = (act: () => void): void => asking.run({ person: '' }, act);
export function setAsker(person: string): void {
  const store = asking.getStore();
  if (store) store.person = person;
}
/** The id of the person; empty for what the server does by itself. */
export const currentAsker = (): string => asking.getStore()?.person ?? '';
