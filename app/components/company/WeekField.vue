<script setup lang="ts">
import type { OpeningHours } from '~~/core/company/company'
import type { Phrase } from '~~/words/phrase'
import { readTimes, readWeek, timesAsText, weekdays } from '~~/core/company/written'

/** A week of opening hours: each day as times, as they are understood, and drawn; or all of it typed at once. */
const { id } = defineProps<{ id: string }>()
const week = defineModel<OpeningHours['week']>({ required: true })
const emit = defineEmits<{ fault: [text: string | null] }>()

const timesOf = (day: number) => timesAsText(week.value.filter(one => one.day === day))
const dayNames = weekdays.map(say)
const typed = ref(dayNames.map((_, index) => timesOf(index + 1)))
const reads = computed(() => typed.value.map(readTimes))
const whole = ref('')
const wholeFaults = shallowRef<readonly Phrase[]>([])

function tell(): void {
  const [first = null] = wholeFaults.value
  const at = reads.value.findIndex(({ fault }) => fault !== null)
  emit('fault', at < 0 ? first && say(first) : t('company.dayAndFault', { day: dayNames[at]!, fault: say(reads.value[at]!.fault!) }))
  if (at < 0) week.value = reads.value.flatMap(({ spans }, index) => spans.map(span => ({ day: index + 1, ...span })))
}
function type(day: number, text: string): void {
  typed.value = typed.value.map((one, index) => index === day ? text : one)
  whole.value = ''
  wholeFaults.value = []
  tell()
}
/** Every day as it is meant by what was typed at once; nothing of it is taken over as long as a line can't be read. */
function typeAll(text: string): void {
  whole.value = text
  const { is, faults } = readWeek(text)
  wholeFaults.value = faults
  if (faults.length === 0 && text.trim() !== '')
    typed.value = dayNames.map((_, index) => timesAsText(is.filter(({ day }) => day === index + 1)))
  tell()
}
function asTheDayBefore(day: number): void {
  type(day, typed.value[day - 1]!)
}
const meant = (day: number) => {
  const { spans, fault } = reads.value[day]!
  return fault ? say(fault) : (spans.length === 0 ? t('company.closed') : timesAsText(spans).replaceAll(' ', ', '))
}
</script>

<template>
  <div class="week">
    <div
      v-for="(name, day) in dayNames"
      :key="name"
      class="day"
    >
      <label :for="day === 0 ? id : `${id}-${day}`">{{ name }}</label>
      <el-input
        :id="day === 0 ? id : `${id}-${day}`"
        :model-value="typed[day]"
        :aria-label="name"
        :aria-describedby="`${id}-${day}-meant`"
        :placeholder="t('company.closed')"
        @update:model-value="type(day, $event)"
      />
      <el-button
        v-if="day > 0"
        size="small"
        :aria-label="t('company.dayAsDay', { day: name, before: dayNames[day - 1]! })"
        @click="asTheDayBefore(day)"
      >
        {{ t('company.asAbove') }}
      </el-button>
      <span v-else />
      <svg
        class="course"
        viewBox="0 0 1440 10"
        preserveAspectRatio="none"
        aria-hidden="true"
      >
        <rect
          class="closed"
          width="1440"
          height="10"
        />
        <rect
          v-for="{ opens, closes } in reads[day]!.spans"
          :key="opens"
          class="open"
          :x="opens"
          :width="Math.max(0, closes - opens)"
          height="10"
        />
      </svg>
      <span
        :id="`${id}-${day}-meant`"
        :class="['meant', { wrong: reads[day]!.fault }]"
        role="status"
      >{{ meant(day) }}</span>
    </div>
    <label :for="`${id}-whole`">{{ t('company.allAtOnce') }}</label>
    <el-input
      :id="`${id}-whole`"
      :model-value="whole"
      type="textarea"
      :autosize="{ minRows: 1, maxRows: 6 }"
      placeholder="Mon-Fri 8:00-12:00 13:00-18:00 / Sat 9-12"
      :aria-label="t('company.theWholeWeekTypedAt')"
      @update:model-value="typeAll"
    />
    <ul
      v-if="wholeFaults.length"
      class="wrong"
      role="alert"
    >
      <li
        v-for="fault in wholeFaults.map(say)"
        :key="fault"
      >
        {{ fault }}
      </li>
    </ul>
  </div>
</template>

<style scoped>
.week {
  display: grid;
  gap: var(--space-2);
  width: 100%;
}

.day {
  display: grid;
  grid-template-columns: 6rem minmax(9rem, 1fr) 5.5rem 6rem minmax(8rem, 1fr);
  gap: var(--space-3);
  align-items: center;
}

.course {
  width: 100%;
  height: 0.75rem;
}

.closed {
  fill: var(--paper-deep);
}

.open {
  fill: var(--ink-soft);
}

.meant {
  color: var(--ink-soft);
  line-height: 1.3;
}

.wrong {
  color: var(--alarm);
  line-height: 1.3;
}

@media (max-width: 60rem) {
  .day {
    grid-template-columns: 6rem minmax(0, 1fr) 5.5rem;
  }

  .course {
    display: none;
  }

  .meant {
    grid-column: 2 / 4;
  }
}
</style>
