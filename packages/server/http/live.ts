import { LiveRequest, type LiveAnswer } from '@ukiyo/contracts';
import type { FastifyPluginAsyncZod } from 'fastify-type-provider-zod';
import { z } from 'zod';
import { ItemId } from '@ukiyo/contracts';
import type { People } from '../access/people.ts';
import { mayChange } from '../access/roles.ts';
import type { ItemStore } from '../data/items.ts';
import { gone, type Authority } from '../live/authority.ts';
import type { Member, Room } from '../live/room.ts';
import { personOf, sessionCookie } from './guard.ts';

/** How often a line that stays open is asked again whose it is. */
const checkEvery = 20_000;

function messageIn(data: { toString(): string }): LiveRequest | undefined {
  try {
    return LiveRequest.safeParse(JSON.parse(data.toString())).data;
  } catch {
    return undefined;
  }
}

/** The line between an editor and the authority of a topic. */
export const liveRoutes =
  (people: People, items: ItemStore, authority: Authority): FastifyPluginAsyncZod =>
  async (app) => {
    app.get(
      '/live/:id',
      {
        websocket: true,
        config: { permission: 'read' },
        schema: { params: z.object({ project: z.uuid(), id: ItemId }) },
      },
      (socket, request) => {
        const key = { project: request.params.project, item: request.params.id };
        const { name } = personOf(request);
        let { role } = personOf(request);
        let folder = '';
        let member: Member | undefined;
        let room: Room | undefined;
        const send = (answer: string): void => {
          if (socket.readyState === socket.OPEN) socket.send(answer);
        };
        const refuse = (
          code: Extract<LiveAnswer, { kind: 'refused' }>['code'],
          message: string,
        ): void => send(JSON.stringify({ kind: 'refused', code, message } satisfies LiveAnswer));

        async function take(message: LiveRequest): Promise<void> {
          if (message.kind === 'open') {
            if (member) return;
            const joining = { client: message.client, name, send };
            member = joining;
            folder = (await items.folderOf(key.project, key.item)) ?? '';
            room = await authority.join(key, joining, message.known);
            if (!room)
              refuse(
                'live.unreadable',
                'This topic is not in the library, or its text cannot be read.',
              );
            // Gone again before it was let in.
            else if (socket.readyState !== socket.OPEN) await authority.leave(room, joining);
            return;
          }
          if (!room || !member) return;
          if (message.kind === 'caret') return room.moveCaret(member, message.caret);
          // Made on a document that is no more: the whole new one is on its way.
          if (message.kind === 'steps' && message.epoch !== room.epoch) return;
          if (!mayChange(role, folder))
            return refuse('live.read-only', 'Your role does not allow changes to topics.');
          if (message.kind === 'name') return void (await room.write(message.note, name));
          const outcome = await room.submit(
            { client: member.client, name },
            message.version,
            message.steps,
          );
          if (outcome === 'gone') room.dismiss('live.gone', gone);
          if (typeof outcome === 'object')
            refuse('live.invalid', `This change cannot be kept: ${outcome.refusal}`);
        }

        // One message after the other, in the order in which they came.
        let turn = Promise.resolve();
        socket.on('message', (data: { toString(): string }) => {
          const message = messageIn(data);
          if (!message)
            return refuse('live.not-understood', 'This message is not one of an editor.');
          turn = turn
            .then(() => take(message))
            .catch((error: unknown) => {
              request.log.error(error);
              // The editor comes again and sends what was not acknowledged.
              socket.close(1011);
            });
        });
        const checking = setInterval(() => {
          void people.bySession(request.cookies[sessionCookie] ?? '').then(
            (person) => {
              if (person) role = person.role;
              else socket.close(4401);
            },
            () => socket.close(1011),
          );
        }, checkEvery);
        socket.on('close', () => {
          clearInterval(checking);
          if (room && member)
            authority.leave(room, member).catch((error: unknown) => request.log.error(error));
        });
      },
    );
  };
