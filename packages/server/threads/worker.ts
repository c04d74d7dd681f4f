/** What runs in a thread of the pool: one task after the other, with nothing kept between them. */
import { settleText, type Unsettled } from '../data/settling.ts';
import { drafting } from '../live/drafting.ts';
import { settleImage } from '../media/image.ts';

export type Task =
  | { readonly kind: 'text'; readonly unsettled: Unsettled }
  | { readonly kind: 'image'; readonly bytes: Uint8Array; readonly claimed: string }
  | { readonly kind: 'begin'; readonly text: string }
  | { readonly kind: 'draft'; readonly document: string }
  | { readonly kind: 'difference'; readonly document: string; readonly text: string };

export default function work(task: Task): unknown {
  switch (task.kind) {
    case 'text':
      return settleText(task.unsettled);
    case 'image':
      return settleImage(task.bytes, task.claimed);
    case 'begin':
      return drafting.begin(task.text);
    case 'draft':
      return drafting.draft(task.document);
    case 'difference':
      return drafting.difference(task.document, task.text);
  }
}
