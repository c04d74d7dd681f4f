import { expect, type Locator, type Page } from '@playwright/test';

/** Waits until an opened page has the caret: keys pressed before go nowhere. */
export const hasCaret = (page: Page): Promise<void> =>
  expect(page.locator('.ProseMirror')).toBeFocused();

/**
 * Makes a topic or map and opens it. It is made in the Library as people do it where that is the
 * subject (`templates.test.ts`, `keyboard.test.ts`).
 */
export async function newTopic(
  page: Page,
  kind: 'Concept' | 'Task' | 'Map',
  title: string,
): Promise<void> {
  const data = { type: kind.toLowerCase(), title };
  const answer = await page.request.post(`${await projectOf(page)}/items`, { data });
  expect(answer.ok(), await answer.text()).toBe(true);
  const { id } = (await answer.json()) as { id: string };
  await page.goto(`/${kind === 'Map' ? 'arrange' : 'write'}/${id}`);
  await expect(
    kind === 'Map' ? page.getByRole('heading', { name: title }) : page.locator('.ProseMirror'),
  ).toContainText(title);
  if (kind !== 'Map') await hasCaret(page);
}
/** Where the API has the project, as `/api/projects/ID`. */
export async function projectOf({ request }: Page): Promise<string> {
  const session = (await (await request.get('/api/session')).json()) as {
    projects: { id: string }[];
  };
  return `/api/projects/${session.projects[0]!.id}`;
}
/** Finds a topic, map or image by its name in the field that chooses one, and takes it. */
export async function pickFound(
  within: Page | Locator,
  label: string,
  title: string,
): Promise<void> {
  const field = within.getByLabel(label, { exact: true });
  await field.click();
  await field.fill(title);
  const page = 'page' in within ? within.page() : within;
  await page.locator('.n-base-select-option').getByText(title, { exact: true }).click();
}
/** The text of the open topic or map as the server has it. */
export const stored = async (page: Page): Promise<string> => {
  const id = new URL(page.url()).pathname.split('/').at(-1)!;
  const project = await projectOf(page);
  const item = (await (await page.request.get(`${project}/items/${id}`)).json()) as {
    text: string;
  };
  return item.text;
};
export const isSaved = (page: Page) =>
  expect(page.getByText('Saved', { exact: true })).toBeVisible();

/** Opens the palette at the caret and takes the best answer to the query. */
export async function choose(page: Page, query: string): Promise<void> {
  await page.keyboard.press('Control+Space');
  await page.getByRole('combobox', { name: 'What can go here' }).fill(query);
  await page.keyboard.press('Enter');
}
