import { topic, type Cases } from '../case.ts';

const image = '3.2.2.17 image';
/** 80 to 40 pixels. */
const plan =
  '<svg xmlns="http://www.w3.org/2000/svg" width="80" height="40"><rect width="80" height="40"/>' +
  '</svg>';
const shown = (attributes: string): Record<string, string> => ({
  'a.dita': topic(
    'a',
    'Anchors',
    `<image href="plan.svg" placement="break" ${attributes}><alt>Plan</alt></image>`,
  ),
  'plan.svg': plan,
});

export const images: Cases = {
  'an image without a size is as large as it is': {
    section: image,
    files: shown(''),
    site: { has: { 'img[alt="Plan"][width="80"][height="40"]': 1 } },
  },
  'a width says the height': {
    section: image,
    files: shown('width="40px"'),
    site: { has: { 'img[width="40"][height="20"]': 1 } },
  },
  'a height says the width': {
    section: image,
    files: shown('height="1in"'),
    site: { has: { 'img[width="192"][height="96"]': 1 } },
  },
  'a number without a unit is pixels': {
    section: image,
    files: shown('width="160"'),
    site: { has: { 'img[width="160"][height="80"]': 1 } },
  },
  'of width and height both hold, whatever the shape': {
    section: image,
    files: shown('width="48" height="48"'),
    site: { has: { 'img[width="48"][height="48"][style*="48 / 48"]': 1 } },
  },
  'a scale is of the size that it has': {
    section: image,
    files: shown('scale="50"'),
    site: { has: { 'img[width="40"][height="20"]': 1 } },
  },
  'a scale beside a size does not count': {
    section: image,
    files: shown('scale="50" width="160"'),
    site: { has: { 'img[width="160"][height="80"]': 1 } },
  },
  'an image may be as wide as there is room': {
    section: image,
    files: shown('scalefit="yes"'),
    site: { has: { 'img[style*="100%"]': 1 } },
  },
  'a size goes before fitting': {
    section: image,
    files: shown('scalefit="yes" width="40"'),
    site: { has: { 'img[style*="100%"]': 0, 'img[width="40"]': 1 } },
  },
  'units are those of paper too': {
    section: image,
    files: shown('width="2.54cm"'),
    site: { has: { 'img[width="96"][height="48"]': 1 } },
  },
  'an image in a line stays in it': {
    section: image,
    files: {
      'a.dita': topic(
        'a',
        'Anchors',
        '<p>Press <image href="plan.svg"><alt>Plan</alt></image> now.</p>',
      ),
      'plan.svg': plan,
    },
    shows: ['Press', 'now.'],
    site: { has: { 'p img': 1 } },
  },
  'an image with a break stands on a line of its own': {
    section: image,
    files: {
      'a.dita': topic(
        'a',
        'Anchors',
        '<p>Before <image href="plan.svg" placement="break"><alt>Plan</alt></image> after.</p>',
      ),
      'plan.svg': plan,
    },
    shows: ['Before', 'after.'],
    site: { has: { 'p img': 0, '.picture img': 1 } },
  },
  'the attribute says in words what an image shows, where no element does': {
    section: '3.2.2.18 alt',
    files: {
      'a.dita': topic('a', 'Anchors', '<image href="plan.svg" alt="By attribute"/>'),
      'plan.svg': plan,
    },
    site: { has: { 'img[alt="By attribute"]': 1 } },
  },
  'an image on the web is led to, and that is said': {
    section: image,
    files: {
      'a.dita': topic(
        'a',
        'Anchors',
        '<image href="https://tides.example/plan.png" scope="external"><alt>Plan</alt></image>',
      ),
    },
    shows: ['Plan'],
    site: { links: ['Plan → https://tides.example/plan.png'] },
    problems: ['image.outside'],
  },
  'an image that is not there is reported': {
    section: image,
    files: { 'a.dita': topic('a', 'Anchors', '<image href="gone.svg"><alt>Plan</alt></image>') },
    shows: ['Plan'],
    problems: ['image.missing'],
  },
  'a link leads to the long description of an image': {
    section: '3.2.1.8 longdescref',
    files: {
      'a.dita': topic(
        'a',
        'Anchors',
        '<fig><image href="plan.svg"><alt>Plan</alt><longdescref href="b.dita"/></image></fig>',
      ),
      'b.dita': topic('b', 'The plan in words'),
      'plan.svg': plan,
    },
    shows: ['Description:', 'The plan in words'],
    site: { links: ['The plan in words → The plan in words'] },
  },
  'an attribute names the long description of an image': {
    section: '3.2.1.8 longdescref',
    files: {
      'a.dita': topic(
        'a',
        'Anchors',
        '<image href="plan.svg" longdescref="b.dita"><alt>Plan</alt></image><p>After.</p>',
      ),
      'b.dita': topic('b', 'The plan in words'),
      'plan.svg': plan,
    },
    shows: ['Description:', 'The plan in words', 'After.'],
    site: { links: ['The plan in words → The plan in words'] },
  },
  'a link to its long description stands behind an image in a line': {
    section: '3.2.1.8 longdescref',
    files: {
      'a.dita': topic(
        'a',
        'Anchors',
        '<p>The <b>plan <image href="plan.svg" longdescref="b.dita"><alt>Plan</alt></image></b> ' +
          'shows all.</p>',
      ),
      'b.dita': topic('b', 'The plan in words'),
      'plan.svg': plan,
    },
    shows: ['The plan', '(', 'The plan in words', ') shows all.'],
    site: { links: ['The plan in words → The plan in words'] },
  },
  'a long description lies outside': {
    section: '3.2.1.8 longdescref',
    files: {
      'a.dita': topic(
        'a',
        'Anchors',
        '<image href="plan.svg"><alt>Plan</alt><longdescref scope="external" ' +
          'href="https://brinewell.example/plan"/></image>',
      ),
      'plan.svg': plan,
    },
    shows: ['Description: https://brinewell.example/plan'],
  },
  'a long description that is not there is reported': {
    section: '3.2.1.8 longdescref',
    files: {
      'a.dita': topic(
        'a',
        'Anchors',
        '<image href="plan.svg" longdescref="gone.dita"><alt>Plan</alt></image><p>After.</p>',
      ),
      'plan.svg': plan,
    },
    shows: ['After.'],
    problems: ['link.unknown-target'],
  },
};
