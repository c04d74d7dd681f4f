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
  italic: 'i varname var term cite',
  underlined: 'u shortcut',
  superscript: 'sup',
  subscript: 'sub',
  struck: 'line-through',
  code:
    'tt codeph userinput systemoutput filepath cmdname apiname option parmname synph msgnum ' +
    'markupname kwd oper delim sep repsep',
  control: 'uicontrol wintitle',
  quoted: 'q',
};
const styles = new Map(
  Object.entries(phrases).flatMap(([style, names]) =>
    names.split(' ').map((name) => [name, style as InlineStyle] as const),
  ),
);

/**
 * The inline style of a phrase; undefined where it reads as the line does. Names of XML are told
 * apart by the signs around them.
 */
export const inlineStyleOf = (name: string): InlineStyle | undefined =>
  styles.get(name) ?? (name in xmlSigns ? 'code' : undefined);

/** What is written before and after the name of something in XML (XML 1.0, 2 to 4). */
const xmlSigns: Readonly<Record<string, readonly [string, string]>> = {
  xmlelement: ['<', '>'],
  xmlatt: ['@', ''],
  textentity: ['&', ';'],
  parameterentity: ['%', ';'],
  numcharref: ['&#', ';'],
  xmlnsname: ['', ''],
  xmlpi: ['<?', '?>'],
};

/** The signs around the words of an element; none for most. */
export const signsAround = (name: string): readonly [string, string] => xmlSigns[name] ?? ['', ''];
