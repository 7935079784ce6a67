<script setup lang="ts">
import { freeMembers } from '~~/core/calls/targets'
import { lookUp } from '~~/core/company/lookups'
import type { DirectoryEntry } from '~~/core/directory/search'
import { formatNumber } from '~~/core/numbers/dialled'
import { useDesk } from '~/stores/desk'
import { useDirectory } from '~/stores/directory'
import { useField } from '~/stores/field'
import { useLive } from '~/stores/live'

/** Whoever is marked among the answers: how the name is said, how it is with them, and who else there could take the call. */
const props = defineProps<{ person: DirectoryEntry }>()
const live = useLive()
const desk = useDesk()
const field = useField()
const directory = useDirectory()
const words = usePresenceWords()
const mostOthers = 4

const name = computed(() => `${props.person.first} ${props.person.last}`.trim())
/** What the company knows of them, beside what the search does. */
const known = computed(() => {
  const { company } = live.state!
  const key = lookUp(company.telephones, props.person.id)?.person ?? props.person.id
  return lookUp(company.people, key)
})
const presence = computed(() => live.presences.get(props.person.id))
const facts = computed(() => {
  const { role, departmentName, site, room, extension, direct, mobile, former } = props.person
  const { languages = [], note = '', said = '' } = known.value ?? {}
  return [
    { what: 'Say', is: said },
    { what: 'Now', is: presence.value ? words.whole(presence.value, desk.now) : '' },
    { what: 'Role', is: [role, departmentName].filter(Boolean).join(', ') },
    { what: 'Place', is: [site, room].filter(Boolean).join(', ') },
    { what: 'Speaks', is: languages.length > 0 ? ['English', ...languages].join(', ') : '' },
    { what: 'Note', is: note },
    { what: 'Extension', is: extension },
    { what: 'Direct', is: direct ? formatNumber(direct) : '' },
    { what: 'Mobile', is: mobile ? formatNumber(mobile) : '' },
    { what: 'Was', is: former ?? '' },
  ].filter(({ is }) => is !== '')
})
/** Who of the same department could take a call now, whoever has been free longest first. */
const others = computed(() => {
  const mine = props.person.department
  const group = Object.values(live.state!.company.groups).find(({ department, distribution }) => department === mine && distribution !== 'queue')
  const free = group ? freeMembers(live.state!, group, [props.person.id]).slice(0, mostOthers) : []
  return free.flatMap(id => directory.person(id) ?? [])
})
</script>

<template>
  <aside
    class="panel"
    :aria-label="`About ${name}`"
  >
    <PanelHead :title="name" />
    <div
      class="content"
      tabindex="0"
    >
      <dl class="facts">
        <template
          v-for="fact in facts"
          :key="fact.what"
        >
          <dt>{{ fact.what }}</dt>
          <dd>{{ fact.is }}</dd>
        </template>
      </dl>
      <template v-if="others.length">
        <h3>Free in {{ person.departmentName }}</h3>
        <ul :aria-label="`Free in ${person.departmentName}`">
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
        <h3>Last calls</h3>
        <EarlierCalls
          :number="null"
          :device="person.id"
        />
      </template>
    </div>
  </aside>
</template>

<style scoped>
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
