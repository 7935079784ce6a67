<script setup lang="ts">
import { spell } from '~~/core/durations/durations'
import { channelsFree, channelsUsed } from '~~/core/calls/questions'
import { useDesk } from '~/stores/desk'
import { useDirectory } from '~/stores/directory'
import { useLive } from '~/stores/live'

/** Every trunk to the outside: its channels, one mark each, and whether it is in service. */
const live = useLive()
const desk = useDesk()
const directory = useDirectory()

const trunks = computed(() => Object.values(live.company!.trunks).map(({ id, name, channels, kept }) => {
  const state = live.state!
  const trouble = state.troubles.get(id)
  const used = channelsUsed(state, id)
  const faulty = trouble?.faulty ?? 0
  const out = trouble?.outBy ?? null
  const free = channelsFree(state, id)
  const words = [
    t('trunks.ofChannelsInUse', { used, channels }),
    faulty > 0 && t('trunks.outOfOrder', { faulty }),
    t('common.freeFree', { free }),
    kept > 0 && t('trunks.keptForEmergencies', { kept }),
  ].filter(Boolean).join(', ')
  return {
    id, name, out, words,
    state: out !== null
      ? t('trunks.outOfServiceForBy', { time: spell(desk.now - trouble!.since), name: directory.nameOf(out) })
      : faulty >= channels ? t('trunks.outOfOrderFor', { time: spell(desk.now - trouble!.since) }) : free === 0 ? t('trunks.allInUse') : t('trunks.inService'),
    alarm: out !== null || faulty > 0 || free === 0,
    marks: Array.from({ length: channels }, (_, index) => {
      if (index < used) return 'used'
      return index >= channels - faulty ? 'faulty' : index >= channels - faulty - kept ? 'kept' : ''
    }),
  }
}))
</script>

<template>
  <section
    class="trunks"
    aria-labelledby="trunks-title"
  >
    <h2 id="trunks-title">
      {{ t('trunks.trunks') }}
    </h2>
    <ul>
      <li
        v-for="trunk in trunks"
        :key="trunk.id"
        class="trunk"
      >
        <p>
          <strong>{{ t('trunks.trunkName', { name: trunk.name }) }}</strong> <span :class="{ alarm: trunk.alarm }">{{ trunk.state }}</span>
        </p>
        <p
          class="marks"
          aria-hidden="true"
        >
          <span
            v-for="(mark, index) in trunk.marks"
            :key="index"
            :class="['mark', mark]"
          />
        </p>
        <p class="soft">
          {{ trunk.words }}
        </p>
        <el-button
          v-if="desk.operates"
          size="small"
          :disabled="!live.working"
          :aria-label="t(trunk.out === null ? 'trunks.takeNameOutOfService' : 'trunks.putNameBackIntoService', { name: trunk.name })"
          @click="desk.ask({ service: 'setTrunkService', trunk: trunk.id, on: trunk.out !== null })"
        >
          {{ trunk.out === null ? t('trunks.takeOutOfService') : t('trunks.putBackIntoService') }}
        </el-button>
      </li>
    </ul>
  </section>
</template>

<style scoped>
.trunks {
  padding: 0 var(--space-4) var(--space-4);
}

h2 {
  padding-bottom: var(--space-2);
  font-size: var(--type-3);
}

ul {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(20rem, 1fr));
  gap: var(--space-4);
}

.trunk {
  display: grid;
  gap: var(--space-2);
  padding: var(--space-3) var(--space-4);
  background: var(--paper);
  border: 1px solid var(--edge);
  border-radius: var(--round);
}

.trunk .el-button {
  justify-self: start;
}

.marks {
  display: flex;
  flex-wrap: wrap;
  gap: var(--space-1);
}

.mark {
  width: 0.75rem;
  height: 0.75rem;
  border: 1px solid var(--edge-strong);
  border-radius: 50%;
}

.mark.used {
  background: var(--ink);
  border-color: var(--ink);
}

.mark.kept {
  border-style: dashed;
}

.mark.faulty {
  background: var(--alarm);
  border-color: var(--alarm);
  border-radius: 0;
}

.alarm {
  color: var(--alarm);
  font-weight: 700;
}

.soft {
  color: var(--ink-soft);
}
</style>
