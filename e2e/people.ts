import { expect, type Page } from '@playwright/test';

/** Signs one of the people of the demo in, through the page. */
export async function signIn(page: Page, name: 'ada' | 'teo' | 'noor' | 'ines' | 'mira' = 'teo'): Promise<void> {
  await page.goto('/sign-in');
  await page.getByLabel('E-mail').fill(`${name}@brinewell.example`);
  await page.getByLabel('Password').fill('lanternfish');
  await page.getByRole('button', { name: 'Sign in' }).click();
  await expect(page).toHaveURL(/\/library$/u);
}
