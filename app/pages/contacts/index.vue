<script setup lang="ts">
import { fold } from '~~/core/directory/folding'
import { formatNumber } from '~/composables/numbers'
import type { Contact } from '~~/shared/contacts'
import { exportFormats } from '~~/shared/contact-imports'
import { useContacts } from '~/stores/contacts'
import { useDialogs } from '~/stores/dialogs'
import { useSession } from '~/stores/session'

useHead({ title: t('contacts.contactsEstafette') })

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
  ? t('contacts.nobodyLikeThatFewerLetters')
  : t('contacts.nobodyIsKnownYetSave'))
const formatWords = { vcard3: t('contacts.vCard30'), vcard4: t('contacts.vCard40'), csv: 'CSV' }
</script>

<template>
  <div class="records-page split">
    <div class="bar">
      <h1>{{ t('contacts.contacts') }}</h1>
      <el-input
        v-model="text"
        class="wide"
        clearable
        :placeholder="t('contacts.nameCompanyNumber')"
        :aria-label="t('contacts.filterByNameCompanyOr')"
      />
      <el-radio-group
        v-model="whose"
        :aria-label="t('contacts.whoseContacts')"
      >
        <el-radio-button value="all">
          {{ t('common.all') }}
        </el-radio-button>
        <el-radio-button value="shared">
          {{ t('contacts.shared') }}
        </el-radio-button>
        <el-radio-button value="own">
          {{ t('contacts.myOwn') }}
        </el-radio-button>
      </el-radio-group>
      <el-select
        v-model="category"
        class="choice"
        clearable
        :placeholder="t('contacts.anyCategory')"
        :aria-label="t('contacts.category')"
      >
        <el-option
          v-for="one in contacts.categories"
          :key="one"
          :value="one"
          :label="one"
        />
      </el-select>
      <el-button @click="dialogs.contact = { id: null, name: '', number: null }">
        {{ t('contacts.newContactDialog') }}
      </el-button>
      <el-button
        v-if="session.may('moveContacts')"
        @click="navigateTo('/contacts/import')"
      >
        {{ t('contacts.bringIn') }}
      </el-button>
      <span
        v-if="session.may('moveContacts')"
        class="out"
      >{{ t('contacts.giveOutAs') }}
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
          :columns="[t('common.name'), t('common.company'), t('contacts.numbers'), t('contacts.category'), t('contacts.seenBy')]"
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
            <td>{{ row.private ? t('contacts.me') : t('contacts.all') }}</td>
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
