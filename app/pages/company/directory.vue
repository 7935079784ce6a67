<script setup lang="ts">
import { leaving } from '~~/core/company/leaving'
import { lookUp } from '~~/core/company/lookups'
import type { Meaning } from '~~/core/company/people-table'
import { type HouseDirectoryLook, type HouseDirectoryState, houseDirectoryWanted } from '~~/shared/house-directory'
import { editCompany } from '~/company/edit'
import { titleOf } from '~/company/forms'
import { useLive } from '~/stores/live'

useHead({ title: t('company.peopleFromADirectoryEstafette') })

/** The house's own directory (LDAP): asked, looked at, kept in step with; and who has left it. */
const live = useLive()
const { failure, errors, sending, send } = useForm()
const { failure: leftFailure, sending: going, send: sendLeft } = useForm()
const state = ref<HouseDirectoryState | null>(null)
const form = ref({ address: '', startTls: true, user: '', password: '', base: '', filter: '(objectClass=person)', numbered: true })
const found = ref<HouseDirectoryLook | null>(null)
const as = ref<Meaning[]>([])
const said = ref('')
const labels = {
  address: t('common.address'), startTls: t('company.encrypted'), user: t('company.asWhomWeAsk'), password: t('company.passwordThere'),
  base: t('company.wherePeopleStand'), filter: t('company.whoOfThem'),
}

async function load(): Promise<void> {
  await send({}, async () => {
    state.value = await $fetch<HouseDirectoryState>('/api/house-directory')
    const { settings } = state.value
    if (!settings) return
    const { columns: _columns, ...kept } = settings
    form.value = { ...kept, password: '' }
  })
}
onMounted(load)

/** As it stands in the form, with what each attribute is taken for. */
async function wanted(columns: { attribute: string, meaning: Meaning }[]) {
  return houseDirectoryWanted.validate({ ...form.value, columns }, { abortEarly: false })
}
const meant = () => (found.value?.columns ?? []).map(({ attribute }, at) => ({ attribute, meaning: as.value[at] ?? 'nothing' }))

async function look(columns: { attribute: string, meaning: Meaning }[]): Promise<void> {
  said.value = ''
  await send(labels, async () => {
    const seen = await $fetch<HouseDirectoryLook>('/api/house-directory/look', { method: 'POST', body: await wanted(columns) })
    found.value = seen
    as.value = seen.columns.map(({ meaning }) => meaning)
  })
}
const firstLook = () => look(found.value ? meant() : state.value?.settings?.columns ?? [])

/** Said otherwise: seen again, with nothing done yet. */
async function mean(now: Meaning[]): Promise<void> {
  as.value = now
  if (now.some(meaning => ['first', 'last', 'name'].includes(meaning))) await look(meant())
}

async function keep(): Promise<void> {
  if (!await send(labels, async () => {
    state.value = await $fetch<HouseDirectoryState>('/api/house-directory', { method: 'PUT', body: await wanted(meant()) })
  })) return
  found.value = null
  form.value.password = ''
  said.value = state.value!.failure === null ? t('company.peopleComeFromTheDirectory', { here: here.value }) : ''
}

async function stop(): Promise<void> {
  await send({}, async () => {
    await $fetch('/api/house-directory', { method: 'DELETE' })
    state.value = await $fetch<HouseDirectoryState>('/api/house-directory')
    said.value = t('company.theDirectoryIsReadNo')
  })
}

const here = computed(() => state.value?.people.filter(({ gone }) => gone === null).length ?? 0)
const company = computed(() => live.company)
/** Who is in the directory no more, and here still. */
const gone = computed(() => (state.value?.people ?? []).filter(({ person, gone }) => gone !== null && company.value && lookUp(company.value.people, person)))
const successors = ref<Record<string, string | null>>({})
const nameOf = (id: string) => company.value ? titleOf(company.value, 'people', id) : id
const others = computed(() =>
  Object.keys(company.value?.people ?? {}).map(value => ({ value, label: nameOf(value) })).sort((a, b) => a.label.localeCompare(b.label)))
async function letGo(person: string): Promise<void> {
  const name = nameOf(person)
  if (await sendLeft({}, async () => {
    await editCompany(live.company!, leaving(live.company!, person, successors.value[person] || null))
  })) said.value = t('company.hasLeftItCanBe', { name })
}
const passwordLabel = computed(() => state.value?.settings ? t('company.passwordThereEmptyTheOne') : labels.password)
const when = (at: number | null) => at === null ? t('common.notYet') : shownAt(at).format('D MMM H:mm')
</script>

<template>
  <div class="records-page">
    <h1>{{ t('company.peopleFromADirectory') }}</h1>
    <p class="button-row">
      <el-button @click="navigateTo('/company')">
        {{ t('company.backToTheCompany') }}
      </el-button>
      <el-button @click="navigateTo('/connections')">
        {{ t('common.connections') }}
      </el-button>
    </p>
    <p
      v-if="said"
      class="done"
      role="status"
    >
      {{ said }}
    </p>
    <div class="two-parts">
      <el-form
        label-position="top"
        :aria-label="t('company.theDirectory')"
        @submit.prevent="firstLook"
      >
        <FormField
          :label="labels.address"
          for="directory-address"
          :error="errors.address"
        >
          <el-input
            id="directory-address"
            v-model="form.address"
            :placeholder="t('company.ldapDirectoryHouseExample')"
          />
        </FormField>
        <el-checkbox
          v-model="form.startTls"
          :label="t('company.encryptedWithStartTLSLdapsIs')"
        />
        <p
          v-if="!form.startTls && !form.address.startsWith('ldaps') && form.user"
          class="failure"
        >
          {{ t('company.thePasswordGoesOverThe') }}
        </p>
        <div class="pair">
          <FormField
            :label="t('company.asWhomWeAskEmpty')"
            for="directory-user"
            :error="errors.user"
          >
            <el-input
              id="directory-user"
              v-model="form.user"
              autocomplete="off"
            />
          </FormField>
          <FormField
            :label="passwordLabel"
            for="directory-password"
            :error="errors.password"
          >
            <el-input
              id="directory-password"
              v-model="form.password"
              type="password"
              autocomplete="new-password"
            />
          </FormField>
          <FormField
            :label="t('company.wherePeopleStandAPart')"
            for="directory-base"
            :error="errors.base"
          >
            <el-input
              id="directory-base"
              v-model="form.base"
              :placeholder="t('company.ouPeopleDcHouseDc')"
            />
          </FormField>
          <FormField
            :label="t('company.whoOfThemAFilter')"
            for="directory-filter"
            :error="errors.filter"
          >
            <el-input
              id="directory-filter"
              v-model="form.filter"
            />
          </FormField>
        </div>
        <el-checkbox
          v-model="form.numbered"
          :label="t('company.whoeverHasNoExtensionGets', { firstExtension: company?.settings.firstExtension ?? '' })"
        />
        <FailureNote :text="failure" />
        <p class="button-row">
          <el-button
            type="primary"
            native-type="submit"
            :loading="sending"
          >
            {{ t('company.seeWhoWouldCome') }}
          </el-button>
        </p>
      </el-form>
      <section
        class="part"
        aria-labelledby="directory-now"
      >
        <h2 id="directory-now">
          {{ t('common.now') }}
        </h2>
        <template v-if="state?.settings">
          <FactList
            :facts="[
              { what: t('company.lastRead'), is: when(state.readAt) }, { what: t('common.people'), is: String(here) },
              { what: t('company.noLongerInIt'), is: String(gone.length) },
              { what: t('company.refused'), is: String(state.refused.length) },
            ]"
          />
          <FailureNote :text="state.failure" />
          <ul v-if="state.refused.length">
            <li
              v-for="(one, at) in state.refused"
              :key="at"
            >
              {{ one.name || t('company.somebodyWithoutAName') }}: {{ one.why }}
            </li>
          </ul>
          <p class="button-row">
            <el-button
              size="small"
              :loading="sending"
              @click="stop"
            >
              {{ t('company.readItNoMore') }}
            </el-button>
          </p>
        </template>
        <p
          v-else
          class="soft"
        >
          {{ t('company.noDirectoryIsReadOnce') }}
        </p>
        <template v-if="gone.length">
          <h3>{{ t('company.theyHaveLeftTheDirectory') }}</h3>
          <FailureNote :text="leftFailure" />
          <div
            v-for="{ person, gone: since } in gone"
            :key="person"
            class="left"
            role="group"
            :aria-label="nameOf(person)"
          >
            <p><strong>{{ nameOf(person) }}</strong> <span class="soft">{{ t('company.sinceWhen', { when: when(since) }) }}</span></p>
            <el-select-v2
              v-model="successors[person]"
              :options="others.filter(({ value }) => value !== person)"
              filterable
              clearable
              :placeholder="t('company.theirTelephonesGoToo')"
              :aria-label="t('company.whoGetsTheTelephonesOf', { name: nameOf(person) })"
            />
            <el-button
              :loading="going"
              @click="letGo(person)"
            >
              {{ t('company.letGo', { name: nameOf(person) }) }}
            </el-button>
          </div>
        </template>
      </section>
    </div>
    <section
      v-if="found"
      :aria-label="t('company.whoWouldCome')"
    >
      <PeopleColumns
        :model-value="as"
        :legend="t('company.whatTheAttributesHoldGuessed')"
        :columns="found.columns.map(({ attribute, sample }) => ({ name: attribute, sample }))"
        @update:model-value="mean"
      />
      <PeopleRows
        from="The directory"
        :each="t('company.entry')"
        :rows="found.rows"
      >
        <el-button
          type="primary"
          :loading="sending"
          :disabled="!found.rows.length"
          @click="keep"
        >
          {{ t('company.bringThemInAndKeep') }}
        </el-button>
      </PeopleRows>
    </section>
  </div>
</template>

<style scoped>
.left {
  display: grid;
  gap: var(--space-3);
  padding-top: var(--space-4);
}
</style>
