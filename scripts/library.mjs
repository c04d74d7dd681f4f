#!/usr/bin/env node
/** `npm run library -- out FILE.zip` and `-- in FILE.zip`, against a running server. */
import { openAsBlob } from 'node:fs';
import { writeFile } from 'node:fs/promises';
import { basename } from 'node:path';
import { isAccountSet, signIn } from './asking.mjs';

const [direction, file] = process.argv.slice(2);
if (!['in', 'out'].includes(direction) || !file || !isAccountSet) {
  console.error('Usage: UKIYO_EMAIL=… UKIYO_PASSWORD=… npm run library -- out|in FILE.zip');
  process.exit(2);
}

try {
  const { project, ask } = await signIn();
  if (direction === 'out') {
    const answer = await ask('/package');
    await writeFile(file, Buffer.from(await answer.arrayBuffer()));
    console.log(`${project.name} is in ${file}`);
  } else {
    const form = new FormData();
    form.append('file', await openAsBlob(file), basename(file));
    const report = await (await ask('/package', { method: 'POST', body: form })).json();
    for (const { severity, message } of report.problems) console.log(`${severity}: ${message}`);
    console.log(
      `${report.items} topics and maps, ${report.assets} images, ${report.lenses} lenses, ` +
        `${report.editions} editions taken in`,
    );
  }
} catch (error) {
  console.error(error instanceof Error ? error.message : error);
  process.exit(1);
}
