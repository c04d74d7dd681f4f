import { LiveEvent } from '@ukiyo/contracts';
import { useDocumentVisibility } from '@vueuse/core';
import { defineStore } from 'pinia';
import { watch } from 'vue';
import { forgetEarlyAnswers } from './early.ts';
import { useSession } from './session.ts';

/** Milliseconds for which changes of others are collected, and the longest wait of one of them. */
export const collecting = 400;
export const longestWait = 2_000;

/** An event of the server, or the news that events may have been missed. */
export type Heard = LiveEvent | { readonly kind: 'missed' };

/**
 * Changes of other people in the project: one stream of events for the whole interface, open while
 * there are listeners and the page is visible. Browsers limit connections to one server, and every
 * open page would use one.
 */
export const useEvents = defineStore('events', () => {
  const session = useSession();
  const visibility = useDocumentVisibility();
  const hearers = new Set<(event: Heard) => void>();
  let source: EventSource | undefined;
  let wasOpen = false;
  function tell(event: Heard): void {
    forgetEarlyAnswers();
    hearers.forEach((hear) => hear(event));
  }

  function close(): void {
    source?.close();
    source = undefined;
  }
  function open(): void {
    if (source || hearers.size === 0 || !session.project || visibility.value === 'hidden') return;
    source = new EventSource(`/api${session.base}/events`);
    source.onopen = () => {
      if (wasOpen) tell({ kind: 'missed' });
      wasOpen = true;
    };
    source.onmessage = ({ data }) => {
      const event = LiveEvent.safeParse(JSON.parse(String(data)));
      if (event.success) tell(event.data);
    };
  }
  watch(visibility, (now) => (now === 'hidden' ? close() : open()));
  watch(
    () => session.base,
    () => {
      close();
      wasOpen = false;
      open();
    },
  );
  /** @returns a function that stops listening */
  function listen(hear: (event: Heard) => void): () => void {
    hearers.add(hear);
    open();
    return () => {
      hearers.delete(hear);
      if (hearers.size === 0) close();
    };
  }
  return { listen };
});
