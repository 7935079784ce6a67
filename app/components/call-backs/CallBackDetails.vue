<script setup lang="ts">
import { maySeeTo } from '~~/core/calls/call-backs/call-backs'
import type { CallBack, DeviceId } from '~~/core/calls/model'
import { spell } from '~~/core/durations/durations'
import { formatNumber } from '~/composables/numbers'
import { useDesk } from '~/stores/desk'
import { useDirectory } from '~/stores/directory'
import { useLive } from '~/stores/live'

/** One promise: who it is, how it stands, and what can be done. */
const props = defineProps<{ promise: CallBack }>()
const desk = useDesk()
const live = useLive()
const directory = useDirectory()
const { callerOf, standing, ending, promising } = useCallBackWords()

const may = computed(() => desk.device !== null && props.promise.end === null && maySeeTo(live.state!, props.promise, desk.device))
const mine = computed(() => props.promise.assigned === desk.device)
const name = computed(() => callerOf(props.promise))
/** Operators, and members of its queue. */
const colleagues = computed(() => {
  const { groups, settings } = live.company!
  const ids = new Set([...groups[settings.operators]?.members ?? [], ...groups[props.promise.queue]?.members ?? []])
  return [...ids].map(id => ({ id, name: directory.nameOf(id) })).sort((a, b) => a.name.localeCompare(b.name))
})
const assigned = computed({
  get: () => props.promise.assigned ?? '',
  set: (to: DeviceId | '') => { void desk.ask({ service: 'assignCallBack', callBack: props.promise.id, to: to || null }) },
})

const closing = ref(false)
const word = ref('')
watch(() => props.promise.id, () => {
  closing.value = false
  word.value = ''
})

async function end(): Promise<void> {
  const asked = { service: 'endCallBack', callBack: props.promise.id, ...(word.value.trim() && { word: word.value }) } as const
  await desk.ask(asked)
}
</script>

<template>
  <aside
    class="details"
    :aria-label="t('callBacks.theChosenCallBack')"
  >
    <h2>{{ name }}</h2>
    <p v-if="promise.party.number">
      {{ formatNumber(promise.party.number) }}
    </p>
    <p class="soft">
      {{ t('callBacks.forTheTheyHaveWaited', {
        promising: promising(promise), name: directory.nameOf(promise.queue), time: spell((promise.endedAt ?? desk.now) - promise.since),
      }) }}
    </p>
    <p class="stands">
      {{ promise.end ? `${ending(promise)}.` : `${standing(promise)}.` }}
      {{ promise.tries > 0 ? t('callBacks.rungOnce', { count: promise.tries }) : '' }}
    </p>
    <p
      v-if="promise.word"
      class="soft"
    >
      {{ t('callBacks.theyWereToldByText', { word: say(promise.word) }) }}
    </p>
    <template v-if="may">
      <p class="button-row">
        <el-button
          type="primary"
          :disabled="!live.working"
          :aria-label="t('callBacks.callBackNow', { name })"
          @click="desk.ask({ service: 'makeCallBack', callBack: promise.id })"
        >
          {{ t('callBacks.callBackNow2') }}
        </el-button>
        <el-button
          :disabled="!live.working || mine"
          @click="assigned = desk.device!"
        >
          {{ t('callBacks.iDoIt') }}
        </el-button>
        <el-button
          :aria-expanded="closing"
          :disabled="!live.working"
          @click="closing = !closing"
        >
          {{ t('callBacks.doneOtherwise') }}
        </el-button>
      </p>
      <form
        v-if="closing"
        class="done-form"
        @submit.prevent="end"
      >
        <label for="call-back-word">{{ t('callBacks.aWordToThemBy') }}</label>
        <el-input
          id="call-back-word"
          v-model="word"
          type="textarea"
          :rows="2"
          maxlength="300"
        />
        <el-button native-type="submit">
          {{ t('callBacks.endTheCallBack') }}
        </el-button>
      </form>
      <label
        for="call-back-who"
        class="soft"
      >{{ t('callBacks.whoDoesIt') }}</label>
      <el-select
        id="call-back-who"
        v-model="assigned"
        :aria-label="t('callBacks.whoDoesIt')"
        filterable
        :disabled="!live.working"
        :empty-values="[null, undefined]"
      >
        <el-option
          value=""
          :label="t('callBacks.whoeverIsFree')"
        />
        <el-option
          v-for="one in colleagues"
          :key="one.id"
          :value="one.id"
          :label="one.name"
        />
      </el-select>
    </template>
    <template v-if="promise.party.number">
      <h3>{{ t('callBacks.callsWithThisNumber') }}</h3>
      <EarlierCalls :number="promise.party.number" />
    </template>
  </aside>
</template>

<style scoped>
.stands::first-letter {
  text-transform: uppercase;
}

.stands {
  padding-top: var(--space-3);
  font-weight: 650;
}

.done-form {
  display: grid;
  gap: var(--space-2);
  justify-items: start;
  padding-bottom: var(--space-4);
}
</style>
