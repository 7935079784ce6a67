<script setup lang="ts">
import { formatNumber } from '~/composables/numbers'
import { type Contact, contactKinds, contactMarks, type NewContact, newContact } from '~~/shared/contacts'
import { useContacts } from '~/stores/contacts'
import { useDesk } from '~/stores/desk'
import { useDialogs } from '~/stores/dialogs'
import { useSession } from '~/stores/session'

/** Writes down who calls: a company, somebody of a company, somebody for themselves. Who may be known already is offered first. */
const contacts = useContacts()
const desk = useDesk()
const dialogs = useDialogs()
const session = useSession()
const { failure, errors, sending, send, clear } = useForm()

const kindWords = { company: t('common.company'), person: t('dialogs.personOfACompany'), individual: t('dialogs.individual') }
const markWords = { none: t('dialogs.none'), important: t('dialogs.important'), nuisance: t('dialogs.nuisance') }
const empty = {
  kind: 'person' as const, name: '', company: null, numbers: [], addresses: [], category: '', language: '', note: '', readFirst: false, mark: 'none' as const,
  private: false,
}
const form = ref<NewContact>({ ...empty })
/** A company that is written down with its first person. */
const firm = ref('')
/** As they are typed: with commas between. */
const addresses = ref('')
const shown = computed(() => dialogs.contact)
const before = computed(() => shown.value?.id ? contacts.known.get(shown.value.id) : undefined)
/** As it was when the dialog opened: what others change meanwhile is not written over. */
const seen = ref<Contact | undefined>()

watch(shown, (now) => {
  clear()
  if (!now) return
  seen.value = now.id ? contacts.known.get(now.id) : undefined
  const { id: _id, version: _version, book: _book, ...fields } = seen.value ?? { id: '', version: 1, book: null, ...empty }
  const numbers = now.number ? [...fields.numbers, { number: formatNumber(now.number), kind: 'work' as const }] : fields.numbers
  form.value = {
    ...fields, name: fields.name || (now.name ?? ''), kind: seen.value?.kind ?? 'individual',
    private: fields.private || (!seen.value && !session.may('changeContacts')),
    numbers: [...numbers.map(one => ({ ...one, number: formatNumber(one.number) })), ...numbers.length === 0 ? [{ number: '', kind: 'work' as const }] : []],
  }
  addresses.value = fields.addresses.join(', ')
  firm.value = seen.value ? contacts.companyOf(seen.value)?.name ?? '' : ''
}, { immediate: true })

const alike = computed(() => {
  const numbers = form.value.numbers.map(({ number }) => number)
  return shown.value ? contacts.alike(form.value.name, numbers, seen.value?.id ?? null).slice(0, 3) : []
})

/** Whose role does not change what all see keeps contacts of their own. */
const shares = computed(() => session.may('changeContacts'))
/** Nothing can be changed here, and why. */
const fixed = computed(() => seen.value?.book
  ? t('dialogs.comesFromTheAddressBook', { book: seen.value.book })
  : seen.value && !seen.value.private && !shares.value ? t('dialogs.allSeeThisContactAnd') : null)

async function save(): Promise<void> {
  if (fixed.value) {
    dialogs.contact = null
    return
  }
  const labels = {
    ...Object.fromEntries(Array.from({ length: 10 }, (_, at) => [`addresses[${at}]`, t('dialogs.addressN', { n: at + 1 })])), addresses: t('dialogs.addresses'),
    name: t('common.name'), company: t('common.company'), numbers: t('dialogs.numbers'), note: t('dialogs.note'), language: t('dialogs.language'),
    category: t('dialogs.category'),
  }
  const done = await send(labels, async () => {
    const numbers = form.value.numbers.filter(({ number }) => number.trim() !== '')
    const company = form.value.kind === 'person' ? await companyNamed(firm.value.trim()) : null
    const fields = { ...form.value, numbers, addresses: addresses.value.split(/[\s,;]+/).filter(Boolean), company }
    const body = await newContact.validate(fields, { abortEarly: false })
    if (seen.value) await $fetch(`/api/contacts/${seen.value.id}`, { method: 'PUT', body: { ...body, version: seen.value.version } })
    else await $fetch('/api/contacts', { method: 'POST', body })
    await contacts.refresh()
  })
  if (!done) return
  desk.say(t('dialogs.isWrittenDown', { name: form.value.name }))
  dialogs.contact = null
}

/** The company that is meant; one that is not known yet is written down too. */
async function companyNamed(name: string): Promise<string | null> {
  if (name === '') return null
  const known = contacts.companies.find(one => one.name.toLowerCase() === name.toLowerCase() && (form.value.private || !one.private))
  return known?.id ?? (await $fetch<Contact>('/api/contacts', { method: 'POST', body: { ...empty, kind: 'company', name, private: form.value.private } })).id
}

/** What is typed here belongs to somebody who is known: two that are there become one, a new number goes to who was there. */
async function same(other: Contact): Promise<void> {
  const done = await send({}, async () => {
    if (seen.value) await $fetch(`/api/contacts/${seen.value.id}/merge`, { method: 'POST', body: { version: seen.value.version, other: other.id } })
    else {
      const { id, version, book: _book, ...fields } = other
      const numbers = form.value.numbers.filter(({ number }) => number.trim() !== '' && !other.numbers.some(one => formatNumber(one.number) === number))
      await $fetch(`/api/contacts/${id}`, { method: 'PUT', body: { ...fields, version, numbers: [...other.numbers, ...numbers] } })
    }
    await contacts.refresh()
  })
  if (!done) return
  desk.say(t('dialogs.oneContactNow', { name: seen.value?.name ?? other.name }))
  dialogs.contact = null
}

async function remove(): Promise<void> {
  const { id, version, name } = seen.value!
  const done = await send({}, async () => {
    await $fetch(`/api/contacts/${id}`, { method: 'DELETE', query: { version } })
    await contacts.refresh()
  })
  if (!done) return
  desk.say(t('dialogs.isRemoved', { name }))
  dialogs.contact = null
}
</script>

<template>
  <FormDialog
    :open="shown !== null"
    :title="fixed ? seen!.name : seen ? t('dialogs.editName', {
      name: before?.name ?? seen.name,
    }) : shown?.number ? t('common.saveCaller') : t('dialogs.newContact')"
    :action="fixed ? t('common.close') : t('dialogs.save')"
    :failure="failure"
    :sending="sending"
    first="contact-name"
    top="5vh"
    @close="dialogs.contact = null"
    @send="save"
  >
    <ul
      v-if="alike.length"
      class="alike"
      :aria-label="t('dialogs.knownAlready')"
    >
      <li
        v-for="other in alike"
        :key="other.id"
      >
        <span>{{ t('dialogs.knownAlready2') }} <strong>{{ other.name }}</strong> {{ other.numbers.map(({ number }) => formatNumber(number)).join(', ') }}</span>
        <el-button
          v-if="!other.book && !fixed && (shares || other.private)"
          size="small"
          @click="same(other)"
        >
          {{ seen ? t('dialogs.makeThemOne') : t('dialogs.addTheNumberThere') }}
        </el-button>
      </li>
    </ul>
    <p
      v-if="fixed"
      class="elsewhere"
    >
      {{ fixed }}
    </p>
    <fieldset :disabled="fixed !== null">
      <FormField
        :label="t('common.name')"
        for="contact-name"
        :error="errors.name"
      >
        <el-input
          id="contact-name"
          v-model="form.name"
          maxlength="100"
        />
      </FormField>
      <FormField
        :label="t('dialogs.whoItIs')"
        for="contact-kind"
      >
        <el-radio-group
          id="contact-kind"
          v-model="form.kind"
          :aria-label="t('dialogs.whoItIs')"
        >
          <el-radio
            v-for="kind in contactKinds"
            :key="kind"
            :value="kind"
            :label="kindWords[kind]"
          />
        </el-radio-group>
      </FormField>
      <FormField
        v-if="form.kind === 'person'"
        :label="t('common.company')"
        for="contact-company"
        :error="errors.company"
      >
        <el-input
          id="contact-company"
          v-model="firm"
          maxlength="100"
          list="companies"
        />
        <datalist id="companies">
          <option
            v-for="company in contacts.companies"
            :key="company.id"
            :value="company.name"
          />
        </datalist>
      </FormField>
      <ContactNumbers
        v-model="form.numbers"
        :errors="errors"
      />
      <FormField
        :label="t('dialogs.note')"
        for="contact-note"
        :error="errors.note"
      >
        <el-input
          id="contact-note"
          v-model="form.note"
          type="textarea"
          :rows="2"
          maxlength="1000"
        />
      </FormField>
      <el-checkbox
        v-model="form.readFirst"
        :label="t('dialogs.readTheNoteBeforeAnswering')"
      />
      <el-checkbox
        v-model="form.private"
        :disabled="!shares"
        :label="t('dialogs.forMeAloneNobodyElse')"
      />
      <div class="pair">
        <FormField
          :label="t('dialogs.category')"
          for="contact-category"
          :error="errors.category"
        >
          <el-input
            id="contact-category"
            v-model="form.category"
            maxlength="60"
            list="categories"
          />
          <datalist id="categories">
            <option
              v-for="category in contacts.categories"
              :key="category"
              :value="category"
            />
          </datalist>
        </FormField>
        <FormField
          :label="t('dialogs.addressesForTextMessages')"
          for="contact-addresses"
          :error="Object.entries(errors).find(([field]) => field.startsWith('addresses'))?.[1]"
        >
          <el-input
            id="contact-addresses"
            v-model="addresses"
            maxlength="1000"
            placeholder="somebody@example.org"
          />
        </FormField>
      </div>
      <div class="pair">
        <FormField
          :label="t('dialogs.language')"
          for="contact-language"
          :error="errors.language"
        >
          <el-input
            id="contact-language"
            v-model="form.language"
            maxlength="40"
          />
        </FormField>
        <FormField
          :label="t('dialogs.mark')"
          for="contact-mark"
        >
          <el-radio-group
            id="contact-mark"
            v-model="form.mark"
            :aria-label="t('dialogs.mark')"
          >
            <el-radio
              v-for="mark in contactMarks"
              :key="mark"
              :value="mark"
              :label="markWords[mark]"
            />
          </el-radio-group>
        </FormField>
      </div>
    </fieldset>
    <el-button
      v-if="seen && !fixed"
      size="small"
      text
      @click="remove"
    >
      {{ t('dialogs.removeThisContact') }}
    </el-button>
  </FormDialog>
</template>

<style scoped>
fieldset {
  padding: 0;
  margin: 0;
  border: 0;
}

.elsewhere {
  padding-bottom: var(--space-3);
  font-weight: 600;
}

.alike li {
  display: flex;
  gap: var(--space-3);
  align-items: center;
  justify-content: space-between;
  padding: var(--space-2) var(--space-3);
  margin-bottom: var(--space-3);
  background: var(--paper-deep);
}

.pair {
  display: grid;
  grid-template-columns: 10rem minmax(0, 1fr);
  gap: var(--space-5);
}

@media (max-width: 40rem) {
  .pair {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
