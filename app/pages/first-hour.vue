<script setup lang="ts">
import { type Lack, lacking } from '~~/core/company/readiness'
import type { AccountInfo } from '~~/shared/people'
import { useLive } from '~/stores/live'

useHead({ title: t('firstHour.firstHourEstafette') })

/** From an empty house to its first answered call, step by step; each can be left, and everything it does is on record. */
const live = useLive()
const route = useRoute()
const company = computed(() => live.company!)
const accounts = ref<AccountInfo[]>([])
const loadAccounts = async () => void (accounts.value = await $fetch<AccountInfo[]>('/api/accounts').catch(() => accounts.value))
onMounted(loadAccounts)
watch(() => live.news.accounts, loadAccounts)

const steps = [
  { id: 'house', title: t('firstHour.theHouse'), why: t('firstHour.whatItIsCalledWhere'), gives: ['name', 'emergency'] },
  { id: 'line', title: t('firstHour.theGeneralLine2'), why: t('firstHour.theNumberThatEverybodyCalls'), gives: ['line', 'trunk'] },
  { id: 'people', title: t('common.people'), why: t('firstHour.whoWorksHereWithTheir'), gives: ['people'] },
  { id: 'operators', title: t('firstHour.whoAnswers'), why: t('firstHour.callersComeToThem'), gives: ['operators', 'operatorTelephones'] },
  { id: 'hours', title: t('firstHour.hoursAndHolidays'), why: t('firstHour.whenCallersAreAnsweredAnd'), gives: [] },
  { id: 'accounts', title: t('common.accounts'), why: t('firstHour.withWhatOperatorsSignIn'), gives: [] },
  { id: 'call', title: t('firstHour.aFirstCall'), why: t('firstHour.ringTheLineAndAnswer'), gives: [] },
] as const satisfies { id: string, title: string, why: string, gives: Lack[] }[]
type Step = typeof steps[number]['id']

const missing = computed(() => lacking(company.value))
const signsIn = computed(() => {
  const members = company.value.groups[company.value.settings.operators]?.members ?? []
  return members.some(id => accounts.value.some(({ person, disabled }) => !disabled && person !== null && person === company.value.telephones[id]?.person))
})
const isDone = (id: Step) => {
  if (id === 'hours') return Object.keys(company.value.hours).length > 0
  if (id === 'accounts') return signsIn.value
  if (id === 'call') return false
  return !steps.find(step => step.id === id)!.gives.some(one => (missing.value as Lack[]).includes(one))
}
const words: Record<Lack, string> = {
  name: t('firstHour.theNameOfTheHouse'), trunk: t('firstHour.aWayToTheOutside'), line: t('firstHour.aLineThatLeadsTo'),
  emergency: t('firstHour.theEmergencyNumbers'),
  people: t('firstHour.people'), operators: t('firstHour.somebodyWhoAnswers'), operatorTelephones: t('firstHour.aTelephoneOfThoseWho'),
}
const still = computed(() => {
  const all = missing.value.map(one => words[one])
  return all.length === 0 && !signsIn.value ? [t('firstHour.anAccountOfThoseWho')] : all
})
const ready = computed(() => missing.value.length === 0)

/** Where somebody begins, or comes back to: the first that is not done. From then on only their own word leads on. */
const begun = steps.find(({ id }) => !isDone(id))?.id ?? 'call'
const step = computed<Step>(() => steps.find(({ id }) => id === route.query.step)?.id ?? begun)
const now = computed(() => steps.find(({ id }) => id === step.value)!)
const go = (id: Step) => navigateTo({ query: { step: id } })
function next(): void {
  void loadAccounts()
  void go(steps[Math.min(steps.length - 1, steps.findIndex(({ id }) => id === step.value) + 1)]!.id)
}
const heading = useTemplateRef<HTMLHeadingElement>('heading')
watch(step, () => nextTick(() => heading.value?.focus()))
onMounted(() => heading.value?.focus())
</script>

<template>
  <div class="records-page first-hour">
    <nav :aria-label="t('firstHour.stepsOfTheFirstHour')">
      <h1>{{ t('firstHour.firstHour') }}</h1>
      <ol>
        <li
          v-for="(one, at) in steps"
          :key="one.id"
        >
          <button
            type="button"
            :class="['step', { now: one.id === step, done: isDone(one.id) }]"
            :aria-current="one.id === step ? 'step' : undefined"
            @click="go(one.id)"
          >
            <span
              class="mark"
              aria-hidden="true"
            >{{ isDone(one.id) ? '✓' : at + 1 }}</span>
            {{ one.title }}<span class="unseen">{{ isDone(one.id) ? t('firstHour.done') : '' }}</span>
          </button>
        </li>
      </ol>
      <p
        class="still"
        role="status"
      >
        <template v-if="still.length">
          {{ t('firstHour.beforeTheFirstCallCan', { still: still.join(', ') }) }}
        </template>
        <template v-else>
          {{ t('firstHour.nothingIsMissingACall') }}
        </template>
      </p>
      <p class="soft">
        {{ t('firstHour.everythingIsInForceAt') }}
        <NuxtLink to="/company/changes">{{ t('common.whatWasChanged') }}</NuxtLink>{{ t('firstHour.leaveWheneverYouLikeIt') }}
      </p>
    </nav>
    <section aria-labelledby="step-title">
      <h2
        id="step-title"
        ref="heading"
        tabindex="-1"
      >
        {{ now.title }}
      </h2>
      <p class="soft">
        {{ now.why }}
      </p>
      <div
        :key="step"
        class="form"
      >
        <HouseStep
          v-if="step === 'house'"
          @done="next"
        />
        <LineStep
          v-else-if="step === 'line'"
          @done="next"
        />
        <PeopleStep
          v-else-if="step === 'people'"
          @done="next"
        />
        <OperatorsStep
          v-else-if="step === 'operators'"
          @done="next"
        />
        <HoursStep
          v-else-if="step === 'hours'"
          @done="next"
        />
        <AccountsStep
          v-else-if="step === 'accounts'"
          :accounts="accounts"
          @done="next"
          @changed="loadAccounts"
        />
        <CallStep
          v-else
          :ready="ready"
        />
      </div>
    </section>
  </div>
</template>

<style scoped>
.first-hour {
  display: grid;
  grid-template-columns: 17rem minmax(0, 52rem);
  gap: var(--space-6);
  align-content: start;
}

ol {
  display: grid;
  gap: var(--space-2);
  padding-bottom: var(--space-4);
}

.step {
  display: flex;
  gap: var(--space-3);
  align-items: center;
  width: 100%;
  padding: var(--space-3);
  background: none;
  border: var(--line);
  border-color: transparent;
  border-radius: var(--round);
  font-weight: 600;
  text-align: left;
  cursor: pointer;
}

.step.now {
  background: var(--lit);
  border-color: var(--ink);
}

.step.done {
  color: var(--ink-soft);
}

.mark {
  display: grid;
  flex: none;
  width: 1.5rem;
  height: 1.5rem;
  border: 1px solid currentcolor;
  border-radius: 50%;
  place-content: center;
  font-size: var(--type-2);
}

.still {
  padding: var(--space-4);
  margin-bottom: var(--space-4);
  background: var(--sheet);
  border-left: 4px solid var(--ink);
  line-height: 1.4;
}

a {
  color: inherit;
}

/* It is only where reading goes on: nothing can be done with it. */
h2:focus-visible {
  outline: none;
}

h2 {
  font: 700 var(--type-6)/1.2 var(--font-sign);
}

.form {
  padding: var(--space-5);
  margin-top: var(--space-4);
  background: var(--sheet);
}

.form :deep(h3) {
  padding: var(--space-5) 0 var(--space-3);
  font: 600 var(--type-4) var(--font-sign);
}

.form :deep(.pair) {
  display: grid;
  grid-template-columns: repeat(2, minmax(0, 1fr));
  gap: 0 var(--space-5);
}

.form :deep(.button-row) {
  display: flex;
  flex-wrap: wrap;
  gap: var(--space-4);
  padding-top: var(--space-4);
}

.form :deep(.there) {
  columns: 2;
  padding-top: var(--space-4);
}

@media (max-width: 60rem) {
  .first-hour {
    grid-template-columns: minmax(0, 1fr);
  }

  .form :deep(.pair) {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
