import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import {
  Agreements,
  BuildInput,
  DitavalText,
  EditionInput,
  FacetList,
  FrameReport,
  ItemQuery,
  LiveRequest,
  NewItem,
  SaveItem,
} from '@ukiyo/contracts';
import { applySteps, fromEditor, toEditor } from '@ukiyo/core/editing';
import { readDitaval } from '@ukiyo/core/facets';
import { writeCanonical } from '@ukiyo/core/grammar';
import { readItem } from '@ukiyo/core/library';
import { contentOfHtml } from '@ukiyo/core/html';
import { readMarkdown, writeMarkdown } from '@ukiyo/core/markdown';
import { element, readXml } from '@ukiyo/core/markup';
import { readPackage, unpackZip } from '@ukiyo/intake';
import { strToU8, zipSync } from 'fflate';
import { prepareText } from '../data/preparing.ts';
import { sanitiseImage } from '../media/image.ts';

/** Something that takes what comes from outside, and inputs that it is made for. */
interface Target {
  readonly name: string;
  readonly seeds: readonly Uint8Array[];
  /** Must neither throw nor take long, whatever it is given. */
  readonly take: (bytes: Uint8Array) => unknown;
}

const text = (bytes: Uint8Array): string => new TextDecoder().decode(bytes);
const json = (value: unknown): Uint8Array => strToU8(JSON.stringify(value));
const parsed = (bytes: Uint8Array): unknown => {
  try {
    return JSON.parse(text(bytes));
  } catch {
    return text(bytes);
  }
};

const topic =
  '<?xml version="1.0" encoding="UTF-8"?>' +
  '<!DOCTYPE task PUBLIC "-//OASIS//DTD DITA Task//EN" "task.dtd">' +
  '<task id="fit" product="tern-q"><title>Fit the <keyword keyref="part"/></title>' +
  '<shortdesc>At low water.</shortdesc><taskbody><prereq>' +
  '<note type="danger" conref="s.dita#s/n"/></prereq><steps><step><cmd>Drill.<fn>Wear ' +
  'gloves.</fn></cmd><info><table><tgroup cols="2"><colspec colname="a"/><tbody><row>' +
  '<entry namest="a" nameend="b" morerows="1">x</entry></row></tbody></tgroup></table></info>' +
  '</step></steps><result>&#x41;&amp;<![CDATA[<b>]]><!-- c --><?placeholder x?></result>' +
  '</taskbody></task>';
const svg =
  '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 20 10" width="1e9"><style>@media ' +
  'print{.a{fill:url(#h)}}</style><defs><pattern id="h"/></defs>' +
  '<g style="fill:red" transform="rotate(3)"><path d="M0 0L9 9"/><use href="#h"/>' +
  '<text>Tide</text></g></svg>';
const ditaval =
  '<val><prop action="exclude" att="product" val="tern-d"/>' +
  '<revprop action="flag" val="4.2" color="red"><startflag imageref="a.png">' +
  '<alt-text>x</alt-text></startflag></revprop>' +
  '<style-conflict foreground-conflict-color="red"/></val>';

const markdown = [
  '---\ntitle: x\n---\n# Fit the *bracket*\n\nAt low [water](tide.md "t")[^1].\n',
  '\n| a | b |\n|---|--:|\n| `x` | ~~y~~ |\n\n1. Drill\n   - [ ] twice\n\n> Note\n',
  '\n```sh\nread --all\n```\n\n![Cabinet](cabinet.svg)\n\n[^1]: Ebb.\n',
].join('');
const html = [
  '<body><h1>Fit</h1><p style="mso-list:l0 level1">One <b>two</b><br/><a href="x">y</a></p>',
  '<table><tr><th colspan="2" rowspan="3">a</th></tr>',
  '<tr><td><ul><li>b</li></ul></td></tr></table></body>',
].join('');

const { root } = readItem('fit', 'topic', topic);
const document = toEditor(root!);
const step = {
  stepType: 'replace',
  from: 2,
  to: 4,
  slice: { content: [{ type: 'p', content: [{ type: 'text', text: 'x' }] }], openStart: 1 },
};

/** Reads a package as an import does, from the disk. */
async function takePackage(bytes: Uint8Array): Promise<void> {
  const folder = await mkdtemp(join(tmpdir(), 'ukiyo-fuzz-'));
  try {
    const path = join(folder, 'package.zip');
    await writeFile(path, bytes);
    const files = await unpackZip(path, folder);
    if (!('code' in files)) readPackage(files);
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}

export const targets: readonly Target[] = [
  {
    name: 'texts',
    seeds: [strToU8(topic), strToU8('<map><topicref href="a.dita" keys="k"/></map>')],
    take: (bytes) => {
      const prepared = prepareText({ id: 'x', kind: 'topic', source: text(bytes), agreed: {} });
      // What was stored is read as it was written.
      const again = readXml(prepared.text).document;
      if (again && writeCanonical(again.root) !== prepared.text)
        throw new Error('The canonical text is not its own canonical text');
    },
  },
  {
    name: 'documents',
    seeds: [strToU8(topic)],
    take: (bytes) => {
      const read = readItem('x', 'topic', text(bytes)).root;
      if (read) fromEditor(toEditor(read));
    },
  },
  {
    name: 'drawings',
    seeds: [strToU8(svg), strToU8('GIF89a\x10\0\x10\0')],
    take: (bytes) => sanitiseImage(bytes, 'image/svg+xml'),
  },
  {
    name: 'packages',
    seeds: [zipSync({ 'a/b.dita': strToU8(topic), 'm.ditamap': strToU8('<map/>') })],
    take: takePackage,
  },
  {
    name: 'Markdown',
    seeds: [strToU8(markdown)],
    take: (bytes) => {
      const { root: read } = readMarkdown(text(bytes), element('topic', { id: 'x' }), 'elsewhere');
      if (read) writeMarkdown(read);
    },
  },
  {
    name: 'pasted HTML',
    seeds: [strToU8(html)],
    take: (bytes) => {
      const read = readXml(text(bytes)).document;
      if (read) contentOfHtml(read.root);
    },
  },
  { name: 'DITAVAL', seeds: [strToU8(ditaval)], take: (bytes) => readDitaval('x', text(bytes)) },
  {
    name: 'steps',
    seeds: [json([step]), json([{ stepType: 'addMark', mark: { type: 'b' }, from: 2, to: 3 }])],
    take: (bytes) => applySteps(document, [parsed(bytes)].flat()),
  },
  {
    name: 'messages of editors and frames',
    seeds: [
      json({ kind: 'steps', epoch: crypto.randomUUID(), version: 1, steps: [step] }),
      json({ kind: 'ready', page: 'index.html' }),
    ],
    take: (bytes) => {
      LiveRequest.safeParse(parsed(bytes));
      FrameReport.safeParse(parsed(bytes));
    },
  },
  {
    name: 'requests',
    seeds: [
      json({ type: 'concept', title: 'Tide', folder: 'a/b', template: 't' }),
      json({ name: 'E', output: 'print', map: 'm', lens: null, variables: {}, locale: 'en' }),
      json({ version: 1, rules: [], facts: [], words: { en: ['tern'] }, synonyms: {} }),
    ],
    take: (bytes) => {
      for (const shape of [
        Agreements,
        BuildInput,
        DitavalText,
        EditionInput,
        FacetList,
        ItemQuery,
        NewItem,
        SaveItem,
      ])
        shape.safeParse(parsed(bytes));
    },
  },
];
