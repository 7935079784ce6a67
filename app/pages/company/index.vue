<script setup lang="ts">
import { type Part, parts } from '~~/core/company/changes'
import { fold } from '~~/core/directory/folding'
import { besideOf, partForms, searchedOf, titleOf } from '~/company/forms'
import { useLive } from '~/stores/live'

useHead({ title: t('company.companyEstafette') })

/** The company as administrators run it: every part, what is in it, and beside that whatever is chosen, to be changed. */
const live = useLive()
const company = computed(() => live.company)

type Chosen = Part | 'settings'
const asked = useRoute().query.part
const part = ref<Chosen>(parts.find(one => one === asked) ?? 'people')
/** What is being changed; `id` null: the settings, or something new. */
const chosen = shallowRef<{ id: string | null } | null>(null)
const text = ref('')
const done = ref('')

/** Of very many: one order that is made once, not with every two that are compared. */
const byName = new Intl.Collator('en', { numeric: true }).compare
const all = computed(() => {
  const { value: now } = company
  const which = part.value
  if (!now || which === 'settings') return []
  return Object.keys(now[which]).map(id => ({
    id, name: titleOf(now, which, id), beside: besideOf(now, which, id), searched: fold(searchedOf(now, which, id)),
  }))
    .sort((a, b) => byName(a.name, b.name))
})
const found = computed(() => {
  const wanted = fold(text.value.trim())
  return wanted === '' ? all.value : all.value.filter(({ searched }) => searched.includes(wanted))
})

function open(id: string | null): void {
  done.value = ''
  chosen.value = { id }
}
/** Every opening is another form. */
const opening = ref(0)
watch(chosen, () => opening.value++)

function close(words: string): void {
  chosen.value = null
  done.value = words
}
watch(part, () => {
  text.value = ''
  if (part.value === 'settings') open(null)
  else close('')
})
</script>

<template>
  <div class="records-page split">
    <div class="bar">
      <h1>{{ t('common.company') }}</h1>
      <el-select
        v-model="part"
        class="choice"
        :aria-label="t('company.whichPart')"
      >
        <el-option
          v-for="(of, name) in partForms"
          :key="name"
          :value="name"
          :label="t(of.title)"
        />
        <el-option
          value="settings"
          :label="t('company.settings')"
        />
      </el-select>
      <template v-if="part !== 'settings'">
        <el-input
          v-model="text"
          class="wide"
          clearable
          :placeholder="t('company.nameNumber')"
          :aria-label="t('company.filterByNameOrNumber')"
        />
        <el-button @click="open(null)">
          {{ t('company.newOneDialog', { one: t(partForms[part].one) }) }}
        </el-button>
      </template>
      <el-button
        v-else-if="!chosen"
        @click="open(null)"
      >
        {{ t('company.changeTheSettings') }}
      </el-button>
      <el-button
        v-if="part === 'people'"
        @click="navigateTo('/company/people')"
      >
        {{ t('company.fromAFile') }}
      </el-button>
      <el-button
        v-if="part === 'people'"
        @click="navigateTo('/company/directory')"
      >
        {{ t('company.directory') }}
      </el-button>
      <el-button @click="navigateTo('/first-hour')">
        {{ t('company.firstHour') }}
      </el-button>
      <el-button @click="navigateTo('/company/sounds')">
        {{ t('ownSounds.whatCallersHear') }}
      </el-button>
      <el-button @click="navigateTo('/company/changes')">
        {{ t('common.whatWasChanged') }}
      </el-button>
      <el-button @click="navigateTo('/company/file')">
        {{ t('company.companyFile') }}
      </el-button>
    </div>
    <p
      v-if="done"
      class="done"
      role="status"
    >
      {{ done }}
    </p>
    <div class="panes wide-form">
      <div class="list">
        <RecordsTable
          v-if="part !== 'settings'"
          :columns="[t('common.name'), `-${t('company.moreAboutIt')}`]"
          :rows="found"
          :key-of="row => row.id"
          :empty="company ? t('company.nothingLikeThat') : null"
          :class-of="row => row.id === chosen?.id ? 'chosen' : undefined"
        >
          <template #default="{ row }">
            <td>
              <button
                type="button"
                class="choose"
                :aria-pressed="row.id === chosen?.id"
                @click="open(row.id)"
              >
                {{ row.name }}
              </button>
            </td>
            <td>{{ row.beside }}</td>
          </template>
        </RecordsTable>
        <CompanyParts
          v-else-if="company"
          :company="company"
          @choose="part = $event"
        />
      </div>
      <aside
        class="details"
        :aria-label="t('company.whatIsChosen')"
      >
        <CompanyForm
          v-if="chosen && company"
          :id="chosen.id"
          :key="opening"
          :company="company"
          :part="part"
          @done="close"
          @close="close('')"
        />
        <TelephoneAccount
          v-if="chosen?.id && part === 'telephones'"
          :key="chosen.id"
          :device="chosen.id"
        />
        <template v-if="!chosen || !company">
          <p class="soft">
            {{ t('company.chooseSomethingToChangeIt') }}
          </p>
          <CompanyParts
            v-if="company && part !== 'settings'"
            :company="company"
            @choose="part = $event"
          />
        </template>
      </aside>
    </div>
  </div>
</template>

<style scoped>
.wide {
  width: 11rem;
}

.choice {
  width: 11rem;
}

.bar .el-button {
  margin: 0;
}

.panes.wide-form {
  grid-template-columns: minmax(0, 1fr) minmax(0, 38rem);
}

@media (max-width: 60rem) {
  .panes.wide-form {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
