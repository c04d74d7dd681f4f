import { z } from 'zod';

/** What a program may do with a token: look at everything, or build editions too. */
export const TokenAccess = z.enum(['read', 'build']);
export type TokenAccess = z.infer<typeof TokenAccess>;
/** The longest that a token can last, in days. */
export const longestToken = 365;
export const NewToken = z.object({
  name: z.string().trim().min(1).max(100),
  access: TokenAccess,
  days: z.number().int().min(1).max(longestToken).default(90),
});
export type NewToken = z.infer<typeof NewToken>;
export const Token = NewToken.omit({ days: true }).extend({
  id: z.uuid(),
  createdAt: z.string(),
  usedAt: z.string().nullable(),
  expiresAt: z.string(),
});
export type Token = z.infer<typeof Token>;
/** With what is sent as `Authorization: Bearer …`; it is shown once. */
export const CreatedToken = Token.extend({ secret: z.string() });
export type CreatedToken = z.infer<typeof CreatedToken>;

/** What people and programs outside are told of. */
export const noticeEvents = ['built', 'failed', 'signed'] as const;
export const NoticeEvent = z.enum(noticeEvents);
export type NoticeEvent = z.infer<typeof NoticeEvent>;
const common = {
  on: z.array(NoticeEvent).min(1, 'Choose at least one event.').max(noticeEvents.length),
  /** Of this edition only; null for all. */ edition: z.uuid().nullable().default(null),
};
/** Notifications: by mail, or by a request to a program on the web. */
export const NoticeInput = z.discriminatedUnion('kind', [
  z.object({
    kind: z.literal('mail'),
    to: z.email('Enter an e-mail address such as harbour@brinewell.example.').max(200),
    ...common,
  }),
  z.object({
    kind: z.literal('web'),
    to: z
      .url({
        protocol: /^https?$/u,
        message: 'Enter a web address that begins with https:// or http://.',
      })
      .max(500),
    ...common,
  }),
]);
export type NoticeInput = z.infer<typeof NoticeInput>;
const kept = { id: z.uuid() };
export const Notice = z.discriminatedUnion('kind', [
  NoticeInput.options[0].extend(kept),
  NoticeInput.options[1].extend(kept),
]);
export type Notice = z.infer<typeof Notice>;
/** `secret` signs what is sent to a program of the web, and is shown once; empty for mail. */
export const CreatedNotice = z.object({ notice: Notice, secret: z.string() });
export type CreatedNotice = z.infer<typeof CreatedNotice>;

/**
 * What was handed over for sending. `signature` is `sha256=` and the HMAC of the body (RFC 2104),
 * for programs of the web.
 */
export const SentMessage = z.object({
  id: z.uuid(),
  at: z.string(),
  kind: z.enum(['mail', 'web']),
  to: z.string(),
  subject: z.string(),
  body: z.string(),
  signature: z.string(),
});
export type SentMessage = z.infer<typeof SentMessage>;
/** Messages, and whether they only seem to be sent. */
export const Outbox = z.object({ isSimulated: z.boolean(), messages: z.array(SentMessage) });
export type Outbox = z.infer<typeof Outbox>;
