<script setup lang="ts">
import { formatNumber } from '~/composables/numbers'
import { longestLabel, type SpeedKey } from '~~/core/speed-keys/key'
import type { LogRow } from '~~/shared/log'
import { useContacts } from '~/stores/contacts'
import { useDesk } from '~/stores/desk'
import { useDialogs } from '~/stores/dialogs'
import { useLive } from '~/stores/live'
import { useSpeedKeys } from '~/stores/speed-keys'

const props = defineProps<{ row: LogRow }>()
const emit = defineEmits<{ changed: [] }>()
const desk = useDesk()
const live = useLive()
const dialogs = useDialogs()
const speedKeys = useSpeedKeys()
const contacts = useContacts()
const failure = ref<string | null>(null)
const keyMade = ref('')
watch(() => props.row.id, () => {
  failure.value = null
  keyMade.value = ''
})

/** A speed key for whoever it was. */
const key = computed<SpeedKey | null>(() => {
  const { number } = props.row
  if (!number || number === desk.device) return null
  return number.startsWith('+') ? { kind: 'number', of: number, label: props.row.name?.slice(0, longestLabel) ?? null } : speedKeys.keyOf(number)
})

function saveCaller(): void {
  dialogs.contact = contacts.pageOf(props.row.number, props.row.name)
}

async function makeKey(): Promise<void> {
  keyMade.value = await speedKeys.add(key.value) ? t('log.thereIsAKeyOn', { name: speedKeys.open!.name }) : ''
}

const lines = computed(() => storyOf(props.row))
const open = computed(() => isMissed(props.row))

async function deal(calledBack: boolean): Promise<void> {
  try {
    await $fetch(`/api/calls/${props.row.id}/dealt-with`, { method: 'POST', body: { calledBack } })
    desk.say(`${whoCalled(props.row)}: ${calledBack ? t('log.calledBack') : t('log.dealtWith')}`)
    emit('changed')
  }
  catch (error) {
    failure.value = sentenceOf(error)
  }
}

/** They are promised a call-back already. */
const promised = computed(() => live.state?.callBacks.some(({ party }) => party.number !== null && party.number === props.row.number) ?? false)

/** Whoever serves the line calls them back; the missed call is dealt with. */
async function promise(): Promise<void> {
  const { number, name, line } = props.row
  const target = live.company?.lines[line ?? '']?.target
  const queue = target !== undefined && live.company?.groups[target]?.distribution === 'queue' ? target : undefined
  const asked = { service: 'promiseCallBack', number: number!, ...(name && { name }), ...(line && { line }), ...(queue && { queue }) } as const
  if (!await desk.ask(asked)) return
  if (open.value) await deal(false)
}

/** Calls back, or calls again whom one has called; the band above then shows the call. */
async function call(): Promise<void> {
  const { row } = props
  const back = row.direction === 'inbound' || row.devices[0] !== desk.device
  if (await desk.ask({ service: 'makeCall', number: back ? row.number! : row.dialled }) && back && open.value && desk.operates) await deal(true)
}
</script>

<template>
  <aside
    class="details"
    :aria-label="t('log.theChosenCall')"
  >
    <h2>{{ whoCalled(row) }}</h2>
    <p v-if="row.name && row.number">
      {{ formatNumber(row.number) }}
    </p>
    <p class="soft">
      {{ shownAt(row.startedAt).format('dddd, D MMMM YYYY, H:mm:ss') }}
    </p>
    <p class="became">
      {{ becameOf(row) }}
    </p>
    <p v-if="row.dealtWith">
      {{ t('log.moreByByAt', {
        more: row.dealtWith.calledBack ? t('log.calledBack2') : t('log.dealtWith2'), by: row.dealtWith.by, at: shownAt(row.dealtWith.at).format('D MMM H:mm'),
      }) }}
    </p>
    <p class="button-row">
      <el-button
        v-if="desk.device && row.number && row.number !== desk.device"
        :disabled="!live.working"
        :aria-label="t('log.callWhoCalled', { whoCalled: whoCalled(row) })"
        @click="call"
      >
        {{ row.direction === 'inbound' ? t('log.callBack') : t('log.callAgain') }}
      </el-button>
      <el-button
        v-if="open && desk.operates"
        @click="deal(false)"
      >
        {{ t('log.dealtWith2') }}
      </el-button>
      <el-button
        v-if="desk.operates && row.direction === 'inbound' && row.number?.startsWith('+') && !promised"
        :disabled="!live.working"
        :aria-label="t('log.promiseACallBack', { whoCalled: whoCalled(row) })"
        @click="promise"
      >
        {{ t('log.promiseACallBack2') }}
      </el-button>
      <NuxtLink
        v-if="promised"
        to="/call-backs"
      >
        {{ t('log.promisedACallBack') }}
      </NuxtLink>
      <el-button
        v-if="desk.operates && row.direction === 'inbound' && row.number"
        :disabled="!live.working"
        @click="dialogs.blocking = row.number"
      >
        {{ t('log.block') }}
      </el-button>
      <el-button
        v-if="contacts.sees && row.number?.startsWith('+')"
        @click="saveCaller"
      >
        {{ contacts.of(row.number) ? t('log.editContact') : t('common.saveCaller') }}
      </el-button>
      <el-button
        v-if="desk.operates && key"
        @click="makeKey"
      >
        {{ t('log.makeAKey') }}
      </el-button>
    </p>
    <p
      v-if="keyMade"
      role="status"
    >
      {{ keyMade }}
    </p>
    <FailureNote :text="failure" />
    <h3>{{ t('common.whatHappened') }}</h3>
    <StoryList :lines="lines" />
    <template v-if="row.number && row.direction !== 'internal'">
      <h3>{{ t('log.otherCalls') }}</h3>
      <EarlierCalls
        :number="row.number"
        :except="row.id"
      />
    </template>
  </aside>
</template>

<style scoped>
.became {
  padding-top: var(--space-3);
  font-weight: 650;
}
</style>
