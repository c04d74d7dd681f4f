import { z } from 'zod';
import { ItemId, Locale } from './content.ts';

/** As DITA 1.3 wants the names of keys: no spaces, and none of the signs that part an address. */
export const KeyName = z
  .string()
  .max(100)
  .regex(/^[^\s{}[\]/#?<>&"']+$/u, 'A name has no spaces, slashes, brackets or quotation marks.');
const Path = z.array(z.number().int().min(0)).max(200).readonly();

/** One definition of a variable; `markup` is what it says, as a piece of XML. */
export const VariableDefinition = z.object({
  key: KeyName,
  markup: z.string().max(20_000),
  /** Texts that an edition may choose instead. */
  choices: z.array(z.string().trim().min(1).max(2000)).max(200),
  /** What it leads to or shows: a topic, an image, an address. */
  href: z.string().min(1).max(2000).exactOptional(),
  /** The attributes that say for whom it is. */
  conditions: z.record(z.string().max(100), z.string().max(2000)),
  locale: Locale.exactOptional(),
});
export type VariableDefinition = z.infer<typeof VariableDefinition>;

/** A definition where it stands; `line` is what it says without markup. */
export const Variable = VariableDefinition.extend({
  map: z.string(),
  path: Path,
  line: z.string(),
  /** An entry of the map defines it: what it says is changed where the map is arranged. */
  isEntry: z.boolean(),
});
export type Variable = z.infer<typeof Variable>;

/** A map that defines variables. */
export const VariableSet = z.object({
  id: z.string(),
  title: z.string(),
  /** Its variables hold in every map. */
  everywhere: z.boolean(),
  /** It is nothing but variables. */
  isSet: z.boolean(),
  /** The maps that take it in. */
  heldBy: z.array(z.string()),
});
export type VariableSet = z.infer<typeof VariableSet>;

const UsedIn = z.object({ id: z.string(), title: z.string(), kind: z.enum(['topic', 'map']) });
/**
 * All variables of a project, how often each is used and in how many texts, and those that are used
 * and defined nowhere.
 */
export const Variables = z.object({
  sets: z.array(VariableSet),
  variables: z.array(Variable),
  uses: z.record(z.string(), z.object({ count: z.number().int(), items: z.number().int() })),
  undefined: z.array(z.object({ key: z.string(), items: z.array(UsedIn) })),
});
export type Variables = z.infer<typeof Variables>;

const At = z.object({ path: Path, key: KeyName });
/**
 * A change of one set. `at` names the definition that is meant; where another stands there by now,
 * nothing is changed.
 */
export const VariableChange = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('define'), at: At.exactOptional(), definition: VariableDefinition }),
  z.object({ kind: z.literal('remove'), at: At }),
  z.object({ kind: z.literal('everywhere'), on: z.boolean() }),
  z.object({ kind: z.literal('held'), map: ItemId, on: z.boolean() }),
]);
export type VariableChange = z.infer<typeof VariableChange>;
export const VariableRename = z.object({ from: KeyName, to: KeyName });
