<script setup lang="ts">
import { openPages } from '~~/core/calls/paging/pages'
import { loudspeakerEar } from '~~/core/sound/heard'
import { useDirectory } from '~/stores/directory'
import { useLive } from '~/stores/live'

/** The stand-in for all loudspeakers of the company: what is heard where. */
defineEmits<{ putDown: [] }>()
const live = useLive()
const directory = useDirectory()
/** At which of them this browser listens. */
const heard = ref<Record<string, boolean>>({})

const sites = computed(() => {
  const { state } = live
  if (!state) return []
  const pages = openPages(state)
  const zones = Object.values(state.company.zones)
  return Object.values(state.company.sites).flatMap(({ id, name }) => {
    const speakers = [...new Set(zones.filter(({ site }) => site === id).flatMap(zone => zone.speakers))]
    const all = speakers.map(speaker => ({ speaker, page: pages.find(({ to, reached }) => state.company.zones[to] && reached.includes(speaker)) }))
    return all.length > 0 ? [{ name, speakers: all }] : []
  })
})
</script>

<template>
  <section
    class="phone"
    :aria-label="t('common.loudspeakers')"
  >
    <p class="plate">
      <strong>{{ t('common.loudspeakers') }}</strong>
    </p>
    <div class="display">
      <template
        v-for="site in sites"
        :key="site.name"
      >
        <h2>{{ site.name }}</h2>
        <ul :aria-label="site.name">
          <li
            v-for="{ speaker, page } in site.speakers"
            :key="speaker"
            :class="{ sounds: page }"
          >
            <span>
              {{ page ? '◖' : '○' }} {{ speaker }}<template v-if="page">
                : {{ directory.nameOf(page.by) }} “{{ page.text || '…' }}”
              </template>
            </span>
            <HandsetEar
              :model-value="heard[speaker] ?? false"
              :device="loudspeakerEar(speaker)"
              listens
              :label="t('handset.hearTheLoudspeaker', { speaker })"
              @update:model-value="heard[speaker] = $event"
            />
          </li>
        </ul>
      </template>
      <p
        v-if="!sites.length"
        class="soft"
      >
        {{ t('handset.theCompanyHasNoLoudspeakers') }}
      </p>
    </div>
    <el-button @click="$emit('putDown')">
      {{ t('handset.putAway') }}
    </el-button>
  </section>
</template>

<style scoped>
h2 {
  font: 600 var(--type-2) var(--font-sign);
}

li {
  display: flex;
  align-items: center;
  justify-content: space-between;
  gap: var(--space-3);
}

.sounds {
  font-weight: 700;
}
</style>
