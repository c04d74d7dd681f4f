import { problem, type Problem } from '../problems/index.ts';
import { contrast } from './colour.ts';

export const lookLayouts = ['contents beside', 'chapters along the top', 'tiles first'] as const;
export type LookLayout = (typeof lookLayouts)[number];

/** What each colour of a help site is for. */
export const lookColours = {
  paper: 'Paper',
  tint: 'Grounds',
  ink: 'Words',
  soft: 'Quiet words',
  hair: 'Rules',
  accent: 'Links and numbers',
  wash: 'Where one is',
  bar: 'Head',
  barInk: 'Words of the head',
  alarm: 'Alarm',
} as const;
export type LookColour = keyof typeof lookColours;
/** Each as `#rrggbb`. */
export type LookColours = Readonly<Record<LookColour, string>>;

/**
 * How a help site is laid out and coloured, and what stands around its pages; what is in the pages
 * is styled by a style sheet.
 */
export interface SiteLook {
  readonly name: string;
  readonly about: string;
  readonly layout: LookLayout;
  readonly colours: { readonly day: LookColours; readonly night: LookColours };
  /** An image of the library before the name; height in pixels. */
  readonly logo: { readonly asset: string; readonly height: number } | null;
  /** An image of the library that browsers show beside the title. */
  readonly favicon: string | null;
  /** Words beside the name. */
  readonly caption: string;
  readonly links: readonly { readonly label: string; readonly href: string }[];
  readonly footer: string;
  /**
   * A mail address or the address of a form: readers write there what they miss. Empty for none.
   */
  readonly feedback: string;
  /** Width of a line, in characters. */
  readonly reading: number;
  /** Below these widths, in pixels, contents come out of the side, and over the whole screen. */
  readonly tablet: number;
  readonly phone: number;
  /** The last resort: rules of one's own, after all others. */
  readonly css: string;
}

const harbour: SiteLook = {
  name: 'Harbour',
  about: 'Contents beside the text, a deep blue head: for work with many pages.',
  layout: 'contents beside',
  colours: {
    day: {
      paper: '#fffdf8',
      tint: '#f6f2e8',
      ink: '#1f2431',
      soft: '#565d6e',
      hair: '#ddd4c2',
      accent: '#1c4587',
      wash: '#e6edf6',
      bar: '#12305f',
      barInk: '#fffdf8',
      alarm: '#b93a25',
    },
    night: {
      paper: '#171b26',
      tint: '#1f2533',
      ink: '#e8e4da',
      soft: '#a9b0c0',
      hair: '#353d4f',
      accent: '#9dbcf0',
      wash: '#25304a',
      bar: '#101828',
      barInk: '#fffdf8',
      alarm: '#f08a73',
    },
  },
  logo: null,
  favicon: null,
  caption: '',
  links: [],
  footer: '',
  feedback: '',
  reading: 68,
  tablet: 900,
  phone: 600,
  css: '',
};

/** What ships, by id; the first is what editions begin with. */
export const shippedLooks: Readonly<Record<string, SiteLook>> = {
  harbour,
  lighthouse: {
    ...harbour,
    name: 'Lighthouse',
    about:
      'Chapters along the top of a white page, one green: for short guides that are read through.',
    layout: 'chapters along the top',
    colours: {
      day: {
        paper: '#ffffff',
        tint: '#f2f5f2',
        ink: '#20262a',
        soft: '#566066',
        hair: '#d7dfda',
        accent: '#1d6250',
        wash: '#e2efe9',
        bar: '#ffffff',
        barInk: '#20262a',
        alarm: '#b0331f',
      },
      night: {
        paper: '#151a19',
        tint: '#1d2422',
        ink: '#e6ebe7',
        soft: '#a7b3ad',
        hair: '#33403b',
        accent: '#8fd0b8',
        wash: '#21362f',
        bar: '#101413',
        barInk: '#e6ebe7',
        alarm: '#f29480',
      },
    },
    reading: 72,
  },
  slipway: {
    ...harbour,
    name: 'Slipway',
    about:
      'Tiles on the first page, contents only when they are asked for: for readers who come ' +
      'for one thing.',
    layout: 'tiles first',
    colours: {
      day: {
        paper: '#fbfaf8',
        tint: '#efece6',
        ink: '#26221f',
        soft: '#625a52',
        hair: '#d8d0c4',
        accent: '#7a3b14',
        wash: '#f4e6da',
        bar: '#33291f',
        barInk: '#fbf6ee',
        alarm: '#a82d1c',
      },
      night: {
        paper: '#1a1714',
        tint: '#24201c',
        ink: '#ece5db',
        soft: '#b8ada0',
        hair: '#41392f',
        accent: '#eab58c',
        wash: '#3a2c20',
        bar: '#120f0c',
        barInk: '#fbf6ee',
        alarm: '#f39583',
      },
    },
    reading: 64,
  },
};

/** Words on what they stand on; text must be readable (WCAG 2.2, 1.4.3). */
const pairs: readonly (readonly [words: LookColour, ground: LookColour])[] = [
  ['ink', 'paper'],
  ['ink', 'tint'],
  ['soft', 'paper'],
  ['soft', 'tint'],
  ['accent', 'paper'],
  ['accent', 'tint'],
  ['accent', 'wash'],
  ['barInk', 'bar'],
  ['alarm', 'paper'],
];
const readable = 4.5;

/** Colours that are too much alike to be read, by day and by night. */
export function unreadable({ day, night }: SiteLook['colours']): {
  readonly at: 'day' | 'night';
  readonly words: LookColour;
  readonly ground: LookColour;
  readonly share: number;
}[] {
  return (['day', 'night'] as const).flatMap((at) =>
    pairs.flatMap(([words, ground]) => {
      const colours = at === 'day' ? day : night;
      const share = contrast(colours[words], colours[ground]);
      return share < readable ? [{ at, words, ground, share }] : [];
    }),
  );
}

/**
 * Rules that fetch something or run something. A site fetches nothing from other servers, so that
 * its readers cannot be tracked.
 */
const reachesOut =
  /@import|url\(\s*['"]?\s*(?:[a-z][a-z\d+.-]*:|\/\/)|expression\s*\(|-moz-binding|behavior\s*:/iu;

/**
 * As a browser reads it: without comments, and with what is written as a code (CSS Syntax Level 3,
 * 4.3.7).
 */
const plainly = (css: string): string =>
  css
    .replace(/\/\*[\s\S]*?(\*\/|$)/gu, '')
    .replace(/\\([\da-f]{1,6})\s?/giu, (_code, hex: string) => {
      const code = Number.parseInt(hex, 16);
      return code > 0x10_ffff ? '' : String.fromCodePoint(code);
    })
    .replace(/\\/gu, '');

/** Rules of one’s own that may be used; undefined where they reach out of the site. */
export const ownRules = ({ css }: SiteLook): string | undefined =>
  reachesOut.test(plainly(css)) ? undefined : css;

/** Problems `look.contrast`, `look.css`, `look.widths`. */
export function checkLook(look: SiteLook): Problem[] {
  return [
    ...unreadable(look.colours).map(({ at, words, ground, share }) =>
      problem(
        'warning',
        'look.contrast',
        `“${lookColours[words]}” on “${lookColours[ground]}” has a contrast of ` +
          `${share.toFixed(1)} by ${at}; to be read it needs ${readable}.`,
      ),
    ),
    ...(ownRules(look) === undefined
      ? [
          problem(
            'error',
            'look.css',
            'The rules of one’s own fetch something from elsewhere. They are left out.',
          ),
        ]
      : []),
    ...(look.phone > look.tablet
      ? [
          problem(
            'error',
            'look.widths',
            'A phone is wider than a tablet here. Make the width of phones the smaller one.',
          ),
        ]
      : []),
  ];
}

const names: Readonly<Record<LookColour, string>> = {
  paper: '--paper',
  tint: '--tint',
  ink: '--ink',
  soft: '--soft',
  hair: '--hair',
  accent: '--accent',
  wash: '--wash',
  bar: '--bar',
  barInk: '--bar-ink',
  alarm: '--alarm',
};

/** The rules of a look: its colours by day and by night, and the width of a line. */
export function lookRules({ colours, reading }: SiteLook): string {
  const declared = (of: LookColours): string =>
    (Object.keys(names) as LookColour[])
      .map((colour) => `${names[colour]}: ${of[colour]};`)
      .join(' ');
  return (
    `:root { ${declared(colours.day)} --reading: ${reading}ch; }\n` +
    `@media (prefers-color-scheme: dark) { :root { ${declared(colours.night)} } }\n`
  );
}
