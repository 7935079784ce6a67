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
        ? 'takes it'
        : until === null
          ? 'leaves it'
          : `leaves it until ${shownAt(until).format('H:mm')}` }
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
      Who takes which line
    </h2>
    <table class="records">
      <thead>
        <tr>
          <th scope="col">
            Line
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
            Yours
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
              :aria-label="`Take the ${line.name} again`"
              @click="desk.ask({ service: 'setLineServed', line: line.id, on: true, until: null })"
            >
              Take it again
            </el-button>
            <el-button
              v-else-if="line.asked"
              size="small"
              :disabled="!live.working"
              :aria-label="`Ask ${line.askedName} no longer to take the ${line.name}`"
              @click="desk.ask({ service: 'offerLine', line: line.id, to: null })"
            >
              {{ line.askedName }} is asked…
            </el-button>
            <ChoiceMenu
              v-else-if="others.length"
              :choices="choices"
              @choose="to => desk.ask({ service: 'offerLine', line: line.id, to })"
            >
              <el-button
                size="small"
                :disabled="!live.working"
                :aria-label="`Ask somebody to take the ${line.name}`"
              >
                Ask…
              </el-button>
            </ChoiceMenu>
          </td>
        </tr>
      </tbody>
    </table>
    <ul
      v-if="offers.length"
      class="offers"
      aria-label="You are asked"
    >
      <li
        v-for="offer in offers"
        :key="`${offer.from} ${offer.line}`"
      >
        <span><strong>{{ offer.name }}</strong> asks you to take the {{ offer.lineName }}.</span>
        <el-button
          type="primary"
          size="small"
          :disabled="!live.working"
          @click="desk.ask({ service: 'answerLineOffer', from: offer.from, line: offer.line, yes: true })"
        >
          Take it
        </el-button>
        <el-button
          size="small"
          :disabled="!live.working"
          @click="desk.ask({ service: 'answerLineOffer', from: offer.from, line: offer.line, yes: false })"
        >
          Not now
        </el-button>
      </li>
    </ul>
    <p
      v-if="own && others.length === 0"
      class="soft"
    >
      No other operator is there: nobody could be asked to take a line.
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
