/** One row of the grammar table. Everything the product knows of an element is derived from it. */
export interface ElementDefinition {
  readonly name: string;
  /** What people read in the interface; sentence case. */
  readonly label: string;
  /** One line that says what the element is for. */
  readonly help: string;
  /** A content expression; see content.ts. */
  readonly content: string;
  /** Own attributes beside the universal ones; see attributes.ts. */
  readonly attributes: string;
  /** The element it specialises, by which a renderer may treat it. */
  readonly base?: string;
  /** White space inside is kept as it is. */
  readonly verbatim?: boolean;
}

/** What is unusual about an element, beside its help. */
interface Details {
  readonly help: string;
  readonly attributes?: string;
  readonly base?: string;
  readonly verbatim?: boolean;
}

/**
 * A row of the table.
 * @param content expression: names with `,`, `|`, `?`, `*`, `+`, as in a DTD
 * @param details the help alone, or with what is unusual about the element
 */
export function row(
  name: string,
  label: string,
  content: string,
  details: string | Details,
): ElementDefinition {
  const unusual = typeof details === 'string' ? { help: details } : details;
  return { name, label, content, attributes: '', ...unusual };
}
