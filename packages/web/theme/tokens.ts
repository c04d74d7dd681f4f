import { pigments } from '@ukiyo/core/facets';
import type { GlobalThemeOverrides } from 'naive-ui';

/**
 * The colours of the workshop by day and by night: the one source of CSS variables and of the theme
 * of components.
 */
interface Tokens {
  paper: string;
  paperDeep: string;
  sheet: string;
  ink: string;
  soft: string;
  faint: string;
  hair: string;
  prussian: string;
  deep: string;
  wash: string;
  seal: string;
  pine: string;
  amber: string;
  wisteria: string;
  teal: string;
  rust: string;
  plum: string;
  moss: string;
  slate: string;
  onDeep: string;
}

const day: Tokens = {
  paper: '#f8f4ea',
  paperDeep: '#efe8d9',
  sheet: '#fffdf8',
  ink: '#1f2431',
  soft: '#565d6e',
  faint: '#6f7584',
  hair: '#ddd4c2',
  prussian: '#1c4587',
  deep: '#12305f',
  wash: '#dfe8f4',
  seal: '#b8361f',
  pine: '#2f6b4f',
  amber: '#8a5a00',
  wisteria: '#6d5a9e',
  teal: '#1b6f78',
  rust: '#9a4a1e',
  plum: '#8f3a6b',
  moss: '#5c6420',
  slate: '#46617f',
  onDeep: '#fffdf8',
};

const night: Tokens = {
  paper: '#161a24',
  paperDeep: '#11141c',
  sheet: '#1d2333',
  ink: '#ece7db',
  soft: '#b3b8c6',
  faint: '#8f96a8',
  hair: '#343c50',
  prussian: '#9dbcf0',
  deep: '#23406f',
  wash: '#2a3654',
  seal: '#f08a73',
  pine: '#7fc4a0',
  amber: '#e0b35a',
  wisteria: '#b9a6ea',
  teal: '#74c3cb',
  rust: '#e8a07a',
  plum: '#e39ac6',
  moss: '#bcc57a',
  slate: '#9fb9d6',
  onDeep: '#fffdf8',
};

const tokensOf = (dark: boolean): Tokens => (dark ? night : day);

/** The colour of the person or thing at a place in a row, counted from 0. */
export const pigmentOf = (place: number): string => `var(--${pigments[place % pigments.length]!})`;

const fonts = {
  title: "'Newsreader Variable', Georgia, serif",
  text: "'Source Sans 3 Variable', system-ui, sans-serif",
  code: "'JetBrains Mono Variable', ui-monospace, monospace",
};

/** Puts the tokens where styles read them. */
export function applyTokens(dark: boolean): void {
  const { style, dataset } = document.documentElement;
  for (const [name, value] of Object.entries(tokensOf(dark)))
    style.setProperty(
      `--${name.replace(/[A-Z]/gu, (letter) => `-${letter.toLowerCase()}`)}`,
      value as string,
    );
  for (const [name, value] of Object.entries(fonts)) style.setProperty(`--font-${name}`, value);
  dataset['theme'] = dark ? 'dark' : 'light';
  style.colorScheme = dark ? 'dark' : 'light';
}

/** The theme of the component library, from the same tokens. */
export function themeOverrides(dark: boolean): GlobalThemeOverrides {
  const token = tokensOf(dark);
  return {
    common: {
      fontFamily: fonts.text,
      fontFamilyMono: fonts.code,
      fontSize: '15px',
      fontSizeMedium: '15px',
      fontSizeSmall: '13px',
      borderRadius: '4px',
      borderRadiusSmall: '4px',
      primaryColor: token.prussian,
      primaryColorHover: token.prussian,
      primaryColorPressed: token.deep,
      primaryColorSuppl: token.prussian,
      errorColor: token.seal,
      errorColorHover: token.seal,
      warningColor: token.amber,
      successColor: token.pine,
      infoColor: token.prussian,
      bodyColor: token.paper,
      cardColor: token.sheet,
      modalColor: token.sheet,
      popoverColor: token.sheet,
      tableColor: token.sheet,
      inputColor: token.sheet,
      textColorBase: token.ink,
      textColor1: token.ink,
      textColor2: token.ink,
      textColor3: token.soft,
      placeholderColor: token.faint,
      borderColor: token.hair,
      dividerColor: token.hair,
      hoverColor: token.wash,
    },
    Button: {
      textColorPrimary: dark ? '#12182a' : '#fffdf8',
      textColorHoverPrimary: dark ? '#12182a' : '#fffdf8',
      textColorFocusPrimary: dark ? '#12182a' : '#fffdf8',
      textColorPressedPrimary: '#fffdf8',
    },
    // What can be ticked stands out from its ground by 3 : 1 (WCAG 2.2, 1.4.11).
    Checkbox: { border: `1px solid ${token.faint}` },
    Radio: { boxShadow: `inset 0 0 0 1px ${token.faint}` },
    Tooltip: { color: token.deep, textColor: token.onDeep },
  };
}
