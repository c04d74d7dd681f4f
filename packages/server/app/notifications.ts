import type { Impression, NoticeEvent } from '@ukiyo/contracts';
import { signatureOf, type Courier, type NoticeStore } from '../data/notices.ts';

export type SendNotifications = (
  project: string,
  event: NoticeEvent,
  impression: Impression,
) => Promise<void>;

const outcomes: Readonly<Record<NoticeEvent, string>> = {
  built: 'was built',
  failed: 'could not be built',
  signed: 'was signed off',
};

/** Notifies subscribers of the result of an impression. */
export const notificationSender =
  (notices: NoticeStore, courier: Courier): SendNotifications =>
  async (project, event, impression) => {
    const { id, edition, editionName, number, state, figures, problems, person, seal, name } =
      impression;
    const subject = `${editionName}, number ${number}, ${outcomes[event]}`;
    const counts = (['error', 'warning', 'info'] as const).map(
      (severity) => [severity, problems.filter((one) => one.severity === severity).length] as const,
    );
    const lines = [
      `${subject}.`,
      ...(name === '' ? [] : [`It is called “${name}”.`]),
      ...(event === 'signed'
        ? [`Signed off by ${seal?.person ?? person}.`]
        : [`Asked for by ${person}. ${figures.pages} pages, ${figures.words} words.`]),
      `Problems: ${counts.map(([severity, count]) => `${count} ${severity}`).join(', ')}.`,
      ...(event === 'failed' ? problems.slice(0, 5).map(({ message }) => message) : []),
    ];
    const data = JSON.stringify({
      event,
      impression: id,
      edition,
      name: editionName,
      number,
      state,
      pages: figures.pages,
      problems: Object.fromEntries(counts),
      person: event === 'signed' ? (seal?.person ?? person) : person,
    });
    for (const notice of await notices.recipients(project)) {
      if (!notice.on.includes(event) || (notice.edition !== null && notice.edition !== edition))
        continue;
      const body = notice.kind === 'mail' ? lines.join('\n') : data;
      await courier.deliver(project, {
        kind: notice.kind,
        to: notice.to,
        subject,
        body,
        signature: notice.kind === 'web' ? signatureOf(notice.secret, body) : '',
      });
    }
  };
