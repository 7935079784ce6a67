<script setup lang="ts">
import type { ForwardKind } from '~~/core/calls/model'
import { pagesHeardAt } from '~~/core/calls/paging/pages'
import { callsByAge } from '~~/core/calls/questions'
import { readDialled } from '~/composables/numbers'
import { spell } from '~~/core/durations/durations'
import { useDesk } from '~/stores/desk'
import { useDirectory } from '~/stores/directory'
import { useLive } from '~/stores/live'

const props = defineProps<{ device: string }>()
defineEmits<{ putDown: [] }>()
const handset = useHandset(props.device)
const directory = useDirectory()
const live = useLive()
const desk = useDesk()
/** What the keys have written: to be dialled, or where the call goes on to. */
const number = ref('')
const keypad = ['1', '2', '3', '4', '5', '6', '7', '8', '9', '*', '0', '#']

/** One talks at it by this browser: what it hears comes from there. */
const talks = ref(false)
useToneAt(() => talks.value ? null : handset.tone)

const own = computed(() => live.state?.devices.get(props.device))
const name = computed(() => directory.nameOf(props.device))
/** Who speaks to it at once, without a call. */
const pages = computed(() => live.state ? pagesHeardAt(live.state, props.device) : [])
/** Where its calls go, and who else has said so until when. */
const forwards = computed(() => Object.entries(own.value?.forwarding ?? {}).map(([when, { to, by, until }]) => {
  const who = by ? t('handset.setBy', { name: directory.nameOf(by) }) : ''
  const left = until ? t('handset.forAnother', { time: spell(until - desk.now) }) : ''
  return { when: when as ForwardKind, words: t('handset.forwardWordsToNameWhoLeft', {
    forwardWords: forwardWords[when as ForwardKind], name: directory.destinationName(to), who, left,
  }) }
}))
const forwardWords: Record<ForwardKind, string> = { always: t('handset.callsGo'), busy: t('handset.whileBusyCallsGo'),
  noAnswer: t('handset.unansweredCallsGo') }
const notice = computed(() => {
  if (!own.value?.doNotDisturb) return null
  const { doNotDisturbBy, doNotDisturbUntil } = own.value
  const by = doNotDisturbBy ? t('handset.setBy', { name: directory.nameOf(doNotDisturbBy) }) : ''
  const until = doNotDisturbUntil ? t('handset.forAnother', { time: spell(doNotDisturbUntil - desk.now) }) : ''
  const { letThrough = [] } = own.value
  const except = letThrough.length > 0 ? t('handset.exceptLetThrough', { letThrough: letThrough.map(directory.destinationName).join(', ') }) : ''
  return t('handset.doNotDisturb', { by, until, except })
})

const mobile = computed(() => {
  const { company, agents } = live.state ?? {}
  const person = agents?.has(props.device) ? null : company?.telephones[props.device]?.person
  return (person && company?.people[person]?.mobile) ?? null
})

/** Who waits in a slot for anybody, or for somebody else. */
const parked = computed(() => live.state
  ? callsByAge(live.state).filter(call => call.parked && call.parked.for !== props.device && call.calling !== props.device)
  : [])

/** Does something with the number; what could be done with it is put away. */
async function useNumber(does: (written: string) => Promise<boolean>): Promise<void> {
  const written = number.value.trim()
  if (written && await does(written)) number.value = ''
}

const dial = () => useNumber(to => handset.ask({ service: 'makeCall', number: to }))
/** The number written rings in spite of do not disturb, or no longer. */
const letThrough = () => useNumber(number => handset.ask({ service: 'setLetThrough', number, on: !isLetThrough(number) }))
function isLetThrough(written: string): boolean {
  const dialled = readDialled(written)
  const number = dialled.kind === 'outside' ? dialled.e164 : dialled.kind === 'inside' ? dialled.digits : ''
  return own.value?.letThrough?.includes(number) ?? false
}
const passOn = (call: string) => useNumber(to => handset.ask({ service: 'singleStepTransferCall', call, to }))
const askFirst = (call: string) => useNumber(to => handset.ask({ service: 'consultationCall', call, number: to }))
const sendTones = (call: string) => useNumber(digits => handset.ask({ service: 'generateDigits', call, digits }))
</script>

<template>
  <section
    class="phone"
    :aria-label="t('handset.handsetOf', { name })"
  >
    <HandsetReceiver :state="handset.talking ? 'lifted' : handset.rings ? 'rings' : 'down'" />
    <p class="plate">
      <strong>{{ name }}</strong>
      <span class="extension">{{ directory.numberOf(device) }}</span>
    </p>
    <HandsetEar
      v-model="talks"
      :device="device"
    />
    <div class="display">
      <p
        v-if="handset.light"
        class="light"
        role="status"
      >
        {{ t('handset.message') }}
      </p>
      <p
        v-if="notice"
        class="strong"
      >
        {{ notice }}
      </p>
      <p
        v-for="forward in forwards"
        :key="forward.when"
        class="strong"
      >
        ↷ {{ forward.words }}
        <el-button
          size="small"
          @click="handset.ask({ service: 'setForwarding', when: forward.when, to: null })"
        >
          {{ t('handset.endIt') }}
        </el-button>
      </p>
      <p
        v-for="page in pages"
        :key="page.id"
        class="strong"
        role="status"
      >
        {{ t('handset.speaksTo', {
          name: directory.nameOf(page.by), more: page.private ? t('handset.you') : directory.nameOf(page.to), more2: page.text ? `: “${page.text}”` : ' …',
        }) }}
      </p>
      <HandsetCall
        v-for="call in handset.calls"
        :key="call.id"
        :call="call"
        :handset="handset"
      />
      <p
        v-if="!handset.calls.length"
        class="soft"
      >
        {{ t('handset.nothingRings') }}
      </p>
      <article
        v-for="call in handset.reserved"
        :key="`reserved ${call.id}`"
        class="note"
      >
        <p>
          <strong>{{ directory.nameOf(call.calling, call.party) }}</strong> {{ t('handset.waitsForYouInParked', {
            name: directory.nameOf(call.parked!.slot), name2: directory.nameOf(call.parked!.by), time: spell(desk.now - call.parked!.at),
          }) }}
        </p>
        <div class="keys">
          <el-button @click="handset.ask({ service: 'directedPickupCall', call: call.id })">
            {{ handset.calls.length ? t('handset.swapToThem') : t('handset.take') }}
          </el-button>
          <el-button
            v-if="handset.calls.length"
            @click="handset.joinReserved(call)"
          >
            {{ t('handset.join') }}
          </el-button>
        </div>
      </article>
      <article
        v-for="note in handset.outlived"
        :key="`outlived ${note.call}`"
        class="note"
      >
        <p>
          {{ t('handset.waitedForYouInFor', {
            name: directory.nameOf(note.caller, note.party), name2: directory.nameOf(note.slot), time: spell(note.ended - note.since),
          }) }}
        </p>
        <div class="keys">
          <el-button @click="handset.ask({ service: 'dismissNote', note: note.call })">
            {{ t('handset.putAway') }}
          </el-button>
        </div>
      </article>
      <div
        v-if="parked.length"
        class="keys"
      >
        <el-button
          v-for="call in parked"
          :key="`parked ${call.id}`"
          @click="handset.ask({ service: 'directedPickupCall', call: call.id })"
        >
          {{ t('handset.takeFrom', { name: directory.nameOf(call.calling, call.party), name2: directory.nameOf(call.parked!.slot) }) }}
        </el-button>
      </div>
      <HandsetQueues
        :handset="handset"
        :name="name"
      />
      <ul
        v-if="handset.messages.length"
        class="messages"
        :aria-label="t('common.messages')"
      >
        <MessageCard
          v-for="message in handset.messages"
          :key="message.id"
          :message="message"
          mine
          :handset="device"
          @read="handset.read(message.id)"
          @deal="handset.deal(message.id, $event)"
        />
      </ul>
    </div>
    <FailureNote :text="handset.failure" />
    <form
      class="dial"
      @submit.prevent="dial"
    >
      <el-input
        v-model="number"
        maxlength="40"
        :placeholder="t('handset.numberExtensionSlot')"
        :aria-label="t('common.number')"
      />
      <el-button
        type="primary"
        native-type="submit"
      >
        {{ t('handset.dial') }}
      </el-button>
    </form>
    <div class="ways">
      <el-button
        :disabled="!handset.talking"
        @click="handset.talking && passOn(handset.talking.id)"
      >
        {{ t('handset.passOn') }}
      </el-button>
      <el-button
        :disabled="!handset.talking"
        @click="handset.talking && askFirst(handset.talking.id)"
      >
        {{ t('handset.askFirst') }}
      </el-button>
      <el-button
        :disabled="!handset.talking"
        @click="handset.talking && sendTones(handset.talking.id)"
      >
        {{ t('handset.tones') }}
      </el-button>
    </div>
    <div class="lower">
      <div
        class="keypad"
        role="group"
        :aria-label="t('handset.keypadOf', { name })"
      >
        <button
          v-for="key in keypad"
          :key="key"
          type="button"
          @click="number += key"
        >
          {{ key }}
        </button>
      </div>
      <div class="functions">
        <el-button @click="handset.ask({ service: 'groupPickupCall', group: null })">
          {{ t('handset.pickUpInGroup') }}
        </el-button>
        <el-button
          :aria-pressed="own?.doNotDisturb"
          :class="{ set: own?.doNotDisturb }"
          @click="handset.ask({ service: 'setDoNotDisturb', on: !own?.doNotDisturb })"
        >
          {{ t('common.doNotDisturb') }}
        </el-button>
        <el-button
          :disabled="!number.trim()"
          @click="letThrough"
        >
          {{ isLetThrough(number) ? t('handset.letThroughNoMore') : t('handset.letThrough') }}
        </el-button>
        <el-button
          v-if="mobile"
          :aria-pressed="own?.ringsAlong ?? false"
          :class="{ set: own?.ringsAlong }"
          @click="handset.ask({ service: 'setRingAlong', on: !own?.ringsAlong })"
        >
          {{ t('handset.mobileRingsAlong') }}
        </el-button>
        <el-button
          :aria-label="t('handset.putDownTheHandsetOf', { name })"
          @click="$emit('putDown')"
        >
          {{ t('handset.putDown') }}
        </el-button>
      </div>
    </div>
  </section>
</template>

<style scoped>
.light {
  font-weight: 700;
}

.note {
  display: grid;
  gap: var(--space-2);
  padding-left: var(--space-3);
  border-left: 4px solid var(--ink);
}

.messages {
  display: grid;
  gap: var(--space-2);
}

.dial {
  display: flex;
  gap: var(--space-2);
}

.ways {
  display: grid;
  grid-template-columns: repeat(3, 1fr);
  gap: var(--space-2);
}

.lower {
  display: grid;
  grid-template-columns: 3fr 2fr;
  gap: var(--space-4);
}

.keypad {
  display: grid;
  grid-template-columns: repeat(3, 1fr);
  gap: var(--space-2);
}

.keypad button {
  padding: var(--space-2);
  background: var(--lit);
  border: 1px solid var(--lit-edge);
  border-radius: var(--round-large);
  color: var(--lit-ink);
  font: 600 var(--type-5) var(--font-sign);
  cursor: pointer;
}

.keypad button:active {
  background: var(--unlit);
}

.functions {
  display: grid;
  gap: var(--space-2);
}

.functions .set {
  background: var(--ink);
  color: var(--paper);
}
</style>
