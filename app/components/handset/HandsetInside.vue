<script setup lang="ts">
import { callsByAge } from '~~/core/calls/questions'
import { spell } from '~~/core/durations/durations'
import { useDesk } from '~/stores/desk'
import { useDirectory } from '~/stores/directory'
import { useHandset } from '~/stores/handset'
import { useLive } from '~/stores/live'

const handset = useHandset()
const directory = useDirectory()
const live = useLive()
const desk = useDesk()
const number = ref('')

const own = computed(() => live.state!.devices.get(handset.device!)!)
const name = computed(() => directory.nameOf(handset.device!))
const notice = computed(() => {
  const { doNotDisturb, doNotDisturbBy, doNotDisturbUntil } = own.value
  if (!doNotDisturb) return null
  const by = doNotDisturbBy ? `, set by ${directory.nameOf(doNotDisturbBy)}` : ''
  const until = doNotDisturbUntil ? ` for another ${spell(doNotDisturbUntil - desk.now)}` : ''
  return `Do not disturb${by}${until}`
})

/** Who waits in a slot for anybody, or for somebody else. */
const parked = computed(() => callsByAge(live.state!).filter(call => call.parked && call.parked.for !== handset.device && call.calling !== handset.device))

async function dial(): Promise<void> {
  if (number.value.trim() && await handset.ask({ service: 'makeCall', number: number.value.trim() })) number.value = ''
}
</script>

<template>
  <section
    class="phone"
    :aria-label="`Handset of ${name}`"
  >
    <p class="display">
      <strong>{{ name }}</strong>
      <span>{{ directory.numberOf(handset.device!) }}</span>
      <span
        v-if="handset.light"
        class="light"
        role="status"
      >● message</span>
    </p>
    <p
      v-if="notice"
      class="notice"
    >
      {{ notice }}
    </p>
    <HandsetCall
      v-for="call in handset.calls"
      :key="call.id"
      :call="call"
    />
    <p
      v-if="!handset.calls.length"
      class="soft"
    >
      Nothing rings.
    </p>
    <article
      v-for="call in handset.reserved"
      :key="`reserved ${call.id}`"
      class="note"
    >
      <p>
        <strong>{{ directory.nameOf(call.calling, call.party) }}</strong> waits for you in {{ directory.nameOf(call.parked!.slot) }},
        parked by {{ directory.nameOf(call.parked!.by) }} {{ spell(desk.now - call.parked!.at) }} ago.
      </p>
      <div class="keys">
        <el-button @click="handset.ask({ service: 'directedPickupCall', call: call.id })">
          {{ handset.calls.length ? 'Swap to them' : 'Take' }}
        </el-button>
        <el-button
          v-if="handset.calls.length"
          @click="handset.joinReserved(call)"
        >
          Join
        </el-button>
      </div>
    </article>
    <article
      v-for="note in handset.outlived"
      :key="`outlived ${note.call}`"
      class="note gone"
    >
      <p>
        {{ directory.nameOf(note.caller, note.party) }} waited for you in {{ directory.nameOf(note.slot) }} for {{ spell(note.ended - note.since) }},
        and has hung up.
      </p>
      <el-button @click="handset.ask({ service: 'dismissNote', note: note.call })">
        Put away
      </el-button>
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
        Take {{ directory.nameOf(call.calling, call.party) }} from {{ directory.nameOf(call.parked!.slot) }}
      </el-button>
    </div>
    <form
      class="keys"
      @submit.prevent="dial"
    >
      <el-input
        v-model="number"
        maxlength="40"
        placeholder="Number, extension or slot (701 to 710)"
        aria-label="Number to dial"
      />
      <el-button native-type="submit">
        Dial
      </el-button>
      <el-button @click="handset.ask({ service: 'groupPickupCall', group: null })">
        Pick up in group
      </el-button>
      <el-button
        :aria-pressed="own.doNotDisturb"
        @click="handset.ask({ service: 'setDoNotDisturb', on: !own.doNotDisturb })"
      >
        Do not disturb
      </el-button>
    </form>
    <ul
      v-if="handset.messages.length"
      class="messages"
      aria-label="Messages"
    >
      <MessageCard
        v-for="message in handset.messages"
        :key="message.id"
        :message="message"
        :owner="name"
        mine
        @read="handset.read(message.id)"
      />
    </ul>
  </section>
</template>

<style scoped>
.display {
  display: flex;
  align-items: baseline;
  gap: var(--space-4);
  padding: var(--space-3) var(--space-4);
  background: var(--ink);
  color: var(--paper);
  border-radius: var(--round);
  font: 600 var(--type-5) var(--font-sign);
}

.light {
  margin-left: auto;
}

.notice {
  font-weight: 600;
}

.note {
  display: grid;
  gap: var(--space-3);
  padding: var(--space-3) var(--space-4);
  background: var(--paper-deep);
  border-left: 4px solid var(--ink);
}

.note.gone {
  border-left-color: var(--edge-strong);
}

.note.gone .el-button {
  justify-self: start;
}

.messages {
  display: grid;
  gap: var(--space-3);
}
</style>
