<script setup lang="ts">
import { awayReasons } from '~~/core/calls/model'
import type { KeyKind } from '~~/core/speed-keys/key'
import { openedBy } from '~~/core/speed-keys/meaning'
import { useDirectory } from '~/stores/directory'
import { useLive } from '~/stores/live'
import { useSpeedKeys } from '~/stores/speed-keys'

/** Puts a group, a queue, a slot, a line or a status of one's own on the page of keys that is open: whatever is not found by its name in the field. */
const speedKeys = useSpeedKeys()
const live = useLive()
const directory = useDirectory()
const { statusName } = useSpeedKeyWords()
const chosen = ref('')

/** What can be put on a page beside whoever is named in the field. */
const choices = computed(() => {
  const company = live.company!
  const of = (kind: KeyKind, all: { id: string, name: string }[]) => all.map(({ id, name }) => ({ value: `${kind} ${id}`, label: name }))
  return [
    { label: t('speedKeys.groupsAndQueues'), options: of('group', Object.values(company.groups)) },
    { label: t('common.parkSlots'), options: of('slot', Object.keys(company.slots).map(id => ({ id, name: directory.nameOf(id) }))) },
    { label: t('common.loudspeakers'), options: of('zone', Object.values(company.zones)) },
    { label: t('speedKeys.linesToServeOrLeave'),
      options: of('line', Object.values(company.lines).filter(({ target }) => target === company.settings.operators)) },
    {
      label: t('speedKeys.openAndClose'),
      options: [
        { value: t('speedKeys.nightLines'), label: t('speedKeys.nightEveryLine') },
        ...of('opening', [...Object.values(company.lines), ...Object.values(company.groups).filter(({ id }) => openedBy(company, id))])
          .map(option => ({ ...option, label: t('speedKeys.openOrClose', { label: option.label }) })),
      ],
    },
    {
      label: t('speedKeys.forwardYourOwnCalls'),
      options: of('forward', Object.values(company.groups)).map(option => ({ ...option, label: t('speedKeys.forwardTo', { label: option.label }) })),
    },
    { label: t('speedKeys.yourStatus'), options: of('status', ['available' as const, ...awayReasons].map(id => ({ id, name: statusName(id) }))) },
  ]
})

function add(choice: string): void {
  const [kind, ...of] = choice.split(' ')
  chosen.value = ''
  void speedKeys.add({ kind: kind as KeyKind, of: of.join(' '), label: null })
}
</script>

<template>
  <el-select
    v-model="chosen"
    filterable
    size="small"
    :placeholder="t('speedKeys.addAGroupSlotLine')"
    :aria-label="t('speedKeys.addAKey')"
    @change="add"
  >
    <el-option-group
      v-for="group in choices"
      :key="group.label"
      :label="group.label"
    >
      <el-option
        v-for="option in group.options"
        :key="option.value"
        v-bind="option"
      />
    </el-option-group>
  </el-select>
</template>
