<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import { searchDirectory } from '~~/core/directory/search'
import { useDirectory } from '~/stores/directory'
import { useHandset } from '~/stores/handset'
import { useLive } from '~/stores/live'
import { useSession } from '~/stores/session'

useHead({ title: 'Handset · Estafette' })

const handset = useHandset()
const directory = useDirectory()
const session = useSession()
const live = useLive()
const route = useRoute()
const who = ref('')
const outside = 'outside'

const found = ref<{ value: string, label: string }[]>([])
function search(typed: string): void {
  found.value = searchDirectory(directory.index, typed, 12).flatMap(({ id }) => directory.numberOf(id) ? [optionOf(id)] : [])
}
const optionOf = (device: string) => ({ value: device, label: `${directory.nameOf(device)}, ${directory.numberOf(device)}` })
const options = computed(() => {
  const own = session.me?.device
  const fixed = [{ value: outside, label: 'A caller outside' }, ...(own ? [optionOf(own)] : [])]
  const chosen = who.value && who.value !== outside ? [optionOf(who.value)] : []
  return [...new Map([...fixed, ...chosen, ...found.value].map(option => [option.value, option])).values()]
})

async function choose(value: string): Promise<void> {
  who.value = value
  await handset.take(value === outside ? null : value)
}

useEventListener(window, 'pagehide', () => void handset.putDown())
onMounted(() => {
  const wanted = route.query.of
  void choose(typeof wanted === 'string' && (wanted === outside || live.state?.devices.has(wanted)) ? wanted : session.me?.device ?? outside)
})
onBeforeUnmount(() => void handset.putDown())
</script>

<template>
  <div class="records-page">
    <h1>Handset</h1>
    <div class="desk">
      <div class="chooser">
        <label for="handset-who">Whose handset?</label>
        <el-select
          id="handset-who"
          :model-value="who"
          filterable
          remote
          :remote-method="search"
          aria-label="Whose handset?"
          @update:model-value="choose"
        >
          <el-option
            v-for="option in options"
            :key="option.value"
            :value="option.value"
            :label="option.label"
          />
        </el-select>
        <p class="soft">
          A stand-in telephone. While you hold it, nobody simulated answers for its owner.
        </p>
      </div>
      <FailureNote :text="handset.failure" />
      <HandsetOutside v-if="who === outside" />
      <HandsetInside v-else-if="handset.device" />
    </div>
  </div>
</template>

<style scoped>
.desk {
  display: grid;
  gap: var(--space-4);
  max-width: 40rem;
  margin: 0 auto;
}

.chooser {
  display: grid;
  gap: var(--space-2);
}

label {
  font-weight: 600;
}
</style>
