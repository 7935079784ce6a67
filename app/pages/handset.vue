<script setup lang="ts">
import { useDirectory } from '~/stores/directory'
import { useLive } from '~/stores/live'
import { useSession } from '~/stores/session'

useHead({ title: t('handset.handsetEstafette') })

const directory = useDirectory()
const session = useSession()
const live = useLive()
const route = useRoute()
const outside = 'outside'
const loudspeakers = 'loudspeakers'

const isThere = (of: string) => of === outside || of === loudspeakers || live.state!.devices.has(of)

/** The telephones on the table, by the address of the page: their devices, or the one outside. */
const table = computed(() => {
  const wanted = [route.query.of].flat().filter(of => typeof of === 'string' && isThere(of)) as string[]
  return wanted.length > 0 || 'of' in route.query ? [...new Set(wanted)] : [session.me?.device ?? outside]
})

const found = ref<{ value: string, label: string }[]>([])
async function search(typed: string): Promise<void> {
  const hits = await directory.search(typed, 12)
  found.value = hits.flatMap(({ id }) => directory.numberOf(id) ? [optionOf(id)] : [])
}
const optionOf = (device: string) => ({ value: device, label: `${directory.nameOf(device)}, ${directory.numberOf(device)}` })
const options = computed(() => {
  const own = session.me?.device
  const standIns = [{ value: outside, label: t('handset.aCallerOutside') }, { value: loudspeakers, label: t('handset.theLoudspeakers') }]
  const all = [...standIns, ...(own ? [optionOf(own)] : []), ...found.value]
  return [...new Map(all.map(option => [option.value, option])).values()].filter(option => !table.value.includes(option.value))
})

function lay(devices: string[]): void {
  void navigateTo({ query: { of: devices } }, { replace: true })
}
</script>

<template>
  <div class="records-page">
    <div class="bar">
      <h1>{{ t('handset.handset') }}</h1>
      <label for="handset-who">{{ t('handset.whoseHandset') }}</label>
      <el-select
        id="handset-who"
        class="who"
        :model-value="''"
        filterable
        remote
        :remote-method="search"
        :placeholder="t('handset.addAHandset')"
        :aria-label="t('handset.whoseHandset')"
        @update:model-value="lay([...table, $event])"
      >
        <el-option
          v-for="option in options"
          :key="option.value"
          :value="option.value"
          :label="option.label"
        />
      </el-select>
      <p class="soft">
        {{ t('handset.standInTelephonesWhileYou') }}
      </p>
    </div>
    <div class="table">
      <template
        v-for="of in table"
        :key="of"
      >
        <HandsetOutside
          v-if="of === outside"
          @put-down="lay(table.filter(other => other !== of))"
        />
        <LoudspeakerPanel
          v-else-if="of === loudspeakers"
          @put-down="lay(table.filter(other => other !== of))"
        />
        <HandsetInside
          v-else
          :device="of"
          @put-down="lay(table.filter(other => other !== of))"
        />
      </template>
      <p
        v-if="!table.length"
        class="empty"
      >
        {{ t('handset.noTelephoneIsInYour') }}
      </p>
    </div>
  </div>
</template>

<style scoped>
.who {
  width: 20rem;
}

label {
  font-weight: 600;
}

.table {
  display: flex;
  flex-wrap: wrap;
  align-items: start;
  gap: var(--space-4);
}

.empty {
  flex: 1;
}
</style>
