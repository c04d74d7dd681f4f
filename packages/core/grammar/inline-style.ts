/** How the words of a phrase are set apart from the line; each renderer has its own sign for it. */
export type InlineStyle =
  | 'bold'
  | 'italic'
  | 'underlined'
  | 'superscript'
  | 'subscript'
  | 'struck'
  | 'code'
  | 'control'
  | 'quoted';

const phrases: Readonly<Record<InlineStyle, string>> = {
  bold: 'b',
  italic: 'i varname term cite',
  underlined: 'u shortcut',
  superscript: 'sup',
  subscript: 'sub',
  struck: 'line-through',
  code: 'tt codeph userinput systemoutput filepath cmdname apiname option parmname synph msgnum',
  control: 'uicontrol wintitle',
  quoted: 'q',
};
const styles = new Map(
  Object.entries(phrases).flatMap(([style, names]) =>
    names.split(' ').map((name) => [name, style as InlineStyle] as const),
  ),
);

/** The inline style of a phrase; undefined where it reads as the line does. */
export const inlineStyleOf = (name: string): InlineStyle | undefined => styles.get(name);
