import { createHmac, randomBytes, randomUUID } from 'node:crypto';
import { Notice, type CreatedNotice, type NoticeInput, type SentMessage } from '@ukiyo/contracts';
import type { Database } from './database.ts';

/** What is to be sent, to whom. */
interface Message {
  readonly kind: SentMessage['kind'];
  readonly to: string;
  readonly subject: string;
  readonly body: string;
  readonly signature: string;
}

/** Takes messages out of the house. */
export interface Courier {
  /** Whether messages only seem to be sent. */
  readonly isSimulated: boolean;
  deliver(project: string, message: Message): Promise<void>;
}

/** A recipient of notifications; requests to a program are signed with its secret. */
type Recipient = Notice & { readonly secret: string };

/** Recipients of notifications, and the messages that were sent. */
export interface NoticeStore {
  list(project: string): Promise<Notice[]>;
  /** With their secrets, which leave the server only once. */
  recipients(project: string): Promise<Recipient[]>;
  create(project: string, input: NoticeInput): Promise<CreatedNotice>;
  remove(project: string, id: string): Promise<boolean>;
  /** The newest messages, first. */
  sent(project: string): Promise<SentMessage[]>;
}

const mostKept = 200;

export function noticeStore({ models }: Database): NoticeStore {
  const { notices, outbox } = models;
  const recipients = async (projectId: string): Promise<Recipient[]> => {
    const rows = await notices.findAll({ where: { projectId }, order: [['target', 'ASC']] });
    return rows.flatMap((row) => {
      const { id, kind, target: to, events: on, edition, secret } = row.get();
      const { data } = Notice.safeParse({ id, kind, to, on, edition });
      return data ? [{ ...data, secret }] : [];
    });
  };
  return {
    recipients,
    list: async (project) =>
      (await recipients(project)).map(({ secret: _secret, ...notice }) => notice),
    async create(project, input) {
      const { kind, to, on, edition } = input;
      const id = randomUUID();
      const secret = kind === 'web' ? randomBytes(24).toString('base64url') : '';
      await notices.create({
        projectId: project,
        id,
        kind,
        target: to,
        events: on,
        edition,
        secret,
      });
      return { notice: { ...input, id }, secret };
    },
    remove: async (project, id) =>
      (await notices.destroy({ where: { projectId: project, id } })) > 0,
    sent: async (project) =>
      (
        await outbox.findAll({
          where: { projectId: project },
          order: [['at', 'DESC']],
          limit: mostKept,
        })
      ).map((row) => {
        const { id, at, kind, target: to, subject, body, signature } = row.get();
        return { id, at: at.toISOString(), kind, to, subject, body, signature };
      }),
  };
}

/**
 * Nothing leaves this server: messages lie in the outbox, where people see what would have been
 * sent.
 */
export function simulatedCourier({ models, sequelize }: Database): Courier {
  return {
    isSimulated: true,
    async deliver(project, { to, ...message }) {
      await models.outbox.create({
        id: randomUUID(),
        projectId: project,
        at: new Date(),
        target: to,
        ...message,
      });
      await sequelize.query(
        'DELETE FROM outbox WHERE project_id = :project AND id NOT IN (SELECT id FROM outbox ' +
          'WHERE project_id = :project ORDER BY at DESC LIMIT :mostKept)',
        {
          replacements: { project, mostKept },
        },
      );
    },
  };
}

/** HMAC of a body (RFC 2104, with SHA-256), so that who gets it knows from whom it is. */
export const signatureOf = (secret: string, body: string): string =>
  `sha256=${createHmac('sha256', secret).update(body).digest('hex')}`;
