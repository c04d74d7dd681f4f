import { readXml, type Attributes, type Element, type XmlDocument } from '../markup/index.ts';

/**
 * What a file has beside its tree is kept in attributes of its elements, so that it goes out as it
 * came in; these are never exported themselves.
 */
export const keptAttributes = {
  /** What an element was called before it was generalised. */
  name: 'specialised',
  /** On a root: the attributes that were generalised to groups of `props`. */
  props: 'specialised-props',
  /** On a root: its document type; empty where there is to be none. */
  doctype: 'kept-doctype',
  /** On a root: comments and processing instructions outside. */
  before: 'kept-before',
  after: 'kept-after',
} as const;

const names: ReadonlySet<string> = new Set(Object.values(keptAttributes));

/** Whether an attribute only keeps what a file has beside its tree. */
export const isKept = (name: string): boolean => names.has(name);

/** Public identifiers of the document types (OASIS DITA 1.3, appendix). */
const doctypes: Readonly<Record<string, string>> = {
  topic: 'DITA Topic',
  concept: 'DITA Concept',
  task: 'DITA General Task',
  reference: 'DITA Reference',
  troubleshooting: 'DITA Troubleshooting',
  glossentry: 'DITA Glossary Entry',
  glossgroup: 'DITA Glossary Group',
  map: 'DITA Map',
  bookmap: 'DITA BookMap',
};
const systemIds: Readonly<Record<string, string>> = { task: 'generalTask.dtd' };

/** The document type that a file has where nothing else is kept of it. */
function usualDoctype(root: string): string | undefined {
  const name = doctypes[root];
  return name === undefined
    ? undefined
    : `${root} PUBLIC "-//OASIS//DTD ${name}//EN" "${systemIds[root] ?? `${root}.dtd`}"`;
}

/** Whether a file says by other means than a document type what it has to be like. */
const hasOtherSchema = ({ root, before }: XmlDocument): boolean =>
  before.some((node) => node.startsWith('<?xml-model')) ||
  Object.keys(root.attributes).some((name) => /schemaLocation$/iu.test(name));

/** The root of a file, with everything outside it in its attributes. */
export function keepingSurroundings(document: XmlDocument): Element {
  const { root, doctype, before, after } = document;
  const attributes: Record<string, string> = {};
  const written = doctype?.replace(/\s+/gu, ' ');
  if (doctype !== undefined && written !== usualDoctype(root.name))
    attributes[keptAttributes.doctype] = doctype;
  else if (doctype === undefined && hasOtherSchema(document))
    attributes[keptAttributes.doctype] = '';
  if (before.length > 0) attributes[keptAttributes.before] = before.join('\n');
  if (after.length > 0) attributes[keptAttributes.after] = after.join('\n');
  return Object.keys(attributes).length === 0
    ? root
    : { ...root, attributes: { ...root.attributes, ...attributes } };
}

/**
 * A file around the text of a root. What is kept may have been written by hand: it is used where
 * the file can be read with it, and left out where it cannot.
 * @param attributes of the root, as they are stored
 */
export function withSurroundings(root: string, attributes: Attributes, text: string): string {
  const file = surrounded(root, attributes, text);
  return !Object.keys(attributes).some(isKept) || readXml(file).document
    ? file
    : surrounded(root, {}, text);
}

function surrounded(root: string, attributes: Attributes, text: string): string {
  const doctype = attributes[keptAttributes.doctype] ?? usualDoctype(root) ?? '';
  const { [keptAttributes.before]: before, [keptAttributes.after]: after } = attributes;
  return [
    '<?xml version="1.0" encoding="UTF-8"?>\n',
    before === undefined ? '' : `${before}\n`,
    doctype === '' ? '' : `<!DOCTYPE ${doctype}>\n`,
    text,
    after === undefined ? '' : `${after}\n`,
  ].join('');
}
