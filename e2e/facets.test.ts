import { readFileSync } from 'node:fs';
import { expect, test, type Locator, type Page } from './test.ts';
import { faults } from './faults.ts';
import { isSaved, newTopic, stored } from './pages.ts';
import { openLibrary, signIn } from './people.ts';

/** Makes the facet “Weather” with two values, one within the other. */
async function makeWeather(page: Page, weather: Locator, form: Locator): Promise<void> {
  await page.getByLabel('Label of the new facet').fill('Weather');
  await page.getByLabel('Attribute').selectOption('a name of its own');
  await page.getByLabel('Name of the new facet').fill('weather');
  await page.getByRole('button', { name: 'Add a facet' }).click();
  await weather.getByRole('button', { name: 'Add a value to Weather' }).click();
  await form.getByLabel('Label').fill('Heavy sea');
  await form.getByLabel('Pigment').selectOption('plum');
  await form.getByLabel('What it means').fill('Waves above two metres.');
  await page.keyboard.press('Enter');
  await expect(weather.getByText('HS', { exact: true })).toHaveCSS('color', 'rgb(143, 58, 107)');
  await weather.getByRole('button', { name: 'Add a value within Heavy sea' }).click();
  await form.getByLabel('Label').fill('Storm');
  await page.keyboard.press('Enter');
  await expect(weather.locator('.nested').getByText('Storm', { exact: true })).toBeVisible();
  await expect(weather.getByText('Waves above two metres.')).toBeVisible();
}

test('facet values are added, nested, renamed and retired, and kept while in use', async ({
  page,
}) => {
  await openLibrary(page);
  await page.getByRole('link', { name: 'Facets and lenses' }).click();
  const screen = page.getByRole('main', { name: 'Facets and lenses' });
  const weather = page.getByRole('region', { name: 'Weather' });
  const form = weather.getByRole('form', { name: 'Value' });

  await test.step('a facet and its values are made', () => makeWeather(page, weather, form));
  await test.step('it is picked in a topic', async () => {
    await newTopic(page, 'Concept', 'In heavy weather');
    await page.locator('.ProseMirror .is-conbody > p').click();
    await page.getByRole('tab', { name: 'Details' }).click();
    await page
      .getByRole('region', { name: 'Details' })
      .locator('.field', { hasText: 'Weather' })
      .locator('.n-base-selection')
      .click();
    await page.getByText('Heavy sea').click();
    await isSaved(page);
    expect(await stored(page)).toContain('props="weather(heavy-sea)"');
  });
  const topic = page.url();
  await test.step('it is renamed everywhere, after saying how many places that is', async () => {
    await page.goto('/facets');
    await weather.getByRole('button', { name: '1 place in 1' }).click();
    await expect(
      page.getByRole('region', { name: 'Where Heavy sea is set' }).getByRole('link'),
    ).toHaveText('In heavy weather');
    await weather.getByRole('button', { name: 'Remove Heavy sea' }).click();
    await expect(page.getByText(/“Heavy sea” is set at 1 place/u)).toBeVisible();
    await weather.getByRole('button', { name: 'Change Heavy sea' }).click();
    await form.getByLabel('Name in the texts').fill('rough');
    await expect(form.getByRole('status')).toHaveText(/1 place in 1 topic or map.*“rough”/u);
    await form.getByRole('button', { name: 'Keep, and rename everywhere' }).click();
    await expect(page.getByText('Renamed in 1 topic or map.')).toBeVisible();
    await expect(weather.getByText('rough', { exact: true })).toBeVisible();
    await page.goto(topic);
    await expect(page.locator('.ProseMirror')).toBeVisible();
    expect(await stored(page)).toContain('props="weather(rough)"');
  });
  await test.step('a retired value stays where it is set and is offered no more', async () => {
    await page.goto('/facets');
    await weather.getByRole('button', { name: 'Change Heavy sea' }).click();
    await form.getByText('Retired').click();
    await form.getByRole('button', { name: 'Keep', exact: true }).click();
    await expect(weather.locator('.retired')).toContainText('Heavy sea');
    await page.goto(topic);
    await page.locator('.ProseMirror .is-conbody > p').click();
    await page.getByRole('tab', { name: 'Details' }).click();
    const field = page
      .getByRole('region', { name: 'Details' })
      .locator('.field', { hasText: 'Weather' });
    await expect(field).toContainText('Heavy sea');
    await field.locator('.n-base-selection').click();
    await expect(page.locator('.n-base-select-option', { hasText: 'Storm' })).toBeVisible();
    await expect(page.locator('.n-base-select-option', { hasText: 'Heavy sea' })).toHaveClass(
      /disabled/u,
    );
  });
  await page.goto('/facets');
  await expect(screen.getByRole('heading', { name: 'Weather' })).toBeVisible();
  expect(await faults(page)).toEqual([]);
});

test('writers read the facets and do not change them', async ({ page }) => {
  await signIn(page, 'noor', '/facets');
  await expect(
    page.getByRole('region', { name: 'Model' }).getByText('Tern Q', { exact: true }),
  ).toBeVisible();
  await expect(page.getByRole('button', { name: /Change|Add/u })).toHaveCount(0);
});

test('what a lens marks looks as it says, also through another lens', async ({ page }) => {
  await signIn(page, 'teo', '/facets');
  const make = async (name: string) => {
    await page.getByLabel('Name of the new lens').fill(name);
    await page.getByRole('button', { name: 'Make a lens' }).click();
    return page.getByRole('region', { name: `Lens ${name}` });
  };
  const marks = await make('Marks the sun');
  await marks.getByLabel('Power: Solar', { exact: true }).selectOption('mark');
  const look = marks.getByRole('group', { name: 'Look of Power: Solar', exact: true });
  await look.getByLabel('behind', { exact: true }).check();
  await look.getByLabel('Colour: behind').fill('#cfe8e4');
  await look.getByLabel('line beside').check();
  await look.getByLabel('bold').check();
  await look.getByLabel('Words before').fill('Sun:');
  const kept = page.waitForResponse(
    (answer) => answer.request().postData()?.includes('Sun:') === true,
  );
  await look.getByLabel('Words before').press('Tab');
  await kept;
  const front = await make('Holds the marks');
  await front.getByLabel('Marks the sun').check();
  await expect(front.getByLabel('Marks the sun')).toBeChecked();
  await page.getByLabel('Lens', { exact: true }).selectOption('Holds the marks');
  await newTopic(page, 'Concept', 'Marked by a lens');
  await page.locator('.ProseMirror .is-conbody > p').click();
  await page.keyboard.type('Face it south.');
  await page.keyboard.press('Control+;');
  await page.getByRole('combobox', { name: /only for/u }).fill('Solar');
  await page.keyboard.press('Enter');
  await page.keyboard.press('Escape');
  const marked = page.locator('.ProseMirror .lens-marked.lens-bar');
  await expect(marked).toHaveCSS('background-color', /207|0\.81/u);
  await expect(marked).toHaveCSS('font-weight', '700');
  await expect(marked.locator('.lens-words.starts')).toHaveText('Sun:');
  await page.goto('/facets');
  await page.getByLabel('Lens', { exact: true }).selectOption('every reader');
  for (const name of ['Holds the marks', 'Marks the sun']) {
    await page.getByRole('button', { name, exact: true }).click();
    await page.getByRole('button', { name: `Remove ${name}` }).click();
    await expect(page.getByRole('button', { name, exact: true })).toHaveCount(0);
  }
});

test('a list of lenses that was under way when one was made does not take it away again', async ({
  page,
}) => {
  await openLibrary(page);
  let isLate = true;
  await page.route(/\/lenses$/u, async (route) => {
    if (route.request().method() !== 'GET' || !isLate) return route.fallback();
    isLate = false;
    const answer = await route.fetch();
    await expect(page.getByRole('region', { name: 'Lens Made meanwhile' })).toBeVisible();
    await route.fulfill({ response: answer });
  });
  await page.goto('/facets');
  await page.getByLabel('Name of the new lens').fill('Made meanwhile');
  const again = page.waitForResponse(
    (answer) => answer.url().endsWith('/lenses') && answer.request().method() === 'GET' && !isLate,
  );
  await page.getByRole('button', { name: 'Make a lens' }).click();
  await again;
  await expect(page.getByRole('button', { name: 'installer-tern-q', exact: true })).toBeVisible();
  await expect(page.getByRole('region', { name: 'Lens Made meanwhile' })).toBeVisible();
  await page.getByRole('button', { name: 'Remove Made meanwhile' }).click();
  await expect(page.getByRole('button', { name: 'Made meanwhile', exact: true })).toHaveCount(0);
});

test('a lens is edited, applied at once, exported and imported as DITAVAL', async ({ page }) => {
  await signIn(page, 'teo', '/facets');
  await page.getByLabel('Name of the new lens').fill('Sun only');
  await page.getByRole('button', { name: 'Make a lens' }).click();
  const lens = page.getByRole('region', { name: 'Lens Sun only' });
  await lens.getByLabel('Power, the rest').selectOption('drop');
  await lens.getByLabel('Power: Solar', { exact: true }).selectOption('keep');
  await lens.getByLabel('Power: Solar, 90 W').selectOption('drop');
  // A value that says nothing follows the one that it is nested in.
  await expect(lens.getByRole('row', { name: /Solar, 40 W/u })).toHaveClass('keep');
  await expect(lens.getByRole('row', { name: /Mains/u })).toHaveClass('drop');
  await expect(lens.getByRole('row', { name: /Solar, 90 W/u })).toHaveClass('drop');

  const downloading = page.waitForEvent('download');
  await lens.getByRole('link', { name: 'as DITAVAL' }).click();
  const path = await (await downloading).path();
  const text = readFileSync(path, 'utf8');
  expect(text).toContain('<prop action="exclude" att="platform"/>');
  await page.getByLabel('Take a DITAVAL file in').setInputFiles({
    name: 'From elsewhere.ditaval',
    mimeType: 'application/xml',
    buffer: Buffer.from(text.replace('</val>', '<prop action="explode"/></val>')),
  });
  await expect(page.getByText(/unknown action “explode”/u)).toBeVisible();
  const taken = page.getByRole('region', { name: 'Lens From elsewhere' });
  await expect(taken.getByLabel('Power: Solar', { exact: true })).toHaveValue('keep');

  await page.getByLabel('Lens', { exact: true }).selectOption('Sun only');
  await page.goto('/write/connect-the-mains');
  await expect(page.locator('.ProseMirror .unseen').first()).toBeVisible();
  await page.goto('/facets');
  await page.getByLabel('Lens', { exact: true }).selectOption('every reader');
  for (const name of ['Sun only', 'From elsewhere']) {
    await page.getByRole('button', { name, exact: true }).click();
    await page.getByRole('button', { name: `Remove ${name}` }).click();
    await expect(page.getByRole('button', { name, exact: true })).toHaveCount(0);
  }
  await page.getByRole('button', { name: 'installer-tern-q', exact: true }).click();
  await page.getByRole('button', { name: 'Remove installer-tern-q' }).click();
  await expect(page.getByText(/used by “Tern Q Installation Manual”/u)).toBeVisible();
  expect(await faults(page)).toEqual([]);
});

test('a value that a text brought along is added to the list where it was met', async ({
  page,
}) => {
  await signIn(page);
  await newTopic(page, 'Concept', 'Brings a value along');
  const id = new URL(page.url()).pathname.split('/').at(-1)!;
  await page.goto('/library');
  await page.evaluate(async (item) => {
    const { projects } = (await (await fetch('/api/session')).json()) as {
      projects: { id: string }[];
    };
    const address = `/api/projects/${projects[0]!.id}/items/${item}`;
    const { text, version } = (await (await fetch(address)).json()) as {
      text: string;
      version: number;
    };
    const changed = text.replace(
      /<conbody>[\s\S]*<\/conbody>|<conbody\/>/u,
      '<conbody><p platform="wave">Bobs.</p></conbody>',
    );
    await fetch(address, {
      method: 'PUT',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ text: changed, version, note: '' }),
    });
  }, id);
  await page.goto(`/write/${id}`);
  await page.getByRole('tab', { name: /^Problems/u }).click();
  const panel = page.getByRole('tabpanel');
  await expect(panel).toContainText('“wave” is not a value of the facet “Power”.');
  await panel.getByRole('button', { name: 'Add “wave” to the list' }).click();
  await expect(panel.getByText('“wave” is not a value')).toHaveCount(0);
  await page.goto('/facets');
  await expect(
    page.getByRole('region', { name: 'Power' }).getByText('wave', { exact: true }).first(),
  ).toBeVisible();
});
