<script setup lang="ts">
import { linesAskedOf } from '~~/core/calls/questions'
import { useDesk } from '~/stores/desk'
import { useDirectory } from '~/stores/directory'
import { useLive } from '~/stores/live'

/** Which operator takes which line; another is asked to take one, and takes it or not. */
const live = useLive()
const desk = useDesk()
const directory = useDirectory()

const operators = computed(() => [...live.state?.agents ?? []].filter(([, { attended }]) => attended).map(([id]) => ({ id, name: directory.nameOf(id) })))
const own = computed(() => desk.device && live.state ? live.state.agents.get(desk.device) : undefined)
const others = computed(() => operators.value.filter(({ id }) => id !== desk.device))
const lines = computed(() => directory.lines.filter(({ target }) => target === live.company?.settings.operators).map(({ id, name }) => {
  const asked = own.value?.offers?.[id]?.to ?? null
  return {
    id, name, asked, askedName: asked && directory.nameOf(asked),
    serves: own.value !== undefined && !(id in own.value.unserved),
    operators: operators.value.map(({ id: operator }) => {
      const until = live.state!.agents.get(operator)!.unserved[id]
      return { id: operator, served: until === undefined, words: until === undefined
        ? t('shift.takesIt')
        : until === null
          ? t('shift.leavesIt')
          : t('shift.leavesItUntil', { at: shownAt(until).format('H:mm') }) }
    }),
  }
}))
const choices = computed(() => others.value.map(({ id, name }) => ({ id, label: name })))
/** Who asks one to take a line. */
const offers = computed(() => live.state && desk.device
  ? linesAskedOf(live.state, desk.device).map(({ from, line }) => ({ from, line, name: directory.nameOf(from), lineName: directory.line(line)?.name ?? line }))
  : [])
</script>

<template>
  <section aria-labelledby="shift-lines">
    <h2 id="shift-lines">
      {{ t('shift.whoTakesWhichLine') }}
    </h2>
    <table class="records">
      <thead>
        <tr>
          <th scope="col">
            {{ t('common.line') }}
          </th>
          <th
            v-for="operator in operators"
            :key="operator.id"
            scope="col"
          >
            {{ operator.name }}
          </th>
          <th
            v-if="own"
            scope="col"
            class="acts"
          >
            {{ t('shift.yours') }}
          </th>
        </tr>
      </thead>
      <tbody>
        <tr
          v-for="line in lines"
          :key="line.id"
        >
          <th scope="row">
            {{ line.name }}
          </th>
          <td
            v-for="operator in line.operators"
            :key="operator.id"
            :class="{ soft: !operator.served }"
          >
            <span aria-hidden="true">{{ operator.served ? '■' : '□' }}</span> {{ operator.words }}
          </td>
          <td
            v-if="own"
            class="acts"
          >
            <el-button
              v-if="!line.serves"
              size="small"
              :disabled="!live.working"
              :aria-label="t('shift.takeTheAgain', { name: line.name })"
              @click="desk.ask({ service: 'setLineServed', line: line.id, on: true, until: null })"
            >
              {{ t('shift.takeItAgain') }}
            </el-button>
            <el-button
              v-else-if="line.asked"
              size="small"
              :disabled="!live.working"
              :aria-label="t('shift.askNoLongerToTake', { askedName: line.askedName!, name: line.name })"
              @click="desk.ask({ service: 'offerLine', line: line.id, to: null })"
            >
              {{ t('shift.isAsked', { askedName: line.askedName! }) }}
            </el-button>
            <ChoiceMenu
              v-else-if="others.length"
              :choices="choices"
              @choose="to => desk.ask({ service: 'offerLine', line: line.id, to })"
            >
              <el-button
                size="small"
                :disabled="!live.working"
                :aria-label="t('shift.askSomebodyToTakeThe', { name: line.name })"
              >
                {{ t('shift.ask') }}
              </el-button>
            </ChoiceMenu>
          </td>
        </tr>
      </tbody>
    </table>
    <ul
      v-if="offers.length"
      class="offers"
      :aria-label="t('shift.youAreAsked')"
    >
      <li
        v-for="offer in offers"
        :key="`${offer.from} ${offer.line}`"
      >
        <span><strong>{{ offer.name }}</strong> {{ t('shift.asksYouToTakeThe', { lineName: offer.lineName }) }}</span>
        <el-button
          type="primary"
          size="small"
          :disabled="!live.working"
          @click="desk.ask({ service: 'answerLineOffer', from: offer.from, line: offer.line, yes: true })"
        >
          {{ t('shift.takeIt') }}
        </el-button>
        <el-button
          size="small"
          :disabled="!live.working"
          @click="desk.ask({ service: 'answerLineOffer', from: offer.from, line: offer.line, yes: false })"
        >
          {{ t('shift.notNow') }}
        </el-button>
      </li>
    </ul>
    <p
      v-if="own && others.length === 0"
      class="soft"
    >
      {{ t('shift.noOtherOperatorIsThere') }}
    </p>
  </section>
</template>

<style scoped>
h2 {
  padding-bottom: var(--space-3);
  font: 600 var(--type-4) var(--font-sign);
}

th[scope='row'] {
  color: var(--ink);
}

.offers {
  display: grid;
  gap: var(--space-2);
  padding-top: var(--space-3);
}

.offers li {
  display: flex;
  gap: var(--space-3);
  align-items: center;
  padding: var(--space-3) var(--space-4);
  background: var(--sheet);
  border-left: 4px solid var(--call);
}

.offers .el-button {
  margin: 0;
}
</style>
