import { expect, type Locator, type Page } from '@playwright/test';

/**
 * A page that opens takes the focus a moment later, and sets its caret: a click that came before
 * would be lost on a slow machine.
 */
export const pageRests = (page: Page): Promise<void> =>
  page.evaluate(
    () =>
      new Promise<void>((resolve) => {
        const end = performance.now() + 2000;
        const look = (): void =>
          void (document.activeElement?.matches('.ProseMirror') || performance.now() > end
            ? setTimeout(resolve, 60)
            : requestAnimationFrame(look));
        look();
      }),
  );

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
  if (kind !== 'Map') await pageRests(page);
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

/**
 * Presses a key that moves the caret, or that gives it back to the page, and waits until the page
 * has heard of it: browsers tell so in a task of its own, and for some 20 ms after the focus came
 * back the page sets the caret once more.
 */
export async function moveCaret(page: Page, key: string): Promise<void> {
  await page.keyboard.press(key);
  await page.evaluate(
    () => new Promise((resolve) => requestAnimationFrame(() => setTimeout(resolve, 30))),
  );
}

/**
 * Clicks into the page, and waits until it has heard where the caret is now: on a slow machine keys
 * come before that.
 */
export async function clickInto(place: Locator): Promise<void> {
  await place.click();
  await place
    .page()
    .evaluate(() => new Promise((resolve) => requestAnimationFrame(() => setTimeout(resolve, 60))));
}

/** Opens the palette at the caret and takes the best answer to the query. */
export async function choose(page: Page, query: string): Promise<void> {
  await page.keyboard.press('Control+Space');
  await page.getByRole('combobox', { name: 'What can go here' }).fill(query);
  await moveCaret(page, 'Enter');
}
