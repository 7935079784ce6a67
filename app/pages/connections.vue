<script setup lang="ts">
import { useIntervalFn } from '@vueuse/core'
import { newAddressBook } from '~~/shared/address-books'
import type { Connection } from '~~/shared/connections'
import { useDesk } from '~/stores/desk'

useHead({ title: 'Connections · Estafette' })

/** The other programs that this house lives with: how they are, and trying them now; address books are added and left here. */
const desk = useDesk()
const all = ref<Connection[] | null>(null)
const failure = ref<string | null>(null)
const trying = ref<string | null>(null)
const { failure: notAdded, errors, sending, send } = useForm()
const blank = { name: '', address: '', user: '', password: '' }
const form = ref({ ...blank })

async function load(): Promise<void> {
  try {
    all.value = await $fetch<Connection[]>('/api/connections')
    failure.value = null
  }
  catch (error) {
    failure.value = sentenceOf(error)
  }
}

const keyOf = ({ kind, id }: Pick<Connection, 'kind' | 'id'>) => `${kind} ${id}`
const kindWords = {
  exchange: 'Telephones', customers: 'Customer system', identityProvider: 'Sign-in', houseDirectory: 'People', addressBook: 'Address book',
  calendar: 'Calendar',
}
const chosenKey = ref<string | null>(null)
const rows = computed(() => all.value ?? [])
const chosen = computed(() => rows.value.find(row => keyOf(row) === chosenKey.value) ?? rows.value[0] ?? null)
const when = (at: number | null) => at === null ? 'not yet' : shownAt(at).format('D MMM H:mm:ss')
const stateOf = ({ well, lastSuccess }: Connection) => well ? lastSuccess === null ? 'not tried yet' : 'well' : 'fails'
const failing = computed(() => rows.value.filter(({ well }) => !well).length)

async function tryNow(row: Connection): Promise<void> {
  trying.value = chosenKey.value = keyOf(row)
  failure.value = null
  try {
    const { well, lastProblem, brings } = await $fetch<Connection>('/api/connections/try', { method: 'POST', body: { kind: row.kind, id: row.id } })
    desk.say(well ? `${row.name} answers: ${brings}` : `${row.name}: ${lastProblem}`)
    await load()
  }
  catch (error) {
    failure.value = sentenceOf(error)
  }
  trying.value = null
}

async function add(): Promise<void> {
  const labels = { name: 'Name', address: 'Address', user: 'User name', password: 'Password' }
  const done = await send(labels, async () => {
    const body = await newAddressBook.validate(form.value, { abortEarly: false })
    const { id } = await $fetch('/api/address-books', { method: 'POST', body })
    chosenKey.value = keyOf({ kind: 'addressBook', id })
    await load()
  })
  if (!done) return
  desk.say(`${form.value.name} is read from now on`)
  form.value = { ...blank }
}

async function leave({ id, name }: Connection): Promise<void> {
  try {
    await $fetch(`/api/address-books/${id}`, { method: 'DELETE' })
    desk.say(`${name} is read no more, and its contacts are gone`)
    await load()
  }
  catch (error) {
    failure.value = sentenceOf(error)
  }
}

onMounted(load)
useIntervalFn(load, 5_000)
</script>

<template>
  <div class="records-page split">
    <div class="bar">
      <h1>Connections</h1>
      <p class="soft">
        {{ failing === 0 ? 'All of them answer.' : failing === 1 ? 'One of them fails.' : `${failing} of them fail.` }}
      </p>
    </div>
    <FailureNote :text="failure" />
    <div class="panes">
      <div class="list">
        <RecordsTable
          :columns="['What', 'Kind', 'State', 'Last success', 'Brings', '-Try']"
          :rows="rows"
          :key-of="keyOf"
          :empty="all ? 'Nothing is connected.' : null"
          :class-of="row => chosen && keyOf(row) === keyOf(chosen) ? 'chosen' : undefined"
        >
          <template #default="{ row }">
            <td>
              <button
                type="button"
                class="choose"
                :aria-pressed="chosen !== null && keyOf(row) === keyOf(chosen)"
                @click="chosenKey = keyOf(row)"
              >
                {{ row.name }}
              </button>
            </td>
            <td>{{ kindWords[row.kind] }}</td>
            <td :class="{ fails: !row.well }">
              {{ stateOf(row) }}
            </td>
            <td>{{ when(row.lastSuccess) }}</td>
            <td>{{ row.brings }}</td>
            <td class="acts">
              <el-button
                size="small"
                :loading="trying === keyOf(row)"
                :aria-label="`Try ${row.name} now`"
                @click="tryNow(row)"
              >
                Try now
              </el-button>
            </td>
          </template>
        </RecordsTable>
      </div>
      <aside
        class="details"
        aria-label="The chosen connection, and a new address book"
      >
        <template v-if="chosen">
          <h2>{{ chosen.name }}</h2>
          <p class="soft address">
            {{ chosen.address || kindWords[chosen.kind] }}
          </p>
          <FactList
            :facts="[
              { what: 'State', is: stateOf(chosen) }, { what: 'Success', is: when(chosen.lastSuccess) }, { what: 'Brings', is: chosen.brings },
            ]"
          />
          <p
            v-if="chosen.lastProblem"
            :class="chosen.well ? 'soft' : 'failure'"
          >
            {{ chosen.well ? 'Last problem: ' : '' }}{{ chosen.lastProblem }}
          </p>
          <template v-if="chosen.notKept.length > 0">
            <h3>What of it is not kept here</h3>
            <ul>
              <li
                v-for="what in chosen.notKept"
                :key="what"
              >
                {{ what }}
              </li>
            </ul>
          </template>
          <el-button
            v-if="chosen.kind === 'identityProvider'"
            size="small"
            @click="navigateTo('/identity')"
          >
            How people sign in by it
          </el-button>
          <el-button
            v-if="chosen.kind === 'houseDirectory'"
            size="small"
            @click="navigateTo('/company/directory')"
          >
            How it is read, and who has left it
          </el-button>
          <el-button
            v-if="chosen.kind === 'addressBook'"
            size="small"
            @click="leave(chosen)"
          >
            Read it no more, and let its contacts go
          </el-button>
        </template>
        <p v-if="all && !all.some(({ kind }) => kind === 'houseDirectory')">
          People can come from the house's own directory (LDAP):
          <NuxtLink to="/company/directory">
            read it
          </NuxtLink>
        </p>
        <h3>Read an address book of another server (CardDAV)</h3>
        <el-form
          label-position="top"
          @submit.prevent="add"
        >
          <FormField
            label="Name"
            for="book-name"
            :error="errors.name"
          >
            <el-input
              id="book-name"
              v-model="form.name"
              maxlength="60"
            />
          </FormField>
          <FormField
            label="Address"
            for="book-address"
            :error="errors.address"
          >
            <el-input
              id="book-address"
              v-model="form.address"
              maxlength="500"
              placeholder="https://"
            />
          </FormField>
          <FormField
            label="User name there, if it asks"
            for="book-user"
            :error="errors.user"
          >
            <el-input
              id="book-user"
              v-model="form.user"
              maxlength="200"
              autocomplete="off"
            />
          </FormField>
          <FormField
            label="Password there"
            for="book-password"
            :error="errors.password"
          >
            <el-input
              id="book-password"
              v-model="form.password"
              type="password"
              maxlength="200"
              autocomplete="new-password"
            />
          </FormField>
          <FailureNote :text="notAdded" />
          <el-button
            type="primary"
            native-type="submit"
            :loading="sending"
          >
            Read it from now on
          </el-button>
        </el-form>
      </aside>
    </div>
  </div>
</template>

<style scoped>
.fails {
  color: var(--alarm);
  font-weight: 650;
}

.address {
  padding-bottom: var(--space-3);
  overflow-wrap: anywhere;
}

.details .el-button {
  margin-top: var(--space-3);
}
</style>
