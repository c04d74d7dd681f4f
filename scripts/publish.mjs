#!/usr/bin/env node
/**
 * Builds an edition on a running server and takes away what was built: for nobody who watches. `npm
 * run publish -- --help` lists the options.
 */
import { mkdir, writeFile } from 'node:fs/promises';
import { basename, join } from 'node:path';
import { parseArgs } from 'node:util';
import { isAccountSet, signIn } from './asking.mjs';

const severities = ['error', 'warning', 'info'];
const help = `UKIYO_TOKEN=… npm run publish -- --edition NAME [options]
  --edition NAME   the edition; more than one may be named
  --locale LOCALE  in this language instead of that of the edition; more than one may be named
  --fail-on SEVERITY
                   end with 1 where a problem is an ${severities.join(', ')} or worse (error)
  --out FOLDER     put what was built there
Instead of a token, which one makes under Publish, UKIYO_EMAIL and UKIYO_PASSWORD say who asks;
UKIYO_URL says where the server is.
`;
const { values } = parseArgs({
  options: {
    edition: { type: 'string', multiple: true, default: [] },
    locale: { type: 'string', multiple: true, default: [] },
    'fail-on': { type: 'string', default: 'error' },
    out: { type: 'string' },
    help: { type: 'boolean' },
  },
});
if (values.help) {
  process.stdout.write(help);
  process.exit(0);
}
if (values.edition.length === 0 || !severities.includes(values['fail-on']) || !isAccountSet) {
  process.stderr.write(help);
  process.exit(2);
}

/** @returns whether it was built, and without a problem that must not be there */
async function publish(name, locale, editions, ask) {
  const edition = editions.find((one) => one.name === name);
  if (!edition)
    throw new Error(
      `There is no edition “${name}”. There are: ${editions.map((one) => one.name).join(', ')}.`,
    );
  const asked =
    locale === undefined
      ? {}
      : { headers: { 'content-type': 'application/json' }, body: JSON.stringify({ locale }) };
  let impression = await (
    await ask(`/editions/${edition.id}/impressions`, { method: 'POST', ...asked })
  ).json();
  let told = '';
  while (['queued', 'running'].includes(impression.state)) {
    await new Promise((resolve) => setTimeout(resolve, 300));
    impression = await (await ask(`/impressions/${impression.id}`)).json();
    if (impression.progress.step !== told)
      console.error(`${name}: ${(told = impression.progress.step)}`);
  }
  const { state, number, figures, problems } = impression;
  for (const { severity, message, where } of problems)
    console.log(`${severity}: ${message}${where.item === undefined ? '' : ` (${where.item})`}`);
  console.log(
    `${name}, number ${number}: ${state}, ${figures.pages} pages, ${problems.length} problems`,
  );
  if (state === 'done' && values.out !== undefined) {
    await mkdir(values.out, { recursive: true });
    const file = await ask(`/impressions/${impression.id}/download`);
    const named = decodeURIComponent(
      file.headers.get('content-disposition')?.split("''")[1] ?? name,
    );
    const path = join(
      values.out,
      locale === undefined ? basename(named) : `${locale}-${basename(named)}`,
    );
    await writeFile(path, Buffer.from(await file.arrayBuffer()));
    console.log(`${name} is in ${path}`);
  }
  const fatal = severities.slice(0, severities.indexOf(values['fail-on']) + 1);
  return state === 'done' && !problems.some(({ severity }) => fatal.includes(severity));
}

try {
  const { ask } = await signIn();
  const editions = await (await ask('/editions')).json();
  const fine = [];
  for (const name of values.edition)
    for (const locale of values.locale.length === 0 ? [undefined] : values.locale)
      fine.push(await publish(name, locale, editions, ask));
  process.exit(fine.every(Boolean) ? 0 : 1);
} catch (error) {
  console.error(error instanceof Error ? error.message : error);
  process.exit(1);
}
