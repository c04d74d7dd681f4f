#!/usr/bin/env node
/**
 * No exported name has two meanings: prints every name that two files of the packages export, and
 * fails if there is one. A schema of `contracts` may have the name of the type that it describes.
 */
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { root } from './prepare.mjs';

const exported =
  /^export (?:async )?(?:const|let|function\*?|class|abstract class|interface|type|enum) (\w+)/gmu;
const isLeftOut = (file) =>
  /(^|\/)(node_modules|dist)\/|^contracts\/|\.test\.ts$/u.test(file) || !file.endsWith('.ts');
const packages = join(root, 'packages');
const files = readdirSync(packages, { recursive: true }).filter((file) => !isLeftOut(file));
const places = new Map();
for (const file of files.sort()) {
  const names = readFileSync(join(packages, file), 'utf8').matchAll(exported);
  // Overloads and a type beside its value have one name in one file.
  for (const name of new Set([...names].map(([, name]) => name)))
    places.set(name, [...(places.get(name) ?? []), file]);
}
const twice = [...places].filter(([, where]) => where.length > 1);
for (const [name, where] of twice) console.error(`${name}: ${where.join(', ')}`);
process.exitCode = twice.length > 0 ? 1 : 0;
