<script setup lang="ts">
import { fold } from '~~/core/directory/folding'
import { formatNumber } from '~/composables/numbers'
import type { Contact } from '~~/shared/contacts'
import { exportFormats } from '~~/shared/contact-imports'
import { useContacts } from '~/stores/contacts'
import { useDialogs } from '~/stores/dialogs'
import { useSession } from '~/stores/session'

useHead({ title: 'Contacts · Estafette' })

/** Whom we know outside: all of them, and beside the list whoever is chosen. */
const contacts = useContacts()
const dialogs = useDialogs()
const session = useSession()

const text = ref('')
const whose = ref<'all' | 'shared' | 'own'>('all')
const category = ref('')

const matches = (contact: Contact, wanted: string, digits: string) =>
  fold(`${contact.name} ${contacts.companyOf(contact)?.name ?? ''} ${contact.category}`).includes(wanted)
  || (digits.length > 2 && contact.numbers.some(({ number }) => number.includes(digits)))
const found = computed(() => {
  const wanted = fold(text.value.trim())
  const digits = text.value.replace(/\D/g, '').replace(/^0+/, '')
  return [...contacts.known.values()]
    .filter(contact => (whose.value === 'all' || contact.private === (whose.value === 'own')) && (!category.value || contact.category === category.value))
    .filter(contact => wanted === '' || matches(contact, wanted, digits))
    .sort((a, b) => a.name.localeCompare(b.name))
})
const chosenId = ref<string | null>(null)
const chosen = computed(() => contacts.known.get(chosenId.value ?? '') ?? found.value[0] ?? null)
const numbersOf = ({ numbers }: Contact) => numbers.slice(0, 2).map(({ number }) => formatNumber(number)).join(', ')
const empty = computed(() => contacts.known.size > 0
  ? 'Nobody like that. Fewer letters find more.'
  : 'Nobody is known yet. Save whoever calls (_), add a contact, or bring them in from a file.')
const formatWords = { vcard3: 'vCard 3.0', vcard4: 'vCard 4.0', csv: 'CSV' }
</script>

<template>
  <div class="records-page split">
    <div class="bar">
      <h1>Contacts</h1>
      <el-input
        v-model="text"
        class="wide"
        clearable
        placeholder="Name, company, number"
        aria-label="Filter by name, company or number"
      />
      <el-radio-group
        v-model="whose"
        aria-label="Whose contacts"
      >
        <el-radio-button value="all">
          All
        </el-radio-button>
        <el-radio-button value="shared">
          Shared
        </el-radio-button>
        <el-radio-button value="own">
          My own
        </el-radio-button>
      </el-radio-group>
      <el-select
        v-model="category"
        class="choice"
        clearable
        placeholder="Any category"
        aria-label="Category"
      >
        <el-option
          v-for="one in contacts.categories"
          :key="one"
          :value="one"
          :label="one"
        />
      </el-select>
      <el-button @click="dialogs.contact = { id: null, name: '', number: null }">
        New contact…
      </el-button>
      <el-button
        v-if="session.may('moveContacts')"
        @click="navigateTo('/contacts/import')"
      >
        Bring in…
      </el-button>
      <span
        v-if="session.may('moveContacts')"
        class="out"
      >Give out as
        <el-button
          v-for="format in exportFormats"
          :key="format"
          tag="a"
          size="small"
          :href="`/api/contacts/export?format=${format}&which=${whose}`"
          download
        >
          {{ formatWords[format] }}
        </el-button></span>
    </div>
    <div class="panes">
      <div class="list">
        <RecordsTable
          :columns="['Name', 'Company', 'Numbers', 'Category', 'Seen by']"
          :rows="found"
          :key-of="row => row.id"
          :empty="empty"
          :class-of="row => row.id === chosen?.id ? 'chosen' : undefined"
        >
          <template #default="{ row }">
            <td>
              <button
                type="button"
                class="choose"
                :aria-pressed="row.id === chosen?.id"
                @click="chosenId = row.id"
              >
                {{ row.name }}
              </button>
            </td>
            <td>{{ contacts.companyOf(row)?.name ?? '' }}</td>
            <td class="numbers">
              {{ numbersOf(row) }}
            </td>
            <td>{{ row.category }}</td>
            <td>{{ row.private ? 'me' : 'all' }}</td>
          </template>
        </RecordsTable>
      </div>
      <ContactDetails
        v-if="chosen"
        :contact="chosen"
        @choose="chosenId = $event"
      />
    </div>
  </div>
</template>

<style scoped>
.wide {
  width: 12rem;
}

.choice {
  width: 9rem;
}

.out {
  display: flex;
  gap: var(--space-2);
  align-items: center;
}

.bar .el-button {
  margin: 0;
}

.out .el-button {
  text-decoration: none;
}

.numbers {
  font-variant-numeric: tabular-nums;
}
</style>
