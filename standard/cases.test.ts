import { describe, expect, it } from 'vitest';
import { addresses } from './cases/addressing.ts';
import { arranging } from './cases/arranging.ts';
import { borrowing } from './cases/borrowing.ts';
import { cascading } from './cases/cascading.ts';
import { files } from './cases/files.ts';
import { flags } from './cases/flagging.ts';
import { foreign } from './cases/foreign.ts';
import { glossary } from './cases/glossary.ts';
import { hostile } from './cases/hostile.ts';
import { images } from './cases/images.ts';
import { keys } from './cases/keys.ts';
import { languages } from './cases/languages.ts';
import { linking } from './cases/linking.ts';
import { maps } from './cases/maps.ts';
import { metadata } from './cases/metadata.ts';
import { notes } from './cases/notes.ts';
import { relating } from './cases/relating.ts';
import { said } from './cases/said.ts';
import { safety } from './cases/safety.ts';
import { schemes } from './cases/schemes.ts';
import { specialising } from './cases/specialising.ts';
import { tables } from './cases/tables.ts';
import { technical } from './cases/technical.ts';
import { titles } from './cases/titles.ts';
import type { Cases } from './case.ts';
import { faultsOf } from './finding.ts';
import { publish } from './road.ts';

const suites: Readonly<Record<string, Cases>> = {
  addresses,
  arranging,
  borrowing,
  cascading,
  files,
  flags,
  foreign,
  glossary,
  hostile,
  images,
  keys,
  languages,
  linking,
  maps,
  metadata,
  notes,
  relating,
  safety,
  said,
  schemes,
  specialising,
  tables,
  technical,
  titles,
};

describe.each(Object.entries(suites))('%s', (_name, cases) => {
  it.each(Object.entries(cases))('%s', async (_what, one) => {
    expect(faultsOf(one, await publish(one))).toEqual([]);
  });
});
