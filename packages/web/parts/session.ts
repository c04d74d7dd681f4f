import { Session, type Person, type Project, type Role } from '@ukiyo/contracts';
import { defineStore } from 'pinia';
import { computed, ref } from 'vue';
import { z } from 'zod';
import { ApiError, ask } from './api.ts';

const atLeast: Record<'review' | 'write' | 'publish' | 'administer', readonly Role[]> = {
  administer: ['administrator'],
  review: ['administrator', 'publisher', 'writer', 'reviewer'],
  write: ['administrator', 'publisher', 'writer'],
  publish: ['administrator', 'publisher'],
};

/**
 * The signed-in person and their project. The server enforces permissions; the interface only hides
 * what it would refuse.
 */
export const useSession = defineStore('session', () => {
  const person = ref<Person>();
  const project = ref<Project>();
  const known = ref(false);

  function take(session: Session): void {
    person.value = session.person;
    project.value = session.projects[0];
    known.value = true;
  }
  async function restore(): Promise<void> {
    if (known.value) return;
    try {
      take(await ask('/session', Session));
    } catch (error) {
      if (!(error instanceof ApiError) || error.status !== 401) throw error;
      known.value = true;
    }
  }
  async function signIn(email: string, password: string): Promise<void> {
    take(await ask('/session', Session, { method: 'POST', body: { email, password } }));
  }
  async function signOut(): Promise<void> {
    await ask('/session', z.null(), { method: 'DELETE' });
    person.value = undefined;
  }
  /** Address of the project in the interface of the server. */
  const base = computed(() => `/projects/${project.value?.id ?? ''}`);
  const may = (what: keyof typeof atLeast): boolean =>
    person.value !== undefined && atLeast[what].includes(person.value.role);
  return { person, project, base, restore, signIn, signOut, may };
});
