import { z } from 'zod';
import { Locale, Severity } from './content.ts';

const name = z.string().max(60);
const common = {
  id: z.string().regex(/^[a-z][a-z0-9-]{0,59}$/u, 'An id has small letters, digits and hyphens.'),
  severity: Severity,
  reason: z.string().max(300).default(''),
};

/** `HouseRule` of core, as it travels and is stored. */
export const HouseRule = z.discriminatedUnion('kind', [
  z.object({ ...common, kind: z.literal('forbid'), element: name.min(1), within: name }),
  z.object({ ...common, kind: z.literal('require'), element: name.min(1), part: name.min(1) }),
  z.object({
    ...common,
    kind: z.literal('limit'),
    element: name.min(1),
    part: name.min(1),
    most: z.number().int().min(0).max(100_000),
  }),
  z.object({
    ...common,
    kind: z.literal('pattern'),
    element: name.min(1),
    pattern: z.string().min(1).max(500),
  }),
  z.object({
    ...common,
    kind: z.literal('phrase'),
    phrase: z.string().trim().min(1).max(200),
    instead: z.string().trim().max(200),
  }),
]);
export type HouseRule = z.infer<typeof HouseRule>;

/** A fact that the team wants said of every topic; kept in its prolog under the name. */
export const FactField = z.object({
  name: z
    .string()
    .regex(
      /^[\p{L}_][\p{L}\p{N}._-]{0,59}$/u,
      'A name begins with a letter and has letters, digits, dots and hyphens.',
    ),
  label: z.string().trim().min(1).max(60),
  /** The only values, where the list is closed. */
  values: z.array(z.string().trim().min(1).max(100)).max(200).default([]),
  /** With one of these a topic may go out; where there are none, with any. */
  ready: z.array(z.string().trim().min(1).max(100)).max(200).default([]),
});
export type FactField = z.infer<typeof FactField>;

/** Words of one language that are right here although no dictionary has them. */
export const WordList = z.record(Locale, z.array(z.string().min(1).max(80)).max(20_000));

/** Lists of words of one language that mean the same to who searches in what is published. */
export const Synonyms = z.record(
  Locale,
  z.array(z.array(z.string().trim().min(1).max(200)).min(2).max(50)).max(2000),
);

/**
 * What the team has agreed on. `version` is the one that was changed: the answer is a conflict when
 * another was saved since.
 */
export const Agreements = z.object({
  version: z.number().int().min(0),
  rules: z.array(HouseRule).max(500),
  facts: z.array(FactField).max(100),
  words: WordList,
  synonyms: Synonyms.default({}),
});
export type Agreements = z.infer<typeof Agreements>;

export const AgreedWord = z.object({ locale: Locale, word: z.string().trim().min(1).max(80) });

/** The folder of topics that others begin as. */
export const templatesFolder = 'templates';

/** A Hunspell dictionary: how words are formed, and the words. */
export const Dictionary = z.object({ aff: z.string(), dic: z.string() });
/** A word is right when any of them has it. */
export const Dictionaries = z.array(Dictionary).min(1);
export type Dictionary = z.infer<typeof Dictionary>;
