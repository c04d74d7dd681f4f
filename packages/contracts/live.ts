import { z } from 'zod';

/** A number of steps that a document has behind it. */
const Version = z.number().int().min(0);
const Position = z.number().int().min(0);
/** Positions are counted in the document of the version. */
const Caret = z.object({ version: Version, anchor: Position, head: Position });
export type Caret = z.infer<typeof Caret>;
const ClientId = z.string().regex(/^[\w-]{1,64}$/u);

/** What an editor says to the authority of a topic. */
export const LiveRequest = z.discriminatedUnion('kind', [
  /**
   * The first message. `client` is made up by the editor and known to it alone: with it, the same
   * person takes up a broken line again.
   * With the epoch and version of a document that the editor still has, only what is newer comes.
   */
  z.object({
    kind: z.literal('open'),
    client: ClientId,
    known: z.object({ epoch: z.uuid(), version: Version }).exactOptional(),
  }),
  z.object({
    kind: z.literal('steps'),
    epoch: z.uuid(),
    version: Version,
    steps: z.array(z.unknown()).min(1).max(5000),
  }),
  z.object({ kind: z.literal('caret'), caret: Caret }),
  /** Writes what there is as a revision with a name. */
  z.object({ kind: z.literal('name'), note: z.string().trim().min(1).max(500) }),
]);
export type LiveRequest = z.infer<typeof LiveRequest>;

export const LivePerson = z.object({
  client: ClientId,
  name: z.string(),
  /** Which of the pigments is theirs, in the order in which they came. */
  place: z.number().int(),
  caret: Caret.exactOptional(),
});
export type LivePerson = z.infer<typeof LivePerson>;

/** A whole document of a topic, as the authority has it. */
export const LiveDocument = z.object({
  epoch: z.uuid(),
  version: Version,
  document: z.unknown(),
});
export type LiveDocument = z.infer<typeof LiveDocument>;

/** What the authority of a topic says to its editors. */
export const LiveAnswer = z.discriminatedUnion('kind', [
  /**
   * The first answer: the id under which everybody, the editor itself included, hears of what it
   * does. It is of no use to anybody else.
   */
  z.object({ kind: z.literal('welcome'), client: ClientId }),
  /**
   * The whole document: at the start, or when the editor's own can no longer be brought up to date.
   */
  LiveDocument.extend({ kind: z.literal('document') }),
  /**
   * Steps from `version` on, each with the editor that made it: an editor's own are thereby
   * acknowledged.
   */
  z.object({
    kind: z.literal('steps'),
    version: Version,
    steps: z.array(z.unknown()),
    clients: z.array(z.string()),
  }),
  z.object({ kind: z.literal('people'), people: z.array(LivePerson) }),
  z.object({
    kind: z.literal('carets'),
    carets: z.array(z.object({ client: ClientId, caret: Caret })),
  }),
  /** The text of the library now holds every step up to `version`. */
  z.object({
    kind: z.literal('stored'),
    version: Version,
    itemVersion: z.number().int(),
    title: z.string(),
  }),
  /** Nothing more is taken from this editor: its steps were not right, or it may only read. */
  z.object({
    kind: z.literal('refused'),
    code: z.enum([
      'live.read-only',
      'live.invalid',
      'live.gone',
      'live.unreadable',
      'live.not-understood',
      'live.too-many',
    ]),
    message: z.string(),
  }),
]);
export type LiveAnswer = z.infer<typeof LiveAnswer>;
