<script setup lang="ts">
import { moved, type SpeedKey } from '~~/core/speed-keys/key'
import { useDesk } from '~/stores/desk'
import { usePreferences } from '~/stores/preferences'
import { useSpeedKeys } from '~/stores/speed-keys'

/** The page of keys that is open, to be arranged: by dragging and by keyboard; named, copied, removed, given out and read in as CSV. */
const speedKeys = useSpeedKeys()
const desk = useDesk()
const preferences = usePreferences()
const { faceOf } = useSpeedKeyWords()
const page = computed(() => speedKeys.open)
const list = useTemplateRef<HTMLElement>('list')
const focus = (index: number) => list.value?.querySelectorAll<HTMLElement>('.handle')[index]?.focus()
const newName = ref('')
const newShared = ref(true)

function change(keys: (before: SpeedKey[]) => SpeedKey[]): Promise<boolean> {
  return page.value ? speedKeys.change(page.value.id, before => ({ keys: keys(before.keys) })) : Promise.resolve(false)
}

function label(index: number, text: string): void {
  void change(keys => keys.map((key, at) => at === index ? { ...key, label: text || null } : key))
}

async function move(from: number, to: number): Promise<void> {
  if (!page.value || to < 0 || to >= page.value.keys.length) return
  const { name } = faceOf(page.value.keys[from]!)
  if (await change(keys => moved(keys, from, to))) desk.say(t('speedKeys.isKey', { name, n: to + 1 }))
  await nextTick()
  focus(to)
}

function onKey(event: KeyboardEvent, index: number): void {
  const to = { ArrowUp: index - 1, ArrowDown: index + 1, Home: 0, End: (page.value?.keys.length ?? 1) - 1 }[event.key]
  if (to === undefined) return
  event.preventDefault()
  if (event.shiftKey) void move(index, to)
  else focus(to)
}

async function addPage(keys: SpeedKey[] = []): Promise<void> {
  const name = newName.value.trim()
  if (!name) return desk.refuse(t('speedKeys.giveTheNewPageA'))
  if (await speedKeys.addPage(name, newShared.value, keys)) newName.value = ''
}

async function readFile(event: Event): Promise<void> {
  const input = event.target as HTMLInputElement
  const file = input.files?.[0]
  input.value = ''
  if (file && page.value && await speedKeys.readFile(page.value.id, await file.text())) desk.say(t('speedKeys.hasBeenReadFromThe', { name: page.value.name }))
}
</script>

<template>
  <div class="arranged">
    <template v-if="page">
      <KeyText
        :key="page.id"
        :value="page.name"
        :label="t('speedKeys.nameOfThePage')"
        @change="name => speedKeys.change(page!.id, () => ({ name }))"
      />
      <ol
        ref="list"
        :aria-label="t('speedKeys.keysInTheirOrder')"
      >
        <li
          v-for="(key, index) in page.keys"
          :key="`${index} ${key.kind} ${key.of}`"
          v-key-place="{ index, move }"
        >
          <button
            type="button"
            class="handle"
            :aria-label="t('speedKeys.keyOfShiftAndArrows', { name: faceOf(key).name, n: index + 1, count: page.keys.length })"
            :title="t('speedKeys.dragOrShiftAndArrow')"
            @keydown="onKey($event, index)"
          >
            ⠿
          </button>
          <KeyText
            :value="key.label ?? ''"
            :placeholder="faceOf({ ...key, label: null }).name"
            :label="t('speedKeys.labelOf', { name: faceOf({ ...key, label: null }).name })"
            @change="text => label(index, text)"
          />
          <el-button
            size="small"
            text
            :aria-label="t('speedKeys.takeOffThePage', { name: faceOf(key).name })"
            :title="t('speedKeys.takeItOffThePage')"
            @click="change(keys => keys.filter((_, at) => at !== index))"
          >
            ✕
          </el-button>
        </li>
      </ol>
      <p class="button-row">
        <el-button
          size="small"
          :aria-pressed="preferences.pinnedKeys === page.id"
          @click="preferences.set({ pinnedKeys: preferences.pinnedKeys === page.id ? null : page.id })"
        >
          {{ preferences.pinnedKeys === page.id ? t('speedKeys.unpinFromTheFloor') : t('speedKeys.pinToTheFloor') }}
        </el-button>
        <a
          class="el-button el-button--small"
          :href="`/api/key-pages/${page.id}/csv`"
          download
        >{{ t('common.giveOutAsCsv') }}</a>
        <label class="el-button el-button--small file">{{ t('speedKeys.readFromCsv') }}<input
          type="file"
          accept=".csv,text/csv"
          class="unseen"
          @change="readFile"
        ></label>
        <el-button
          size="small"
          @click="speedKeys.removePage(page.id)"
        >
          {{ t('speedKeys.removeThisPage') }}
        </el-button>
      </p>
    </template>
    <form
      class="new"
      @submit.prevent="addPage()"
    >
      <h3>{{ t('speedKeys.aNewPage') }}</h3>
      <el-input
        v-model="newName"
        size="small"
        maxlength="40"
        :placeholder="t('speedKeys.whatItIsAbout')"
        :aria-label="t('speedKeys.nameOfTheNewPage')"
      />
      <el-checkbox
        v-model="newShared"
        :label="t('speedKeys.sharedByAllOperators')"
        size="small"
      />
      <p class="button-row">
        <el-button
          size="small"
          native-type="submit"
        >
          {{ t('speedKeys.addEmpty') }}
        </el-button>
        <el-button
          v-if="page"
          size="small"
          @click="addPage(page.keys)"
        >
          {{ t('speedKeys.addAsACopyOf') }}
        </el-button>
      </p>
    </form>
  </div>
</template>

<style scoped>
.arranged,
.new {
  display: grid;
  gap: var(--space-3);
}

li {
  display: grid;
  grid-template-columns: auto 1fr auto;
  gap: var(--space-2);
  align-items: center;
}

.handle {
  width: 1.75rem;
  height: 1.75rem;
  background: none;
  border: 0;
  color: var(--ink-soft);
  cursor: grab;
}

.file:focus-within {
  outline: 3px solid var(--focus);
}
</style>
