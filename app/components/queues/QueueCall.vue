<script setup lang="ts">
import { heatOf } from '~~/core/console/lateness'
import type { Call } from '~~/core/calls/model'
import { type QueueBoard, usedOf } from '~~/core/queues/board'
import { tellPlace } from '~~/core/queues/expected-wait'
import { spell } from '~~/core/durations/durations'
import { formatNumber } from '~/composables/numbers'
import { useDesk } from '~/stores/desk'
import { useDirectory } from '~/stores/directory'
import { useLive } from '~/stores/live'
import { useWays } from '~/stores/ways'

/** Who waits in a queue, and what can be done for them. */
const props = defineProps<{ call: Call, since: number, board: QueueBoard }>()
/** The operator has given the caller another place. */
const emit = defineEmits<{ placed: [] }>()
const desk = useDesk()
const live = useLive()
const directory = useDirectory()
const ways = useWays()

const name = computed(() => directory.nameOf(props.call.calling, props.call.party))
const number = computed(() => props.call.party?.name && props.call.party.number ? formatNumber(props.call.party.number) : '')
const used = computed(() => usedOf({ since: props.since, promise: props.board.promise }, desk.now))
const about = computed(() => {
  const { line, passing, refusedBy } = props.call
  const left = refusedBy.length > 0 && t('queues.leftBy', { count: refusedBy.length })
  return [directory.line(line)?.name, passing && t('queues.fromName', { name: directory.nameOf(passing.by) }), left].filter(Boolean).join(' · ')
})
const course = computed(() => {
  const { connections, hunting, told } = props.call
  const rings = connections.filter(({ offeredBy }) => offeredBy).map(({ device }) => directory.nameOf(device))
  const tries = hunting?.group === props.board.id ? hunting.tried.length : 0
  return [rings.length > 0 && t('queues.ringsAt', { rings: rings.join(', ') }), tries > 1 && t('queues.triesTries', { tries }), told
    && t('queues.heardTellPlace', { place: say(tellPlace(told)) })].filter(Boolean).join(' · ')
})
const said = computed(() => props.call.caption?.device === props.call.calling ? say(props.call.caption.text) : null)

async function put(place: 'first' | 'last'): Promise<void> {
  if (await desk.ask({ service: 'putInQueue', call: props.call.id, place })) emit('placed')
}

const acts = computed(() => {
  const { id } = props.call
  const first = props.board.waiting[0]?.call.id === id
  return [
    {
      label: t('common.answer'), words: t('queues.answerFromThe', { name: name.value, name2: props.board.name }),
      act: () => ways.perform({ do: 'ask', request: { service: 'directedPickupCall', call: id } }),
    },
    { label: t('queues.carryTo'), words: t('queues.carryOutOfThe', { name: name.value, name2: props.board.name }), act: () => desk.carry(id) },
    {
      label: t('queues.operators'), words: t('queues.sendToTheOperators', { name: name.value }),
      act: () => desk.ask({ service: 'deflectCall', call: id, from: props.board.id, to: live.company!.settings.operators }),
    },
    ...props.board.waiting.length > 1
      ? [{
          label: first ? t('queues.last') : t('queues.first'), words: t('queues.putNameMore', {
            name: name.value, more: first ? t('queues.lastInline') : t('queues.firstInline'),
          }),
          act: () => put(first ? 'last' : 'first'),
        }]
      : [],
  ]
})
</script>

<template>
  <li class="call">
    <RibbonTime
      :used="used"
      :heat="heatOf(used)"
    />
    <p class="who">
      <span>{{ spell(desk.now - since) }}</span> <strong>{{ name }}</strong> {{ number }}
    </p>
    <p class="about">
      {{ [about, course].filter(Boolean).join(' · ') }}
    </p>
    <p
      v-if="said"
      class="about"
    >
      “{{ said }}”
    </p>
    <p
      v-if="desk.operates"
      class="acts"
    >
      <el-button
        v-for="(act, index) in acts"
        :key="act.label"
        size="small"
        :type="index === 0 ? 'primary' : ''"
        :disabled="!live.working"
        :aria-label="act.words"
        @click="act.act"
      >
        {{ act.label }}
      </el-button>
    </p>
  </li>
</template>

<style scoped>
.call {
  position: relative;
  display: grid;
  gap: var(--space-1);
  padding: var(--space-2) var(--space-3);
  overflow: hidden;
  border: 1px solid var(--edge);
  border-radius: var(--round);
}

.call p {
  position: relative;
  overflow-wrap: anywhere;
}

.who {
  font-size: var(--type-3);
}

.about {
  color: var(--ink-soft);
}

.acts {
  display: flex;
  gap: var(--space-2);
}

.acts .el-button {
  margin: 0;
}
</style>
