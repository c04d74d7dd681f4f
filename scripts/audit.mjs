#!/usr/bin/env node
/**
 * `npm run audit`: what the lock file lets in. Each package has a checksum and comes from the
 * registry that npm is set to, nothing runs at its installation, it runs on the oldest Node that the
 * program does, and, where the registry tells of known weaknesses, there is none that is high or
 * critical.
 */
import { spawnSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import semver from 'semver';
import { root } from './prepare.mjs';

const npm = (...args) => spawnSync('npm', args, { cwd: root, encoding: 'utf8' }).stdout.trim();
const { packages } = JSON.parse(readFileSync(join(root, 'package-lock.json'), 'utf8'));
const faults = [];

for (const [path, { integrity, link, resolved, inBundle }] of Object.entries(packages)) {
  if (!path.startsWith('node_modules/') || link || inBundle) continue;
  if (!integrity?.startsWith('sha512-')) faults.push(`${path} has no SHA-512 checksum`);
  if (resolved) faults.push(`${path} is fetched from ${resolved}`);
}
const { engines } = JSON.parse(readFileSync(join(root, 'package.json'), 'utf8'));
const oldestNode = semver.minVersion(engines.node);
for (const [path, { version, engines: needs }] of Object.entries(packages))
  if (needs?.node && !semver.satisfies(oldestNode, needs.node))
    faults.push(`${path} ${version} needs Node ${needs.node}, not ${oldestNode}`);
if (npm('config', 'get', 'ignore-scripts') !== 'true')
  faults.push('scripts of packages would run at installation');

let report = {};
try {
  report = JSON.parse(npm('audit', '--json'));
} catch {
  // no answer
}
if (report.vulnerabilities) {
  for (const { name, severity } of Object.values(report.vulnerabilities))
    if (severity === 'high' || severity === 'critical')
      faults.push(`${name} has a known weakness that is ${severity}`);
} else console.log('the registry does not tell of known weaknesses');

for (const fault of faults) console.error(fault);
console.log(`${Object.keys(packages).length} packages, ${faults.length} faults`);
process.exit(faults.length > 0 ? 1 : 0);
