<script setup lang="ts">
import type { CallId } from '~~/core/calls/model'
import { connectionOf, isOutside, membersOf, queueOf } from '~~/core/calls/questions'
import { waitingIn } from '~~/core/queues/turns'
import { formatNumber } from '~/composables/numbers'
import { listening } from '~~/core/console/ways'
import { howWaits } from '~~/core/console/watch'
import { spell } from '~~/core/durations/durations'
import { useDesk } from '~/stores/desk'
import { useDirectory } from '~/stores/directory'
import { useLive } from '~/stores/live'
import { useWays } from '~/stores/ways'

/** One call from near: what has happened to it, and what whoever answers for the whole can do for its caller. */
const props = defineProps<{ id: CallId }>()
defineEmits<{ close: [] }>()
const live = useLive()
const desk = useDesk()
const directory = useDirectory()
const ways = useWays()
const { found, search } = useDestinations()
const to = ref('')
const missing = ref<string>()

const call = computed(() => live.state?.calls.get(props.id))
const name = computed(() => call.value ? directory.nameOf(call.value.calling, call.value.party) : t('watch.thatCall'))
const wait = computed(() => call.value && howWaits(live.state!, call.value, desk.now))
/** Where the call is: where it waits, or who of ours has it. */
const at = computed(() => {
  const { value } = call
  if (!value) return null
  if (wait.value) return wait.value.at
  return membersOf(value).find(({ device }) => device !== value.calling && live.state!.devices.has(device))?.device ?? null
})
const where = computed(() => call.value && [
  directory.lineName(call.value),
  at.value && `${wait.value ? t('watch.waitsForAt', { time: spell(desk.now - wait.value.since) }) : t('watch.with')} ${directory.nameOf(at.value)}`,
].filter(Boolean).join(', '))
const mine = computed(() => Boolean(call.value && desk.device && connectionOf(call.value, desk.device)))
const queue = computed(() => call.value && queueOf(call.value)?.device)
const place = computed(() => queue.value && call.value ? waitingIn(live.state!, queue.value).indexOf(call.value) : -1)
/** Who waits, rings, is parked or talks outside is taken at once; who talks with somebody, or is on hold, rings here. */
const taken = computed(() => call.value && ((wait.value && wait.value.how !== 'onHold') || isOutside(call.value)))
/** Listening at the end of whoever of ours talks there, for whoever has the right. */
const listens = computed(() => {
  const console = ways.console()
  return console && at.value && !wait.value ? listening(console, at.value)[0] : undefined
})
const may = computed(() => desk.operates && call.value && !mine.value && !call.value.conference)

function take(): void {
  void desk.ask(taken.value
    ? { service: 'directedPickupCall', call: props.id }
    : { service: 'deflectCall', call: props.id, from: at.value!, to: desk.device! })
}

async function move(): Promise<void> {
  missing.value = to.value ? undefined : t('watch.toIsMissingNameA')
  if (missing.value || !at.value) return
  const from = call.value?.parked ? {} : { from: at.value }
  if (await desk.ask({ service: 'deflectCall', call: props.id, to: to.value, ...from })) to.value = ''
}
</script>

<template>
  <aside
    class="panel"
    :aria-label="t('watch.theChosenCall')"
  >
    <header>
      <h2>{{ name }}</h2>
      <el-button
        text
        size="small"
        @click="$emit('close')"
      >
        {{ t('common.close') }}
      </el-button>
    </header>
    <div
      class="content"
      tabindex="0"
      role="group"
      :aria-label="t('watch.whatCanBeDoneFor', { name })"
    >
      <template v-if="call">
        <p v-if="call.party?.name && call.party.number">
          {{ formatNumber(call.party.number) }}
        </p>
        <p>
          {{ where }}
        </p>
        <template v-if="may && at">
          <p class="button-row">
            <el-button
              type="primary"
              :disabled="!live.working"
              :aria-label="taken ? t('watch.takeName', { name }) : t('watch.haveRingHere', { name })"
              @click="take"
            >
              {{ taken ? t('watch.takeTheCall') : t('watch.haveItRingHere') }}
            </el-button>
            <el-button
              v-if="place > 0"
              :disabled="!live.working"
              :aria-label="t('watch.putFirst', { name })"
              @click="desk.ask({ service: 'putInQueue', call: id, place: 'first' })"
            >
              {{ t('watch.putFirst2') }}
            </el-button>
            <el-button
              v-if="listens"
              :disabled="!live.working"
              :aria-label="t('watch.listenToName', { name: directory.nameOf(at) })"
              @click="ways.perform(listens.deed)"
            >
              {{ listens.label }}
            </el-button>
          </p>
          <form @submit.prevent="move">
            <FormField
              :label="t('watch.moveTheCallTo')"
              for="watch-to"
              :error="missing"
            >
              <el-select
                id="watch-to"
                v-model="to"
                filterable
                remote
                :remote-method="search"
                :aria-label="t('watch.moveTheCallTo')"
                :placeholder="t('watch.nameOrNumber')"
              >
                <el-option
                  v-for="one in found"
                  :key="one.value"
                  v-bind="one"
                />
              </el-select>
            </FormField>
            <el-button
              native-type="submit"
              :disabled="!live.working"
            >
              {{ t('watch.moveIt') }}
            </el-button>
          </form>
        </template>
        <p
          v-else-if="mine"
          class="soft"
        >
          {{ t('watch.youAreInThisCall') }}
        </p>
        <h3>{{ t('common.whatHappened') }}</h3>
        <CallStory :call="call" />
      </template>
      <p
        v-else
        class="soft"
      >
        {{ t('watch.thisCallIsOver') }}
      </p>
    </div>
  </aside>
</template>

<style scoped></style>
