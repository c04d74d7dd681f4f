import type { Page } from '@playwright/test';

type Person = 'ada' | 'teo' | 'noor' | 'ines' | 'mira';

/**
 * Signs one of the people of the demo in, without opening a screen. The form itself is filled in
 * where the server dies (`crash.test.ts`).
 * @param address of the screen to open afterwards
 */
export async function signIn(page: Page, name: Person = 'teo', address?: string): Promise<void> {
  const answer = await page.request.post('/api/session', {
    data: { email: `${name}@brinewell.example`, password: 'lanternfish' },
  });
  if (!answer.ok())
    throw new Error(`${name} cannot sign in: ${answer.status()} ${await answer.text()}`);
  if (address !== undefined) await page.goto(address);
}

/** Signs in and opens the Library. */
export async function openLibrary(page: Page, name: Person = 'teo'): Promise<void> {
  await signIn(page, name, '/library');
  await page.getByLabel('Filter topics').waitFor();
}
