/**
 * Requests that are made while the program is still being read. This file comes with the very first
 * script, so it imports nothing.
 */
const answers = new Map<string, Promise<Response>>();
/**
 * Milliseconds after which an answer is no longer news. Long enough for a slow machine to read the
 * program: an event of a change drops answers at once.
 */
const longest = 60_000;

/** @param path below `/api` */
export function askEarly(path: string): Promise<Response> {
  const answer = fetch(`/api${path}`);
  answers.set(path, answer);
  setTimeout(() => answers.delete(path), longest);
  return answer;
}

/** Drops answers that nobody has taken: something has changed since. */
export const forgetEarlyAnswers = (): void => answers.clear();

/**
 * The answer to an early request, for one who asks the same; each is given once.
 * @returns undefined where there was none, or it failed
 */
export async function earlyAnswer(path: string): Promise<Response | undefined> {
  const answer = answers.get(path);
  answers.delete(path);
  return answer?.catch(() => undefined);
}
