/** What runs in a thread of the pool: one task after the other, with nothing kept between them. */
import { settleText, type Unsettled } from '../data/settling.ts';
import { draftingWorks, type Drafting } from '../live/drafting.ts';
import { settleImage } from '../media/image.ts';

export type Task =
  | { readonly kind: 'text'; readonly unsettled: Unsettled }
  | { readonly kind: 'image'; readonly bytes: Uint8Array; readonly claimed: string }
  | {
      readonly kind: 'drafting';
      readonly name: keyof Drafting;
      readonly given: readonly string[];
    };

export default function work(task: Task): unknown {
  switch (task.kind) {
    case 'text':
      return settleText(task.unsettled);
    case 'image':
      return settleImage(task.bytes, task.claimed);
    case 'drafting': {
      const draft: (...given: string[]) => unknown = draftingWorks[task.name];
      return draft(...task.given);
    }
  }
}
