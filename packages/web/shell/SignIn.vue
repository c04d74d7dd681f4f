<script setup lang="ts">
import { ref } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { useFailure } from '../parts/attempts.ts';
import { useSession } from '../parts/session.ts';

const session = useSession();
const router = useRouter();
const route = useRoute();
const email = ref('');
const password = ref('');
const { failure, attempt, isBusy: busy } = useFailure();

async function signIn(): Promise<void> {
  await attempt(async () => {
    await session.signIn(email.value, password.value);
    const then = route.query['then'];
    await router.replace(
      typeof then === 'string' && then.startsWith('/') && !then.startsWith('//')
        ? then
        : '/library',
    );
  });
}
</script>

<template>
  <main class="gate">
    <div class="band" aria-hidden="true" />
    <form class="form" @submit.prevent="signIn">
      <img src="/seal.svg" alt="" width="44" height="44" />
      <h1>Ukiyo</h1>
      <p class="quiet">Carve once, pull every impression from it.</p>
      <label for="email">E-mail</label>
      <n-input
        v-model:value="email"
        :input-props="{ id: 'email', autocomplete: 'username', type: 'email' }"
        placeholder=""
      />
      <label for="password">Password</label>
      <n-input
        v-model:value="password"
        type="password"
        :input-props="{ id: 'password', autocomplete: 'current-password' }"
        placeholder=""
      />
      <p v-if="failure" class="seal-text" role="alert">{{ failure }}</p>
      <n-button type="primary" attr-type="submit" :loading="busy" block>Sign in</n-button>
    </form>
  </main>
</template>

<style scoped>
.gate {
  min-height: 100%;
  display: grid;
  place-items: center;
  position: relative;
}
.band {
  position: absolute;
  inset: 0 0 auto 0;
  height: 38vh;
  background: linear-gradient(180deg, var(--deep), var(--prussian) 40%, transparent);
  opacity: 0.9;
}
.form {
  position: relative;
  width: 340px;
  padding: 32px;
  background: var(--sheet);
  border-radius: 4px;
  box-shadow: 0 8px 32px rgb(20 30 60 / 18%);
  display: grid;
  gap: 8px;
}
h1 {
  font-size: 28px;
}
p {
  margin: 0 0 8px;
}
label {
  font-size: 13px;
  color: var(--soft);
  margin-top: 4px;
}
.n-button {
  margin-top: 12px;
}
</style>
