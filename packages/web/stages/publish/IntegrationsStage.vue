<script setup lang="ts">
import {
  noticeEvents,
  NoticeInput,
  type Notice,
  type NoticeEvent,
  type TokenAccess,
} from '@ukiyo/contracts';
import { computed, onMounted, ref } from 'vue';
import PickOne from '../../parts/PickOne.vue';
import TimeAgo from '../../parts/TimeAgo.vue';
import { usePlace } from '../../shell/place.ts';
import { useIntegrations } from './useIntegrations.ts';
import CheckBox from '../../parts/CheckBox.vue';

/** Integrations: tokens for programs that publish, and notifications of builds. */
const place = usePlace();
const {
  tokens,
  notices,
  outbox,
  editions,
  created,
  failure,
  load,
  createToken,
  revokeToken,
  addNotice,
  removeNotice,
} = useIntegrations();
onMounted(async () => {
  place.clear();
  place.trail = ['Tokens and messages'];
  await load();
});

const accessLabels: Readonly<Record<TokenAccess, string>> = {
  build: 'Read and build',
  read: 'Read',
};
const accessOptions = Object.entries(accessLabels).map(([value, label]) => ({ value, label }));
const lastingOptions = ['30', '90', '365'].map((value) => ({ value, label: `${value} days` }));
const tokenName = ref('');
const access = ref<TokenAccess>('build');
const days = ref('90');
async function newToken(): Promise<void> {
  const name = tokenName.value.trim();
  if (name !== '' && (await createToken({ name, access: access.value, days: Number(days.value) })))
    tokenName.value = '';
}
const copied = ref('');
async function copy(secret: string): Promise<void> {
  await navigator.clipboard.writeText(secret);
  copied.value = secret;
}

const ends: Readonly<Record<NoticeEvent, string>> = {
  built: 'is built',
  failed: 'cannot be built',
  signed: 'is signed off',
};
const eventOptions = noticeEvents.map((value) => ({ value, label: ends[value] }));
const kind = ref<'mail' | 'web'>('mail');
const to = ref('');
const events = ref<NoticeEvent[]>(['failed', 'signed']);
const toggle = (one: NoticeEvent): void =>
  void (events.value = noticeEvents.filter((other) =>
    other === one ? !events.value.includes(one) : events.value.includes(other),
  ));
const edition = ref('');
const fault = ref('');
const editionOptions = computed(() => [
  { value: '', label: 'any edition' },
  ...editions.value.map(({ id, name }) => ({ value: id, label: name })),
]);
const editionName = (id: string | null): string =>
  id === null
    ? 'any edition'
    : (editions.value.find((one) => one.id === id)?.name ?? 'a deleted edition');
const occasionOf = (notice: Notice): string =>
  `when ${editionName(notice.edition)} ${notice.on.map((one) => ends[one]).join(', ')}`;
async function newNotice(): Promise<void> {
  const input = NoticeInput.safeParse({
    kind: kind.value,
    to: to.value.trim(),
    on: events.value,
    edition: edition.value === '' ? null : edition.value,
  });
  fault.value = input.success ? '' : (input.error.issues[0]?.message ?? '');
  if (input.success && (await addNotice(input.data))) to.value = '';
}
</script>

<template>
  <main class="outside" tabindex="0" aria-label="Tokens and messages">
    <h1>Tokens and messages</h1>
    <p v-if="failure" class="seal-text" role="alert">{{ failure }}</p>
    <div v-if="created" class="made" role="status">
      <p>This is the secret of “{{ created.name }}”. Copy it now: it is not shown again.</p>
      <code>{{ created.secret }}</code>
      {{ ' ' }}
      <n-button size="small" @click="copy(created.secret)">
        {{ copied === created.secret ? 'Copied' : 'Copy secret' }}
      </n-button>
    </div>
    <section aria-labelledby="tokens-head">
      <h2 id="tokens-head">Your tokens</h2>
      <p class="quiet">
        A program signs in with a token instead of a password: in a command, as in
        <code>UKIYO_TOKEN=… npm run publish -- --edition NAME</code>
        or in the header of a request, as in
        <code>Authorization: Bearer …</code>
      </p>
      <table v-if="tokens.length > 0">
        <thead>
          <tr>
            <th scope="col">Token</th>
            <th scope="col">Access</th>
            <th scope="col">Created</th>
            <th scope="col">Last used</th>
            <th scope="col">Expires</th>
            <td />
          </tr>
        </thead>
        <tbody>
          <tr v-for="token in tokens" :key="token.id">
            <th scope="row">{{ token.name }}</th>
            <td>{{ accessLabels[token.access] }}</td>
            <td><TimeAgo :iso="token.createdAt" /></td>
            <td>
              <TimeAgo v-if="token.usedAt" :iso="token.usedAt" />
              <span v-else>never</span>
            </td>
            <td>{{ new Date(token.expiresAt).toLocaleDateString() }}</td>
            <td>
              <n-button
                size="small"
                quaternary
                :aria-label="`Revoke the token ${token.name}`"
                @click="revokeToken(token.id)"
              >
                Revoke
              </n-button>
            </td>
          </tr>
        </tbody>
      </table>
      <form class="row" @submit.prevent="newToken">
        <n-input
          v-model:value="tokenName"
          size="small"
          placeholder="Nightly builds"
          :input-props="{ 'aria-label': 'Name of the token' }"
        />
        <PickOne v-model:chosen="access" label="Access" :options="accessOptions" />
        <label class="lasting">
          Expires in
          <PickOne v-model:chosen="days" label="Expires in" :options="lastingOptions" />
        </label>
        <n-button size="small" attr-type="submit" :disabled="tokenName.trim() === ''">
          Create token
        </n-button>
      </form>
    </section>
    <section aria-labelledby="notices-head">
      <h2 id="notices-head">Notifications</h2>
      <ul v-if="notices.length > 0">
        <li v-for="notice in notices" :key="notice.id">
          <span>{{ notice.to }}</span>
          <span class="quiet">{{ occasionOf(notice) }}</span>
          <n-button
            size="small"
            quaternary
            :aria-label="`Remove the notification of ${notice.to}`"
            @click="removeNotice(notice.id)"
          >
            Remove
          </n-button>
        </li>
      </ul>
      <form class="notice" @submit.prevent="newNotice">
        <PickOne
          v-model:chosen="kind"
          label="Kind of notification"
          :options="[
            { value: 'mail', label: 'e-mail to' },
            { value: 'web', label: 'web request to' },
          ]"
        />
        <n-input
          v-model:value="to"
          size="small"
          :placeholder="kind === 'mail' ? 'harbour@brinewell.example' : 'https://…'"
          :input-props="{ 'aria-label': 'Address' }"
        />
        <span>when</span>
        <PickOne v-model:chosen="edition" label="Edition" :options="editionOptions" />
        <span class="events">
          <CheckBox
            v-for="one in eventOptions"
            :key="one.value"
            :checked="events.includes(one.value)"
            @update:checked="toggle(one.value)"
          >
            {{ one.label }}
          </CheckBox>
        </span>
        <n-button size="small" attr-type="submit" :disabled="to.trim() === ''">
          Add notification
        </n-button>
      </form>
      <p v-if="fault" class="seal-text" role="alert">{{ fault }}</p>
    </section>
    <section aria-labelledby="outbox-head">
      <h2 id="outbox-head">Outbox</h2>
      <p v-if="outbox.isSimulated" class="stand-in">
        Simulated: nothing leaves this server. These messages would have been sent.
      </p>
      <p v-if="outbox.messages.length === 0" class="quiet">No messages yet.</p>
      <details v-for="message in outbox.messages" :key="message.id">
        <summary>
          <span>{{ message.subject }}</span>
          <span class="quiet small">
            {{ message.kind === 'mail' ? 'e-mail' : 'web request' }} to {{ message.to }},
            <TimeAgo :iso="message.at" />
          </span>
        </summary>
        <pre tabindex="0" :aria-label="message.subject">{{ message.body }}</pre>
        <p v-if="message.signature" class="small quiet">
          Signature:
          <code>{{ message.signature }}</code>
        </p>
      </details>
    </section>
  </main>
</template>

<style scoped>
.outside {
  overflow: auto;
  height: 100%;
  padding: 20px 32px 60px;
}
.outside > * {
  max-width: 860px;
}
section {
  margin-top: 26px;
}
h2 {
  font: 400 15px var(--font-title);
  color: var(--prussian);
  margin-bottom: 8px;
}
p {
  margin: 4px 0 10px;
}
table {
  border-collapse: collapse;
  margin-bottom: 10px;
}
th,
td {
  padding: 5px 24px 5px 0;
  text-align: start;
  font-weight: 400;
  border-bottom: 1px solid var(--hair);
}
thead th {
  color: var(--soft);
  font-size: 13px;
}
.row,
.notice {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  align-items: center;
  max-width: 860px;
}
.row .n-input {
  max-width: 260px;
}
.notice .n-input {
  max-width: 280px;
}
.events {
  display: flex;
  gap: 12px;
}
.made {
  padding: 10px 14px;
  margin-bottom: 12px;
  background: var(--wash);
  border-radius: 4px;
}
.made code {
  overflow-wrap: anywhere;
}
.stand-in {
  padding: 6px 12px;
  border-inline-start: 3px solid var(--amber);
  background: var(--paper-deep);
}
ul {
  list-style: none;
  margin: 0 0 10px;
  padding: 0;
}
li {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 14px;
  align-items: center;
  padding: 4px 0;
  border-bottom: 1px solid var(--hair);
}
.lasting {
  display: flex;
  gap: 6px;
  align-items: center;
}
details {
  border-bottom: 1px solid var(--hair);
}
summary {
  display: flex;
  justify-content: space-between;
  gap: 14px;
  padding: 6px 0;
  cursor: pointer;
}
pre {
  white-space: pre-wrap;
  overflow-wrap: anywhere;
  font: 400 13px var(--font-code, monospace);
  background: var(--paper-deep);
  padding: 10px 12px;
  border-radius: 4px;
}
</style>
