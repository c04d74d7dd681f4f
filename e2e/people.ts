import type { Page } from '@playwright/test';

/**
 * Signs one of the people of the demo in and opens the Library, or another address. The form itself
 * is filled in where the server dies (`crash.test.ts`).
 */
export async function signIn(
  page: Page,
  name: 'ada' | 'teo' | 'noor' | 'ines' | 'mira' = 'teo',
  address = '/library',
): Promise<void> {
  const answer = await page.request.post('/api/session', {
    data: { email: `${name}@brinewell.example`, password: 'lanternfish' },
  });
  if (!answer.ok())
    throw new Error(`${name} cannot sign in: ${answer.status()} ${await answer.text()}`);
  await page.goto(address);
  if (address === '/library') await page.getByLabel('Filter topics').waitFor();
}
