<script setup lang="ts">
import { renderSVG } from 'uqr'
import type { TelephoneAccountsKept, TelephoneSecret } from '~~/shared/telephones'
import { useLive } from '~/stores/live'

/** The account with which a telephone of the network registers: given, renewed, taken away. */
const { device } = defineProps<{ device: string }>()
const live = useLive()
const { failure, sending, send } = useForm()
const kept = ref<TelephoneAccountsKept | null>(null)
const told = ref<TelephoneSecret | null>(null)
const asks = ref<'renew' | 'take' | null>(null)
const said = ref('')

const own = computed(() => kept.value?.telephones.find(telephone => telephone.device === device))
const isConnected = computed(() => live.state?.devices.get(device)?.registered === true)
const address = `/api/telephones/${encodeURIComponent(device)}/account`

const load = () => send({}, async () => {
  kept.value = await $fetch<TelephoneAccountsKept>('/api/telephones')
})
onMounted(load)

async function give(): Promise<void> {
  said.value = ''
  await send({}, async () => {
    told.value = await $fetch<TelephoneSecret>(address, { method: 'POST', body: {} })
    asks.value = null
    kept.value = await $fetch<TelephoneAccountsKept>('/api/telephones')
  })
}

async function take(): Promise<void> {
  await send({}, async () => {
    await $fetch(address, { method: 'DELETE' })
    told.value = asks.value = null
    said.value = t('telephones.taken')
    kept.value = await $fetch<TelephoneAccountsKept>('/api/telephones')
  })
}

const section = useTemplateRef<HTMLElement>('section')
// What is shown this once is seen whole.
watch(told, async () => {
  await nextTick()
  section.value?.scrollIntoView({ block: 'end' })
})

const facts = computed(() => told.value
  ? [
      { what: t('telephones.server'), is: told.value.address }, { what: t('telephones.name'), is: told.value.name },
      { what: t('telephones.secret'), is: told.value.secret },
    ]
  : [])
/** Words for whoever reads the code with a camera: every telephone has its own form for what it takes by itself. */
const picture = computed(() => `data:image/svg+xml,${encodeURIComponent(renderSVG(facts.value.map(({ what, is }) => `${what}: ${is}`).join('\n')))}`)
</script>

<template>
  <section
    ref="section"
    class="account"
    :aria-label="t('telephones.ofTheNetwork')"
  >
    <h3>{{ t('telephones.ofTheNetwork') }}</h3>
    <template v-if="kept">
      <p
        v-if="kept.address === null"
        class="soft"
      >
        {{ t('telephones.noneAreServed') }}
      </p>
      <template v-else-if="own">
        <p>{{ t('telephones.accountMade', { name: own.name, by: own.by, when: shownAt(own.at).format('D MMM H:mm') }) }}</p>
        <p role="status">
          {{ isConnected ? t('telephones.isConnected') : t('telephones.isNotConnected') }}
        </p>
      </template>
      <p
        v-else
        class="soft"
      >
        {{ t('telephones.itHasNoAccount') }}
      </p>
      <div
        v-if="told"
        class="told"
      >
        <div>
          <p>{{ t('telephones.typeThis') }}</p>
          <FactList :facts="facts" />
        </div>
        <img
          :src="picture"
          :alt="t('telephones.asPicture')"
        >
      </div>
      <p
        v-if="kept.address !== null"
        class="button-row"
      >
        <el-button
          v-if="!own"
          :loading="sending"
          @click="give"
        >
          {{ t('telephones.giveItAnAccount') }}
        </el-button>
        <template v-else>
          <el-button
            v-if="asks !== 'renew'"
            @click="asks = 'renew'"
          >
            {{ t('telephones.newSecretDialog') }}
          </el-button>
          <el-button
            v-if="asks !== 'take'"
            @click="asks = 'take'"
          >
            {{ t('telephones.takeDialog') }}
          </el-button>
        </template>
      </p>
      <el-button
        v-if="own && asks"
        type="danger"
        :loading="sending"
        @click="asks === 'renew' ? give() : take()"
      >
        {{ asks === 'renew' ? t('telephones.newSecret') : t('telephones.take') }}
      </el-button>
    </template>
    <p role="status">
      {{ said }}
    </p>
    <FailureNote :text="failure" />
  </section>
</template>

<style scoped>
.account {
  display: grid;
  gap: var(--space-2);
  padding-top: var(--space-4);
}

.told {
  display: flex;
  flex-wrap: wrap;
  gap: var(--space-4);
  align-items: start;
  justify-content: space-between;
}

.told img {
  width: 9rem;
  padding: var(--space-2);
  background: white;
}
</style>
