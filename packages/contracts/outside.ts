import { z } from 'zod';

/** What a token may do: look, or publish as its maker may. */
export const TokenAccess = z.enum(['read', 'publish']);
export const NewToken = z.object({ name: z.string().trim().min(1).max(100), access: TokenAccess });
export const Token = NewToken.extend({
  id: z.uuid(),
  createdAt: z.string(),
  usedAt: z.string().nullable(),
});
export type Token = z.infer<typeof Token>;
/** With what is sent as `Authorization: Bearer …`; it is told once. */
export const MadeToken = Token.extend({ secret: z.string() });
export type MadeToken = z.infer<typeof MadeToken>;

/** What people and programs outside are told of. */
export const noticeEvents = ['built', 'failed', 'signed'] as const;
export const NoticeEvent = z.enum(noticeEvents);
export type NoticeEvent = z.infer<typeof NoticeEvent>;
const common = {
  on: z.array(NoticeEvent).min(1, 'Say of what it is told.').max(noticeEvents.length),
  /** Of this edition only; null for all. */ edition: z.uuid().nullable().default(null),
};
/** Who is told what: by mail, or a program of the web by a request. */
export const NoticeInput = z.discriminatedUnion('kind', [
  z.object({
    kind: z.literal('mail'),
    to: z.email('A letter goes to an address as harbour@brinewell.example.').max(200),
    ...common,
  }),
  z.object({
    kind: z.literal('web'),
    to: z
      .url({ protocol: /^https?$/u, message: 'A program of the web is found at https://…' })
      .max(500),
    ...common,
  }),
]);
export type NoticeInput = z.infer<typeof NoticeInput>;
/** `secret` signs what is sent to a program of the web; empty for mail. */
const kept = { id: z.uuid(), secret: z.string() };
export const Notice = z.discriminatedUnion('kind', [
  NoticeInput.options[0].extend(kept),
  NoticeInput.options[1].extend(kept),
]);
export type Notice = z.infer<typeof Notice>;

/** What was handed over for sending. `signature` is `sha256=` and the HMAC of the body (RFC 2104), for programs of the web. */
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
