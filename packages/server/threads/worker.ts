/** What runs in a thread of the pool: one task after the other, with nothing kept between them. */
import { settleText, type Unsettled } from '../data/settling.ts';
import { settleImage } from '../media/image.ts';

export type Task =
  | { readonly kind: 'text'; readonly unsettled: Unsettled }
  | { readonly kind: 'image'; readonly bytes: Uint8Array; readonly claimed: string };

export default function work(task: Task): unknown {
  return task.kind === 'text' ? settleText(task.unsettled) : settleImage(task.bytes, task.claimed);
}
