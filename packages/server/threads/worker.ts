/** What runs in a thread of the pool: one task after the other, with nothing kept between them. */
import { prepareText, type SubmittedText } from '../data/preparing.ts';
import { drafting } from '../live/drafting.ts';
import { sanitiseImage } from '../media/image.ts';

export type Task =
  | { readonly kind: 'text'; readonly submitted: SubmittedText }
  | { readonly kind: 'image'; readonly bytes: Uint8Array; readonly claimed: string }
  | { readonly kind: 'begin'; readonly text: string }
  | { readonly kind: 'draft'; readonly document: string }
  | { readonly kind: 'difference'; readonly document: string; readonly text: string };

export default function work(task: Task): unknown {
  switch (task.kind) {
    case 'text':
      return prepareText(task.submitted);
    case 'image':
      return sanitiseImage(task.bytes, task.claimed);
    case 'begin':
      return drafting.begin(task.text);
    case 'draft':
      return drafting.draft(task.document);
    case 'difference':
      return drafting.difference(task.document, task.text);
  }
}
