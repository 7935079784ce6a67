<script setup lang="ts">
import { useIntervalFn } from '@vueuse/core'
import { newAddressBook } from '~~/shared/address-books'
import type { Connection } from '~~/shared/connections'
import { useDesk } from '~/stores/desk'

useHead({ title: t('connections.connectionsEstafette') })

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
  exchange: t('connections.telephones'), customers: t('connections.customerSystem'), identityProvider: t('connections.signIn'),
  houseDirectory: t('common.people'), addressBook: t('connections.addressBook'),
  calendar: t('connections.calendar'),
}
const chosenKey = ref<string | null>(null)
const rows = computed(() => all.value ?? [])
const chosen = computed(() => rows.value.find(row => keyOf(row) === chosenKey.value) ?? rows.value[0] ?? null)
const when = (at: number | null) => at === null ? t('common.notYet') : shownAt(at).format('D MMM H:mm:ss')
const stateOf = ({ well, lastSuccess }: Connection) => well
  ? lastSuccess === null ? t('connections.notTriedYet') : t('connections.well')
  : t('connections.fails')
const failing = computed(() => rows.value.filter(({ well }) => !well).length)

async function tryNow(row: Connection): Promise<void> {
  trying.value = chosenKey.value = keyOf(row)
  failure.value = null
  try {
    const { well, lastProblem, brings } = await $fetch<Connection>('/api/connections/try', { method: 'POST', body: { kind: row.kind, id: row.id } })
    desk.say(well ? t('connections.nameAnswersBrings', { name: row.name, brings }) : `${row.name}: ${lastProblem}`)
    await load()
  }
  catch (error) {
    failure.value = sentenceOf(error)
  }
  trying.value = null
}

async function add(): Promise<void> {
  const labels = { name: t('common.name'), address: t('common.address'), user: t('connections.userName'), password: t('common.password') }
  const done = await send(labels, async () => {
    const body = await newAddressBook.validate(form.value, { abortEarly: false })
    const { id } = await $fetch('/api/address-books', { method: 'POST', body })
    chosenKey.value = keyOf({ kind: 'addressBook', id })
    await load()
  })
  if (!done) return
  desk.say(t('connections.isReadFromNowOn', { name: form.value.name }))
  form.value = { ...blank }
}

async function leave({ id, name }: Connection): Promise<void> {
  try {
    await $fetch(`/api/address-books/${id}`, { method: 'DELETE' })
    desk.say(t('connections.isReadNoMoreAnd', { name }))
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
      <h1>{{ t('common.connections') }}</h1>
      <p class="soft">
        {{ failing === 0 ? t('connections.allOfThemAnswer') : failing === 1 ? t('connections.oneOfThemFails') : t('connections.ofThemFail', { failing }) }}
      </p>
    </div>
    <FailureNote :text="failure" />
    <div class="panes">
      <div class="list">
        <RecordsTable
          :columns="[t('common.what'), t('connections.kind'), t('connections.state'), t('connections.lastSuccess'), t('connections.brings'),
                     `-${t('connections.try')}`]"
          :rows="rows"
          :key-of="keyOf"
          :empty="all ? t('connections.nothingIsConnected') : null"
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
                :aria-label="t('connections.tryNow', { name: row.name })"
                @click="tryNow(row)"
              >
                {{ t('connections.tryNow2') }}
              </el-button>
            </td>
          </template>
        </RecordsTable>
      </div>
      <aside
        class="details"
        :aria-label="t('connections.theChosenConnectionAndA')"
      >
        <template v-if="chosen">
          <h2>{{ chosen.name }}</h2>
          <p class="soft address">
            {{ chosen.address || kindWords[chosen.kind] }}
          </p>
          <FactList
            :facts="[
              { what: t('connections.state'), is: stateOf(chosen) }, { what: t('connections.success'), is: when(chosen.lastSuccess) },
              { what: t('connections.brings'), is: chosen.brings },
            ]"
          />
          <p
            v-if="chosen.lastProblem"
            :class="chosen.well ? 'soft' : 'failure'"
          >
            {{ chosen.well ? t('connections.lastProblem') : '' }}{{ chosen.lastProblem }}
          </p>
          <template v-if="chosen.notKept.length > 0">
            <h3>{{ t('connections.whatOfItIsNot') }}</h3>
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
            {{ t('connections.howPeopleSignInBy') }}
          </el-button>
          <el-button
            v-if="chosen.kind === 'houseDirectory'"
            size="small"
            @click="navigateTo('/company/directory')"
          >
            {{ t('connections.howItIsReadAnd') }}
          </el-button>
          <el-button
            v-if="chosen.kind === 'addressBook'"
            size="small"
            @click="leave(chosen)"
          >
            {{ t('connections.readItNoMoreAnd') }}
          </el-button>
        </template>
        <p v-if="all && !all.some(({ kind }) => kind === 'houseDirectory')">
          {{ t('connections.peopleCanComeFromThe') }}
          <NuxtLink to="/company/directory">
            {{ t('connections.readIt') }}
          </NuxtLink>
        </p>
        <h3>{{ t('connections.readAnAddressBookOf') }}</h3>
        <el-form
          label-position="top"
          @submit.prevent="add"
        >
          <FormField
            :label="t('common.name')"
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
            :label="t('common.address')"
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
            :label="t('connections.userNameThereIfIt')"
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
            :label="t('connections.passwordThere')"
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
            {{ t('connections.readItFromNowOn') }}
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
