<script setup lang="ts">
import dayjs from 'dayjs'
import { useDesk } from '~/stores/desk'
import { useDirectory } from '~/stores/directory'
import { useLive } from '~/stores/live'

const live = useLive()
const desk = useDesk()
const directory = useDirectory()
const awhile = 30 * 60_000

const lines = computed(() => {
  const unserved = (desk.device && live.state?.agents.get(desk.device)?.unserved) || {}
  return directory.lines.map(line => ({ ...line, served: !(line.id in unserved), until: unserved[line.id] ?? null }))
})
const served = computed(() => lines.value.filter(line => line.served).length)

function toggle(id: string): void {
  const line = lines.value.find(candidate => candidate.id === id)!
  void desk.ask({ service: 'setLineServed', line: id, on: !line.served, until: line.served ? live.wall(live.now() + awhile) : null })
}
</script>

<template>
  <el-dropdown
    v-if="desk.operates"
    trigger="click"
    :hide-on-click="false"
    :disabled="!live.working"
    @command="toggle"
  >
    <el-button :aria-label="`Lines served: ${served} of ${lines.length}`">
      Lines {{ served }} of {{ lines.length }}
    </el-button>
    <template #dropdown>
      <el-dropdown-menu>
        <el-dropdown-item
          v-for="line in lines"
          :key="line.id"
          :command="line.id"
        >
          <span
            class="mark"
            aria-hidden="true"
          >{{ line.served ? '■' : '□' }}</span>
          {{ line.name }}: {{ line.served ? 'served' : `not served${line.until ? ` until ${dayjs(line.until).format('H:mm')}` : ''}` }}
        </el-dropdown-item>
      </el-dropdown-menu>
    </template>
  </el-dropdown>
</template>

<style scoped>
.mark {
  margin-right: var(--space-3);
}
</style>
