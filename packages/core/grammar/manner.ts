/** How the words of a phrase are set apart from the line; each renderer has its own sign for it. */
export type Manner =
  | 'bold'
  | 'italic'
  | 'underlined'
  | 'superscript'
  | 'subscript'
  | 'struck'
  | 'code'
  | 'control'
  | 'quoted';

const phrases: Readonly<Record<Manner, string>> = {
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
const manners = new Map(
  Object.entries(phrases).flatMap(([manner, names]) =>
    names.split(' ').map((name) => [name, manner as Manner] as const),
  ),
);

/** The manner of a phrase; undefined where it reads as the line does. */
export const mannerOf = (name: string): Manner | undefined => manners.get(name);
