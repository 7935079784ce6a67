<script setup lang="ts">
import { freeMembers } from '~~/core/calls/indexes'
import { telephoneOf } from '~~/core/calendar/duty'
import { lookUp } from '~~/core/company/lookups'
import type { DirectoryEntry } from '~~/core/directory/search'
import { formatNumber } from '~/composables/numbers'
import { useDesk } from '~/stores/desk'
import { useDirectory } from '~/stores/directory'
import { useField } from '~/stores/field'
import { useDialogs } from '~/stores/dialogs'
import { useLive } from '~/stores/live'
import { useMailboxes } from '~/stores/mailboxes'
import { usePreferences } from '~/stores/preferences'
import { useSession } from '~/stores/session'
import { useWhereabouts } from '~/stores/whereabouts'

/** Whoever is marked among the answers: how the name is said, how it is with them, and who else there could take the call. */
const props = defineProps<{ person: DirectoryEntry }>()
const live = useLive()
const desk = useDesk()
const field = useField()
const directory = useDirectory()
const words = usePresenceWords()
const dialogs = useDialogs()
const session = useSession()
const preferences = usePreferences()
const whereabouts = useWhereabouts()
const mailboxes = useMailboxes()
const mostOthers = 4
const mostPinned = 24

const name = computed(() => `${props.person.first} ${props.person.last}`.trim())
/** What the company knows of them, beside what the search does. */
const known = computed(() => {
  const company = live.company!
  const key = lookUp(company.telephones, props.person.id)?.person ?? props.person.id
  return lookUp(company.people, key)
})
const engagements = computed(() => known.value ? whereabouts.engagementsOf(known.value.id) : [])
/** People keep their own calendars; whose role may keeps everybody's. */
const keepsCalendar = computed(() => known.value && (props.person.telephones.includes(desk.device ?? '') || session.may('keepCalendars')))
/** Of a place: who is there, and who was there during the last day. */
const stays = computed(() => whereabouts.known.occupants.filter(({ telephone }) => telephone === props.person.id).map(({ name, from, to }) => {
  const now = live.wall(desk.now)
  if (from > now) return { key: `${name} ${from}`, name, when: t('panel.fromMomentWords', { momentWords: momentWords(from, now) }) }
  return { key: `${name} ${from}`, name, when: to === null || to > now
    ? t('panel.sinceMomentWords', { momentWords: momentWords(from, now) })
    : t('panel.untilMomentWords', { momentWords: momentWords(to, now) }) }
}))
const presence = computed(() => live.presences.get(props.person.id))
const facts = computed(() => {
  const { role, departmentName, site, room, extension, direct, mobile, former } = props.person
  const { languages = [], note = '', said = '' } = known.value ?? {}
  return [
    { what: t('common.say'), is: said },
    { what: t('common.now'), is: presence.value ? words.whole(presence.value, desk.now) : '' },
    { what: t('panel.new'), is: mailboxes.wordsOf(props.person.id) },
    { what: t('common.role'), is: [role, departmentName].filter(Boolean).join(', ') },
    { what: t('panel.place'), is: [site, room].filter(Boolean).join(', ') },
    { what: t('panel.speaks'), is: languages.length > 0 ? [t('panel.english'), ...languages].join(', ') : '' },
    { what: t('panel.note'), is: note },
    { what: t('panel.extension'), is: extension },
    { what: t('panel.direct'), is: direct ? formatNumber(direct) : '' },
    { what: t('common.mobile'), is: mobile ? formatNumber(mobile) : '' },
    { what: t('panel.was'), is: former ?? '' },
  ]
})
/** Who stands in for them, with how it is with each. */
const deputies = computed(() => (known.value?.deputies ?? []).flatMap((id) => {
  const telephone = telephoneOf(live.company!, id)
  const other = directory.person(telephone ?? id)
  const their = telephone && live.presences.get(telephone)
  const state = their
    ? { state: words.whole(their, desk.now), shape: shapeOf(their), lit: their.lit }
    : { state: t('common.noTelephone'), shape: '', lit: false }
  return other ? [{ ...other, ...state }] : []
}))
const pinned = computed(() => known.value !== undefined && preferences.pinned.includes(known.value.id))
function pin(): void {
  const { id } = known.value!
  preferences.set({ pinned: pinned.value ? preferences.pinned.filter(one => one !== id) : [...preferences.pinned, id].slice(-mostPinned) })
  desk.say(pinned.value ? t('panel.standsFirstOnTheFloor', { name: name.value }) : t('panel.standsWithTheDepartmentAgain', { name: name.value }))
}
/** Who of the same department could take a call now, whoever has been free longest first. */
const others = computed(() => {
  const mine = props.person.department
  const group = Object.values(live.company!.groups).find(({ department, distribution }) => department === mine && distribution !== 'queue')
  const free = group ? freeMembers(live.state!, group, [props.person.id]).slice(0, mostOthers) : []
  return free.flatMap(id => directory.person(id) ?? [])
})
</script>

<template>
  <aside
    class="panel"
    :aria-label="t('panel.aboutName', { name })"
  >
    <PanelHead :title="name" />
    <div
      class="content"
      tabindex="0"
    >
      <FactList :facts="facts" />
      <template v-if="deputies.length">
        <h3>{{ t('panel.whoStandsIn') }}</h3>
        <ul :aria-label="t('panel.whoStandsIn')">
          <li
            v-for="deputy in deputies"
            :key="deputy.id"
          >
            <button
              type="button"
              :class="['other', { unlit: !deputy.lit }]"
              @click="field.pick(deputy.id)"
            >
              <strong>{{ deputy.first }} {{ deputy.last }}</strong> <span aria-hidden="true">{{ deputy.shape }}</span> {{ deputy.state }}
            </button>
          </li>
        </ul>
      </template>
      <template v-if="engagements.length">
        <h3>{{ t('panel.calendar') }}</h3>
        <DayStrip :engagements="engagements" />
      </template>
      <button
        v-if="known && keepsCalendar"
        type="button"
        class="quiet"
        @click="dialogs.calendar = { of: known.id, name }"
      >
        {{ engagements.length ? t('panel.whereTheCalendarComesFrom') : t('panel.addACalendar') }}
      </button>
      <button
        v-if="known && desk.operates && !person.telephones.includes(desk.device ?? '')"
        type="button"
        class="quiet"
        :aria-pressed="pinned"
        @click="pin"
      >
        {{ pinned ? t('panel.pinnedToTheFrontOf') : t('panel.pinToTheFrontOf') }}
      </button>
      <OwnNoteForm
        v-if="known && desk.operates"
        :person="known.id"
        :name="name"
      />
      <template v-if="stays.length">
        <h3>{{ t('common.whoIsThere') }}</h3>
        <ul :aria-label="t('common.whoIsThere')">
          <li
            v-for="stay in stays"
            :key="stay.key"
          >
            <strong>{{ stay.name }}</strong> {{ stay.when }}
          </li>
        </ul>
      </template>
      <template v-if="others.length">
        <h3>{{ t('panel.freeIn', { departmentName: person.departmentName }) }}</h3>
        <ul :aria-label="t('panel.freeIn', { departmentName: person.departmentName })">
          <li
            v-for="other in others"
            :key="other.id"
          >
            <button
              type="button"
              class="other"
              @click="field.pick(other.id)"
            >
              <strong>{{ other.first }} {{ other.last }}</strong> {{ other.role }}
            </button>
          </li>
        </ul>
      </template>
      <template v-if="desk.operates && person.telephones.length">
        <h3>{{ t('panel.lastCalls') }}</h3>
        <LazyEarlierCalls
          :number="null"
          :device="person.id"
        />
      </template>
    </div>
  </aside>
</template>

<style scoped>
.other.unlit {
  background: var(--unlit);
  color: var(--unlit-ink);
}

.quiet {
  display: block;
  margin-top: var(--space-3);
  padding: 0;
  background: none;
  border: 0;
  color: inherit;
  font: inherit;
  text-decoration: underline;
  text-underline-offset: 2px;
  cursor: pointer;
}

h3 {
  padding-top: var(--space-4);
}

.other {
  width: 100%;
  padding: var(--space-1) var(--space-3);
  background: var(--lit);
  border: 0;
  border-bottom: 1px solid var(--sheet);
  color: var(--lit-ink);
  font: inherit;
  text-align: left;
  cursor: pointer;
}
</style>
